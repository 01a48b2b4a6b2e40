/** What Drive says. */
import { fixed, sumOf } from "./locale";
import { duration, energyPerWay, plainNumber, sentence, toMark, toShown, type UnitChoice, way, withUnit } from "./units";

/** In stages/drive/TryButton.tsx. */
export const tryButton = {
  try: "Try",
};

/** In stages/drive/ChangesSection.tsx. */
export const changesSection = {
  singleChanges: "Single changes",
  eachLineIsThe:
    "Each line is the whole machine computed again with that one change. A watt on a controller's label is not its amp limit.",
  changeOneThingHeads: ["Change one thing", "top speed", "launch", "hill", "ride", "winding", "stops in", "least room left", ""],
};

/** In stages/drive/CourseSection.tsx. */
export const courseSection = {
  shareOfTheTop: "share of the top speed",
  aSpeed: "a speed",
  aThrottle: "a throttle",
  letItRoll: "let it roll",
  ownCourse: "Own course",
  standardRide: "Standard ride",
  courseFileGpxOr: "Course file, GPX or CSV",
  readGpxOrCsv: "Read GPX or CSV",
  sending: (sent: number) => `Sending ${Math.round(100 * sent)} %`,
  reading: "Reading…",
  saveAsCsv: "Save as CSV",
  standardRideRoundAnd:
    "Standard ride: round and round on this ground and slope, 60 m at 80 % of the top speed, a stop, 8 seconds of standing, until something ends it. Every figure of run time, heat, fuse and wire is of this ride. Choose a course where yours is another.",
  riddenRoundAndRound: (segments: number) => `${segments} ${segments === 1 ? "stretch" : "stretches"}, ridden round and round`,
  nameOfTheCourse: "Name of the course",
  length: "Length",
  time: "Time",
  slope: "Slope",
  ground: "Ground",
  asTheSetup: "as the setup",
  pace: "Pace",
  share: "Share",
  speed: "Speed",
  throttle: "Throttle",
  thenStands: "Then stands",
  takeStretchOut: (i: number) => `Take stretch ${i + 1} out`,
  takeOut: "Take out",
  showMoreOf: (shown: number, segments: number, shownTo: number) =>
    `Show ${Math.min(shown, segments - shownTo)} more of ${segments}`,
  oneMoreStretch: "One more stretch",
};

/** In stages/drive/Fields.tsx. */
export const fields = {
  years: "years",
  yes: "yes",
  no: "no",
  one: "one",
  somebody: "somebody",
  throttles: { hall: "three-wire Hall", unknown: "not known" },
  motor: "Motor",
  enterWhatTheLabel:
    "Enter what the label gives; the best known of the speeds counts, and what is measured beats what it suggests.",
  kind: "Kind",
  howMany: "How many",
  twoInParallelHigh: "two, in parallel (high)",
  twoInSeriesLow: "two, in series (low)",
  plateVolts: "Plate volts",
  plateWattsEach: "Plate watts, each",
  ratedSpeed: "Rated speed",
  noLoadSpeed: "No-load speed",
  otherDataKvStall: "Other data: Kv, stall, a reading on the stand, resistance",
  wheelOnTheStand: "Wheel on the stand",
  voltsOnTheStand: "Volts on the stand",
  windingCold: "Winding, cold",
  stallAmpsEach: "Stall amps, each",
  noLoadAmpsEach: "No-load amps, each",
  mostItTurns: "Most it turns",
  motorMassEach: "Motor mass, each",
  efficiencyAtItsPlate: "Efficiency at its plate",
  hasHallSensors: "has Hall sensors",
  onTheStandWheel: (series: boolean) => (
    <>
      On the stand: wheel off the ground, guards on, hands and clothes clear, full throttle, tachometer on the wheel.
      {series && " The volts are those of the packs; each motor sees half."}
    </>
  ),
  speedModes: "Speed modes",
  noneEnteredAMode: "None entered. A mode caps the duty (speed), the current (push), or both.",
  inUse: "in use",
  name: "Name",
  duty: "Duty",
  current: "Current",
  takeModeOut: (name: string) => `Take mode ${name} out`,
  takeOut: "Take out",
  mode: (modes: number) => `mode ${modes + 1}`,
  addAMode: "Add a mode",
  noModeInUse: "No mode in use",
  theRiderCannotChange: "The rider cannot change it",
  theKnobsScaleMeasured: (marks: number) => `The knob's scale: ${marks ? `${marks} measured marks` : "taken as even"}`,
  aMarkIsNo: "A mark is no percentage. Ride at full throttle on the level with about half charge, and note mark and speed.",
  markShareOfThe: "Mark, share of the scale",
  speedThere: "Speed there",
  takeMeasuredMarkOut: (i: number) => `Take measured mark ${i + 1} out`,
  addAMeasuredMark: "Add a measured mark",
  controller: "Controller",
  takeACommonOne: "One of yours, or a common one",
  throttleOfYours: "Throttle or pedal of your rack",
  gearingOfYours: "Gearing of your rack",
  wheelOfYours: "Wheel of your rack",
  nonePedalStraightTo: "none: pedal straight to motor",
  knobModuleBeforeThe: "knob module before the stock pedal",
  labelVolts: "Label volts",
  mostVolts: "Most volts",
  lowCutOff: "Low cut-off",
  bankSideLimit: "Bank-side limit",
  motorSideLimit: "Motor-side limit",
  extraSpeedItStates: "Extra speed it states",
  worksOnlyWithHall: "Works only with Hall sensors",
  readsAThrottle: "Reads a throttle",
  throttleThereIs: "Throttle there is",
  hasBrakeLevers: "Has brake levers",
  brakeLeverHasA: "Brake lever has a sensor",
  brakeCutOffWired: "Brake cut-off wired",
  hasAnInputFor: "Has an input for the lever",
  riderCanReachThe: "Rider can reach the limiter",
  preChargePath: "Pre-charge path",
  pedalSwitchStands: "Pedal switch stands",
  footSwitchWired: "Foot switch wired",
  snapsBackWhenLet: "Snaps back when let go",
  softStartReverseRelease: "Soft start, reverse, release, and where it sits",
  doesBeside: "What the controller does beside",
  throttleDoesBeside: "What the throttle does beside",
  softStart: "Soft start",
  reverseShareOfDuty: "Reverse, share of duty",
  putsBackOnRelease: "Puts back on release",
  itsEfficiency: "Its efficiency",
  drawsAtRest: "Draws at rest",
  lengthWithPlugs: "Length with plugs",
  width: "Width",
  height: "Height",
  heldBy: "Held by",
  waitsUntilItStands: "Waits until it stands before reverse",
  closedInNoAir: "Closed in, no air",
  inTheSpray: "In the spray",
  gearingAndWheel: "Gearing and wheel",
  drive: "Drive",
  motorTeeth: "Motor teeth",
  wheelTeeth: "Wheel teeth",
  chainSizeStamped: "Chain size, stamped",
  ratioIfNotBy: "Ratio, if not by teeth",
  ratio: "Ratio",
  wheelAcross: "Wheel across",
  tyre: "Tyre",
  plasticRubberBand: "plastic, rubber band",
  whatItLosesAnd: "What it loses and what it stands",
  efficiencyOfTheGearing: "Efficiency of the gearing",
  standsAtTheWheel: "Stands at the wheel",
  torqueArmsOnThe: "Torque arms on the axle",
  doesItFitChain: "Does it fit: chain, shaft, mount, line, slack",
  centreToCentre: "Centre to centre",
  links: "Links",
  chainsInnerWidth: "Chain's inner width",
  motorSprocketFor: "Motor sprocket for",
  wheelSprocketFor: "Wheel sprocket for",
  motorsShaft: "Motor's shaft",
  sprocketsBore: "Sprocket's bore",
  motorsBolts: "Motor's bolts",
  boltsOfTheFrame: "Bolts of the frame",
  boltsOfTheWheels: "Bolts of the wheel's sprocket",
  boltsOfTheWheel: "Bolts of the wheel",
  chainIsCovered: "Chain is covered",
  motorMountIsHomemade: "Motor mount is homemade",
  straightEdgeFlatOn: "Straight edge flat on both",
  slackAdjustable: "Slack adjustable",
  onTheOtherSide: "On the other side than before",
  whoElseRidesIt: "Who else rides it",
  whoRidesAlong: "Who rides along",
  whoRidesAlongOn: "Who rides along on it",
  riderAndGround: "Rider and ground",
  age: "Age",
  ridersMass: "Rider's mass",
  speedCap: "Speed cap",
  ground: "Ground",
  steepestSlope: "Steepest slope",
  warmDay: "Warm day",
  packsTemperature: "Packs' temperature",
  standsWhileRiding: "stands while riding",
  inRainOrPuddles: "in rain or puddles, too",
  brake: "Brake",
  braked: "Braked",
  electricBrake: "Electric brake",
  worksHeldOpenBy: "works, held open by power",
  itsCoil: "Its coil",
  anotherParkingBrake: "Another parking brake",
  wantsTheFrontTo: "Wants the front to lift, because",
  whatItRollsAnd: "What it rolls and grips with, and the wind it meets",
  rollingResistance: "Rolling resistance",
  grip: "Grip",
  dragAreaRiderOn: "Drag area, rider on",
  rollingResistanceThePull:
    "Rolling resistance: the pull of a luggage scale that keeps it rolling, over the weight that rolls. Grip: the pull at which blocked wheels begin to slide, over the weight on them.",
  aSpeedCapIs:
    "A speed cap is a starting point. Local rules on where such machines may be ridden and the maker's limits come first.",
};

/** In stages/drive/GearsSection.tsx. */
export const gearsSection = {
  gearsAndModes: "Gears and modes",
  cannot: "cannot",
  ofTheAmps: (wheelieShare: number) => `${Math.round(100 * wheelieShare)} % of the amps`,
  theLaunch: (wheelieMargin: number) => `${fixed(wheelieMargin, 1)} × the launch`,
  never: "never",
  doesNotMove: "does not move",
  gearOrModeHeads: [
    "Gear or mode",
    "top speed",
    "push at rest",
    "stall amps",
    "launch",
    "hill",
    "front lifts at",
    "flat out, end in",
  ],
};

/** In stages/drive/Goal.tsx. */
export const goal = {
  soFast: "so fast",
  soLong: "so long",
  upThatHill: "up that hill",
  whatKindOfGoal: "What kind of goal",
  enterANumberAbove: "Enter a number above zero.",
  whatDoesNotReach: "What does not reach it alone, and why",
  atMost: (why: string) => ` at most; ${why}`,
  whatReachesIt: "What reaches it",
  machineThen: (
    topSpeedMS: number,
    units: UnitChoice,
    runTimeS: number,
    hillGrade: number,
    peakA: number,
    windingStopS: number | null,
    warmC: number,
    breaksFirst: string,
    share: number,
  ) =>
    `${withUnit(topSpeedMS, "speed", units)}, ${duration(runTimeS)}, ${Math.round(100 * hillGrade)} % hill, peak ${plainNumber(peakA, 0)} A, motor ${windingStopS == null ? `${Math.round(toShown(warmC, units.temp))} ${units.temp} at 20 min` : `at its end after ${duration(windingStopS)}`}; ${breaksFirst} first, at ${Math.round(100 * share)} %`,
  costs: (cost: { low: number; high: number | null; planned: number; currency: string }) =>
    cost.high === 0 ? "Nothing to buy" : `To buy: ${sumOf(cost)}${cost.planned ? ", by planning values" : ""}`,
  stopsItThen: (stops: string, units: UnitChoice) => `Stops it then: ${sentence(stops, units)}`,
  aGoal: "A goal",
  itShouldGo: "It should go…",
  goal: "Goal",
  tryingWhatReachesIt: "Trying what reaches it…",
};

/** In stages/drive/HeatSection.tsx. */
export const heatSection = {
  theRideAndFlat: "The ride and flat out",
  solidOnTheCourse: "Solid: on the course. Dashed: full throttle all the time. Thin: the case.",
  windingAndCaseOver: "Winding and case over the ride and flat out",
  minutes: "minutes",
  motor: (units: UnitChoice) => `motor, ${units.temp}`,
  theEnd: (stopC: string) => `${stopC}: the end`,
  warm: "warm",
  afterTheRideStanding: "After the ride, standing",
  coolAgainAfter: (coolS: number, touchS: number) =>
    `Cool again after ${duration(coolS)}${touchS > 0 ? `; a hand can rest on the case after ${duration(touchS)}` : ""}.`,
  windingAndCaseCooling: "Winding and case cooling down",
  minutesOfRest: "minutes of rest",
  winding: "winding",
  case: "case",
  partByPart: "Part by part",
  heatPartByPart: "Heat part by part",
  beyondIt: "beyond it",
  never: "never",
  letGoWhenIt: (stalledToStopS: number | null) =>
    `${stalledToStopS == null ? "Held still at full throttle the winding stays below its end." : `Held still at full throttle the winding is at its end in ${duration(stalledToStopS)}: let go when it does not move.`} The controller's heat is an assumption: 60 K at its amp limit, half as much again closed in.`,
  theSameRideOn: "The same ride on other days",
  itEndsBecause: (endsBy: string) => `It ends because ${endsBy}.`,
  airHeads: ["Air", "winding at the end", "ride", "flat out, its end in"],
  partHeads: ["Part", "limit", "on the course", "flat out", "limit reached in"],
};

/** In stages/drive/Knob.tsx. */
export const knob = {
  knobAtMarkOf: (mark: number) => `Knob at mark ${plainNumber(toMark(mark))} of 10`,
};

/** In stages/drive/LaunchSection.tsx. */
export const launchSection = {
  secondsFromRest: "Seconds from rest",
  secondsFullThrottleFull: "seconds, full throttle, full packs, level",
  speed: (units: UnitChoice) => `speed, ${units.speed}`,
  accelerationMS: "acceleration, m/s²",
  packAmps: "pack amps",
  motorAmps: "motor amps",
  peakFromThePacks: (peakA: string, motorPeakA: string, rmsA: string, slipsUntilS: number | null) => (
    <>
      Peak <b>{peakA}</b> from the packs, {motorPeakA} in the motor; {rmsA} on (RMS) average.{" "}
      {slipsUntilS == null
        ? "The wheels grip all the way."
        : `The wheels spin for ${fixed(slipsUntilS, 1)} s: grip, not the motor, sets the start.`}
    </>
  ),
  frontWheel: "Front wheel",
  theRearWheelDoes: "The rear wheel does not drive it: a launch cannot lift the front.",
  itLiftsAtM: (lifts: number, largestMS2: number, wheelieShare: number | null) =>
    `It lifts at ${fixed(lifts, 1)} m/s²; the launch reaches ${fixed(largestMS2, 1)}. ${wheelieShare == null ? "It stays down at full throttle." : `Below ${Math.round(100 * wheelieShare)} % of the motor amps it stays down.`}`,
  asItIs: "as it is",
  theLaunch: (wheelieMargin: number) => `${fixed(wheelieMargin, 2)} × the launch`,
  rearWheelMovedBackHeads: ["Rear wheel moved back", "lifts at"],
  fromRestToHeads: ["From rest to", "after", "on"],
};

/** In stages/drive/PushPlot.tsx. */
export const pushPlot = {
  holds: {
    grip: "grip holds",
    phase: "motor amps hold",
    battery: "controller amps hold",
    volts: "volts hold",
    source: "sag holds",
    undervoltage: "low cut-off holds",
  },
  topSpeed: (topSpeedMS: number, units: UnitChoice) => `top speed ${withUnit(topSpeedMS, "speed", units)}`,
  pushAgainstSpeedIt: (topSpeedMS: number, units: UnitChoice, holds: string) =>
    `Push against speed: it meets the resistance at ${withUnit(topSpeedMS, "speed", units)}, where ${holds}`,
  onThisGroundFull: (units: UnitChoice) => `${units.speed} on this ground, full charge`,
  newtonsOfPush: "newtons of push",
  levelGround: "level ground",
  slope: (hillGradeAsked: number) => `${Math.round(100 * hillGradeAsked)} % slope`,
  ridersCap: (cap: number) => `\u00a0rider's cap ${fixed(cap, 1)}\u00a0`,
};

/** In stages/drive/LimitsSection.tsx. */
export const limitsSection = {
  itSlips: "it slips",
  itTipsBack: "it tips back",
  uphill: "Uphill",
  heldAtFullPacks: (paceMS: string) => `Held at ${paceMS}, full packs.`,
  steepestItHolds: "Steepest it holds",
  steepestItStartsOn: "Steepest it starts on",
  theMotorWouldHold: "The motor would hold",
  theTyresWouldGrip: "The tyres would grip to",
  itTipsBackFrom: "It tips back from",
  stopping: "Stopping",
  fromTopSpeedS: (reactionS: number) => `From top speed, ${fixed(reactionS, 1)} s to react included.`,
  turning: "Turning",
  onThisGroundSlower: "On this ground; slower in the wet.",
  leans: "leans",
  radiusHeads: ["Radius", "slides at", "tips at"],
  brakeHeads: ["Brake", "slows by", "stops in", "as found"],
  holding: {
    grip: "grip",
    phase: "motor amps",
    battery: "controller amps",
    volts: "volts",
    source: "sag",
    undervoltage: "low cut-off",
  },
};

/** In stages/drive/RidersSection.tsx. */
export const ridersSection = {
  enterARiderBelow: "Enter a rider below, or add riders to the garage: each gets a line here.",
  riders: "Riders",
  overTheMakersWeight: "over the maker's weight",
  aLaunchLiftsThe: "a launch lifts the front",
  entered: "entered",
  countedWith: "counted with",
  countWith: (name: string) => `Count with ${name}`,
  theKnobsScaleIs: (measured: number) => `The knob's scale is fitted to ${measured} measured marks.`,
  theKnobsScaleIsTaken: "The knob's scale is taken as even; measure two marks or more to fit it (under Controller).",
  labelForTheKnob: "Label for the knob",
  fullPacksLevelGround: "full packs, level ground",
  helmetOnPrivateGround: "Helmet on. Private ground; local rules and the maker's limits come first.",
  printTheLabel: "Print the label",
  riderHeads: ["Rider", "mass", "cap", "goes, unlimited", "knob", "mode", ""],
};

/** In stages/drive/RideSection.tsx. */
export const rideSection = {
  time: "time",
  place: "place",
  full: "full",
  words: {
    packs: "warms the packs",
    wires: "warms wires and plugs",
    controller: "stays in the controller",
    winding: "warms the motor's winding",
    "motor drag": "the motor's own drag",
    gears: "stays in the gears",
    "spinning wheels": "spinning wheels",
    rolling: "rolling over the ground",
    air: "pushing air",
    climbing: "climbing",
    brakes: "into the brakes",
    speed: "still in its speed",
  },
  whereTheEnergyGoes: "Where the energy goes",
  sharesOfTheEnergy: (balance: number) =>
    `Shares of what the cells, slopes down and lost speed give; all parts together make ${fixed(100 * balance, 2)} % of it.`,
  givenByTheSlope: "given by the slope",
  partOfTheEnergy: (share: number, energyWh: number) => `${fixed(100 * share, 1)} % · ${plainNumber(energyWh, 1)} Wh`,
  roundsItEndsBecause: (
    course: string,
    runTimeS: number,
    distanceM: number,
    units: UnitChoice,
    rounds: number | null,
    endsBy: string,
    meanMS: number,
    meanA: string,
    whPerKm: number,
    endVoltsV: string,
  ) => (
    <>
      <b>{course}</b>: {duration(runTimeS)}, {way(distanceM, units)}
      {rounds == null ? "" : `, ${plainNumber(rounds, rounds < 10 ? 1 : 0)} rounds`}; it ends because {endsBy}.{" "}
      {withUnit(meanMS, "speed", units)} on average, {meanA}, {energyPerWay(whPerKm, units)}, {endVoltsV} at the end.
    </>
  ),
  eachRoundEndsThan: (higher: number, units: UnitChoice) =>
    `Each round ends ${way(Math.abs(higher), units)} ${higher < 0 ? "lower" : "higher"} than it began, as if there were ever more ${higher < 0 ? "downhill, so the run time comes out too long" : "uphill, so the run time comes out too short"}. Add the way back to the course.`,
  whatIsDrawn: "What is drawn",
  oneRound: "one round",
  theWholeRide: "the whole ride",
  atWhichCharge: "At which charge",
  drawnOver: "Drawn over",
  secondsIntoTheRound: "Seconds into the round",
  placeOnTheCourse: "Place on the course",
  seconds: "seconds",
  speed: (units: UnitChoice) => `speed, ${units.speed}`,
  packAmps: "pack amps",
  voltsAtTheController: "volts at the controller",
  minutesIntoTheRide: "Minutes into the ride",
  minutes: "minutes",
  minutesIn: (v: number) => `${fixed(v, 1)} min`,
  lowestVoltsOfEach: "lowest volts of each round",
  meanAmps: "mean amps",
  winding: (units: UnitChoice) => `winding, ${units.temp}`,
};

/** In stages/drive/SprocketsSection.tsx. */
export const sprocketsSection = {
  choice: "Choice",
  atLaunch: "launch",
  ride: "ride",
  links: "links",
  centre: "centre",
  motorSprocket: "motor sprocket",
  wheelSprocket: "wheel sprocket",
  wheelSize: "wheel size",
  someTeeth: (side: string, motorTeeth: number | null, wheelTeeth: number | null) =>
    `${side === "motor" ? motorTeeth : wheelTeeth} teeth`,
  forEachChoice: (title: string) => `${title} for each choice`,
  wheelAcross: (units: UnitChoice) => `wheel across, ${units.small}`,
  teeth: "teeth",
  whatToChange: "What to change",
  chainSideWheelSize: (chain: string | null, side: string) =>
    `${chain ? `A ${chain} chain.` : side === "wheel size" ? "" : "Enter the chain's size for links and pull."} Torque at one end, top speed at the other: choose by taste.`,
  topSpeedIn: (units: UnitChoice) => `top speed, ${units.speed}`,
  steepestHill: "steepest hill, %",
  launchS: "launch, s",
  sprocketsAndWheels: "Sprockets and wheels",
  topSpeed: "top speed",
  hillAndWhatEnds: "hill and what ends it",
  frontLiftsAt: "front lifts at",
  winding20Min: "winding, 20 min",
  torqueAsFound: "torque, as found",
  cannot: "cannot",
  launch: (wheelieMargin: number) => `${fixed(wheelieMargin, 1)} × launch`,
  with: (c: string) => `With ${c}`,
  atStandstillAndFull: (chainPullN: number) =>
    `At standstill and full throttle the chain pulls ${plainNumber(chainPullN, 0)} N. Links are counted to the next even number; the centre is where the sprockets must then sit.`,
};

/** In stages/drive/SureSection.tsx. */
export const sureSection = {
  topSpeed: "Top speed",
  topSpeedAt20: "Top speed at 20 %",
  launch: "Launch",
  runTime: "Run time",
  distance: "Distance",
  steepestHill: "Steepest hill",
  peakAmps: "Peak amps",
  lowestPackVolts: "Lowest pack volts",
  windingAt20Min: "Winding at 20 min",
  stopsIn: "Stops in",
  frontLiftsTheLaunch: "Front lifts, × the launch",
  tipsInATurn: "Tips in a turn at",
  workingItOut: "Working it out…",
  nineMachinesInTen:
    "Nine machines in ten like this one come out within the range. Measure what is named beside it, and the range narrows.",
  soManyEndSo: (share: number, endsBy: string, lowS: number, highS: number) =>
    `${Math.max(1, Math.round(10 * share))} of 10: ${endsBy}, after ${duration(lowS)} to ${duration(highS)}`,
  manySmallDoubtsTogether: "many small doubts together",
  ofTheDoubt: (name: string, share: number, how: string) => `${name} (${Math.round(100 * share)} % of the doubt): ${how}`,
};

/** In stages/drive/Drive.tsx. */
export const drive = {
  cannot: "cannot",
  away: (margin: number) => `${fixed(margin, 1)} × away`,
  never: "never",
  theRide: "the ride",
  launch: "launch",
  heat: "heat",
  gearsAndModes: "gears and modes",
  hillStopTurn: "hill, stop, turn",
  sprockets: "sprockets",
  insteadOfAPart: "another part",
  taken: (name: string) => `${name} in its place`,
  changeOneThing: "change one thing",
  riders: "riders",
  howSure: "how sure",
  itDoesNotMove: "It does not move yet: see the findings for what keeps it.",
  kitPutIn: (name: string) => `${name} put in`,
  countedWith: (name: string) => `Counted with ${name}`,
  moreAboutDriving: "More about driving",
  drive: "Drive",
  whatPushesWhatHolds: "What pushes, what holds back, and what gets hot.",
  noCap: "no cap",
  cap: (capMS: number, units: UnitChoice) => `cap ${withUnit(capMS, "speed", units)}`,
  pedalStraightToMotor: "Pedal straight to motor: there is no knob to set.",
  limiterMark: "Limiter mark",
  of10: "of 10",
  heldBackBy: (title: string) => `Held back by ${title}`,
  onTheSlope: "On the slope",
  atHalfCharge: "At half charge",
  at20: "At 20 %",
  launchTo90: "Launch to 90 %",
  stopsIn: "Stops in",
  frontLifts: "Front lifts",
  atLaunch: "at launch",
  stalledBurnsIn: "Stalled, burns in",
  steepestHill: "Steepest hill",
  motorControllerAndPacks: "Motor, controller and packs make the push: enter them below and the plot appears.",
  tryingEveryChangeOne: "Trying every change, one at a time…",
  tryingEverySprocket: "Trying every sprocket…",
  workingItOut: "Working it out…",
  course: "Course",
  whereItIsRidden: "Where it is ridden: the run time, the heat and the fuse follow it.",
  rider: "Rider",
};

/** In stages/drive/Instead.tsx. */
export const instead = {
  insteadOf: "Instead of the",
  controller: "controller",
  motor: "motor",
  throttle: "throttle",
  gearing: "gearing",
  wheel: "wheel",
  compareWith: "Compare it with",
  choose: (most: number) => `Choose up to ${most}…`,
  noneToChoose: "Nothing to choose: put one on the rack",
  startOver: "Start over",
  nothingIsChanged: "Choose parts to see what each would change. Nothing is exchanged until you take one.",
  nothingThereYet: "There is none in this setup yet. Choose parts to see what each would make of it.",
  working: "Working it out…",
  sideBySide: "Side by side",
  fits: "adds no stop",
  doesNotFit: "does not fit as it is",
  stops: "What stops the plan with it",
  cleared: (titles: string[]) => `Clears: ${titles.join("; ")}`,
  lost: "Lost:",
  gained: "New:",
  changes: "What changes",
  notSaid: "not said",
  take: "Take this one",
};
