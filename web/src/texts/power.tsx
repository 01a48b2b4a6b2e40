/** What Power says. */
import { decimals, fixed } from "./locale";
import { duration, plainNumber, type UnitChoice, withUnit } from "./units";

/** In stages/power/BayFit.tsx. */
export const bayFit = {
  answers: {
    fits: "They fit, with padding around and room for their connectors.",
    "too big": "They do not fit: a pack, or all together, are larger than the bay.",
    "no way found": "No way was found to lay them in, though their volume would do.",
    "sizes not known": "Enter the packs' sides to see whether they fit.",
  },
  bayAlong: "Bay, along",
  across: "across",
  high: "high",
  padding: "Padding",
  forConnectors: "For connectors",
  middleAheadOfRear: "Middle ahead of rear axle",
  floorAboveGround: "Floor above ground",
  enterTheBaysInside: "Enter the bay's inside measures",
  chooseTheKindOf: "Choose the kind of machine in Survey first.",
  firstPackLong: "First pack, long",
  wide: "wide",
  weighs: "weighs",
  allPacksAreThis: "All packs are this size",
  enterThePacksSides: "Enter the packs' sides",
  heldBy: "Held by",
  theyLeanAgainst: "They lean against",
  aPlasticWall: "a plastic wall",
  cushioned: "cushioned",
  spreaderPlates: "spreader plates",
  homemadeMount: "homemade mount",
  thePacksWeighAbove: (
    massKg: number | null | undefined,
    units: UnitChoice,
    heightM: number | null | undefined,
    aheadOfRearM: number | null | undefined,
  ) => (
    <>
      The packs weigh <b>{withUnit(massKg ?? 0, "mass", units)}</b>
      {heightM != null && `, their weight sits ${withUnit(heightM, "small", units)} above the ground`}
      {aheadOfRearM != null && ` and ${withUnit(aheadOfRearM, "small", units)} ahead of the rear axle`}.
    </>
  ),
  fromAbove: "from above",
  fromTheSide: "from the side",
  packsLaidIntoThe: (boxes: number, names: number) => `Packs laid into the bay, ${boxes} of ${names} placed`,
  whereTheirWeightSits: "where their weight sits",
};

/** In stages/power/BenchDrawing.tsx. */
export const benchDrawing = {
  sticker: (letter: string) => `sticker ${letter}`,
  ofVoltsAmpHours: (count: number, series: number, volts: number, together: number) =>
    `${count} ${count === 1 ? "row" : "rows"} of ${series} ${series === 1 ? "pack" : "packs in series"}: ${plainNumber(volts)} volts, ${plainNumber(together)} amp-hours`,
  inARowMore: "in a row: more volts",
  sideBySideMore: "side by side: more amp-hours and amps",
  oneMoreRowSide: "One more row side by side",
  oneMoreRow: "one more row",
  ah: (oneMoreRowAh: number | undefined) => `${plainNumber(oneMoreRowAh ?? 0)} Ah`,
  oneMoreInSeries: "One more in series",
  oneMoreInSeriesV: (nominalV: number) => `One more in series: ${plainNumber(nominalV)} V`,
  controllerStandsVFull: (controllerV: number | null, fullV: number) =>
    `controller stands ${plainNumber(controllerV ?? 0)} V, full is ${plainNumber(fullV)}`,
  withinWhatTheController: "within what the controller stands",
  checkMotorAndSwitch: "check motor and switch first",
};

/** In stages/power/Board.tsx. */
export const board = {
  movedByCarrying: (name: string, to: string) => `${name} moved to row ${to}`,
  movedInItsRow: (name: string) => `${name} moved in its row`,
  movedByKey: (rows: string, row: string) => `${rows} moved to row ${row}`,
  row: (r: string) => `Row ${r}`,
  copyRow: (r: string) => `Copy row ${r}`,
  copy: "copy",
  takeRowOut: (r: string) => `Take row ${r} out`,
  packArrowKeysMove: (rows: string, label: string) => `Pack ${rows}: ${label}. Arrow keys move it`,
  ah: (pack: number | undefined, cellsInSeries: number, chemistry: string | undefined) => (
    <>
      {plainNumber(pack ?? 0)} Ah · {cellsInSeries} {chemistry}
    </>
  ),
  charged: (charge: number) => `${Math.round(100 * charge)} % charged`,
  restsAtV: (volts: number) => `rests at ${plainNumber(volts)} V`,
  countedAsFull: "counted as full",
  oneMorePackIn: (r: string) => `One more pack in row ${r}`,
  inSeries: "+ in series",
  dropHereForA: "drop here for a new row",
};

/** In stages/power/Deep.tsx. */
export const deep = {
  noAmpsFlowAt: "No amps flow at cruise yet: enter motor and machine, or see the findings for what keeps it from moving.",
  whereItStarts: "Where it starts",
  fromFull: "from full",
  asTheyAreNow: "as they are now",
  ampsOfEachRow: (secondsS: number, endsBy: string) =>
    `Amps of each row over ${Math.round(secondsS)} minutes of cruise, which ends by ${endsBy}`,
  minutesAtA: (ampsA: number) => `minutes at ${plainNumber(ampsA, 1)} A`,
  ampsOfARow: "amps of a row",
  allRowsAlike: "all rows alike",
  rowA: "row A",
  row: (i: string) => `row ${i}`,
  packEndsIt: (rows: string, endsBy: string) => (
    <>
      Pack <b>{rows}</b> ends it {endsBy === "empty" ? "by being empty" : "by its own low cut-off"}
    </>
  ),
  theLowVoltGuard: "The low-volt guard ends it",
  afterAhStayUnused: (secondsS: number, unused: number) => (
    <>
      after <b>{duration(secondsS)}</b>; {plainNumber(unused, 2)} Ah stay unused.
    </>
  ),
  unused: (unusedAh: number) => `${plainNumber(unusedAh, 2)} Ah`,
  enterWhatEachPack: "Enter what each pack rests at, or its charge: then what flows at joining is known.",
  and: (high: string, low: string) => `${high} and ${low}`,
  ampsFromRowInto: (high: string, low: string, firstA: number) =>
    `Amps from row ${high} into row ${low} after joining: ${plainNumber(firstA, 1)} at first`,
  minutesAfterJoining: "minutes after joining",
  ampsIntoRow: (low: string) => `amps into row ${low}`,
  itStandsA: (allowedA: number) => `it stands ${plainNumber(allowedA, 1)} A`,
  rowsRestAtAnd: (
    names: string,
    highV: number,
    lowV: number,
    firstA: number,
    bad: boolean,
    safeAfterS: number,
    withinV: number,
  ) => (
    <>
      {" "}
      Rows {names} rest at {fixed(highV, 1)} and {fixed(lowV, 1)} V: joined now, <b>{plainNumber(firstA, 1)} A</b> flow
      {bad ? `, more than it stands for ${duration(safeAfterS)}.` : "; it may be charged with that."} Charge both to within{" "}
      <b>{fixed(withinV, 2)} V</b> before joining.
    </>
  ),
  into: (high: string, low: string) => `${high} into ${low}`,
  riddenWithEmptySlots: "Ridden with empty slots?",
  neverAllSlotsFilled: "never: all slots filled",
  oneRowMayBe: "one row may be out",
  anyAsLongAs: "any, as long as one is in",
  aSmallPackTo: "A small pack to get home on",
  none: "none",
  noHomePack: "No home pack",
  notPlanned: "(not planned)",
  allRowsTogetherRun: (togetherS: number, togetherSagV: number, changes: number, swappedS: number, swappedSagV: number) => (
    <>
      All rows together run <b>{duration(togetherS)}</b> and sag {fixed(togetherSagV, 1)} V at the hardest pull. Used one after
      the other, with {changes} {changes === 1 ? "change" : "changes"}, they run <b>{duration(swappedS)}</b> in all and sag{" "}
      {fixed(swappedSagV, 1)} V.
    </>
  ),
  capacity: (capacityAh: number) => `${plainNumber(capacityAh, 1)} Ah`,
  enterMotorAndMachine: "Enter motor and machine: then the volts at cruise are known.",
  forTheHandlebar: "For the handlebar",
  voltsAtThePacks: (cruiseA: number | null | undefined) =>
    `Volts at the packs, at rest and cruising with ${plainNumber(cruiseA ?? 0, 1)} A.`,
  printForTheHandlebar: "Print for the handlebar",
  whereToSetThe: "Where to set the guard",
  tooLowSpoilsCells: "Too low spoils cells; too high wastes charge. Unloaded, the volts come back.",
  setPointHeads: ["Set point", "a cell", "left, cruising", "left, full pull", "comes back to"],
  chargeHeads: ["Charge", "at rest", "cruising"],
  packsAtHeads: ["Packs at", "give", "inner resistance", "sag at the peak"],
  slotsHeads: ["Slots", "volts", "peak", "steady", "worst row", "top speed", "run time", "sag"],
  rowsHeads: ["Rows", "apart", "at first", "settled"],
  packHeads: ["Pack", "starts", "ends", "unused"],
};

/** In stages/power/Measure.tsx. */
export const measure = {
  resistance: "resistance",
  capacity: "capacity",
  voltsAtRest: "Volts at rest",
  voltsUnderTheLoad: "Volts under the load",
  ampsOfTheLoad: "Amps of the load",
  thePacksTemperature: "The pack's temperature",
  steadyAmps: "Steady amps",
  minutes: "Minutes",
  chargeAtTheStart: "Charge at the start",
  chargeLeft: "Charge left",
  ah: (value: number) => `${plainNumber(value, 2)} Ah`,
  whatToMeasure: "What to measure",
  workItOut: "Work it out",
  packGoodToAbout: (name: string, shown: string | undefined, ofResistance: boolean, spread: number) => (
    <>
      Pack {name}: <b>{shown}</b>
      {ofResistance ? " at 25 °C and half charge" : " rated"}, good to about {Math.round(100 * spread)} %.
    </>
  ),
  useItAsMeasured: "Use it as measured",
  thisMustBeA: decimals("This must be a number, such as 12.5"),
  stepsFor: {
    resistance: [
      "Let the pack rest for ten minutes off any load and charger; read its volts.",
      "Put a known load on it: a lamp, or the motor on the stand with a clamp meter round the lead. Read amps and volts after ten seconds.",
      "Take the load off.",
    ],
    capacity: [
      "Charge the pack full and let it rest.",
      "Draw steady amps from it, a lamp of about a tenth of its amp-hours, and note the time.",
      "Stop at its low cut-off, or sooner and say how much is left. Stay with it all the time.",
    ],
  },
};

/** In stages/power/PackFields.tsx. */
export const packFields = {
  name: "Name",
  chemistry: "Chemistry",
  cellsInSeries: "Cells in series",
  cellsMadeFor: "Cells made for",
  powerAsInTools: "power, as in tools",
  rangeAsInScooters: "range, as in scooters",
  capacity: "Capacity",
  chargeNow: "Charge now",
  restingVoltsNow: "Resting volts now",
  age: "Age",
  notKnown: "not known",
  itsTemperature: "Its temperature",
  resistance: "Resistance",
  steadyAmps: "Steady amps",
  ampsFor10S: "Amps for 10 s",
  switchesOffAt: "Switches off at",
  after: "after",
  ownLowCutOff: "Own low cut-off",
  chargeLimit: "Charge limit",
  peukertExponent: "Peukert exponent",
  madeBy: "Made by",
  aToolsPack: "a tool's pack",
  weldedAtHome: "welded at home",
  boardOfItsOwn: "Board of its own",
  itsBoardStands: "Its board stands",
  opensAShortAt: "Opens a short at",
  whatHappenedToIt: "What happened to it",
  gotWet: "got wet",
  theToolGuardsIt: "the tool guards it",
  itsBoardGuardsCharging: "its board guards charging only",
  hasItsOwnCharger: "has its own charger",
  aLinkCanBypass: "a link can bypass it",
  itsAdapter: "Its adapter",
  sitsInAn: "Sits in an",
  itsElectronics: "Its electronics",
  hasNone: "has none",
  stillInPlace: "still in place",
  stands: "Stands",
  oneContact: "One contact",
  plusAndMinusMeasured: "plus and minus measured again",
  enterItsLeads: "Enter its leads",
  noAdapter: "No adapter",
  itSitsInAn: "It sits in an adapter or dock",
};

/** In stages/power/SagPlot.tsx. */
export const sagPlot = {
  voltsFallFromAt: (y: number, half: number, peakA: number) =>
    `Volts fall from ${plainNumber(y)} at rest to ${plainNumber(half)} at ${plainNumber(peakA)} amps, half charged`,
  ampsDrawnFromThe: "amps drawn from the packs",
  voltsAtThePacks: "volts at the packs",
  cruiseA: (cruiseA: number) => `cruise ${plainNumber(cruiseA)} A`,
  full: "full",
  emptyV: (emptyV: number | undefined) => `empty ${plainNumber(emptyV ?? 0)} V`,
  packsStandASteady: (stands: number) => `packs stand ${plainNumber(stands)} A steady`,
};

/** In stages/power/Stepper.tsx. */
export const stepper = {
  oneLess: (label: string) => `${label}: one less`,
  oneMore: (label: string) => `${label}: one more`,
};

/** In stages/power/VoltWindow.tsx. */
export const voltWindow = {
  windowFromEmptyTo: (emptyV: number, fullV: number, most: number | undefined) =>
    `Window from ${plainNumber(emptyV)} empty to ${plainNumber(fullV)} volts full${most ? `; the controller stands ${plainNumber(most)} volts` : ""}`,
  controllerRunsToV: (low: number, most: number) => `controller runs ${plainNumber(low)} to ${plainNumber(most)} V`,
  controllerStandsV: (most: number) => `controller stands ${plainNumber(most)} V`,
  nominal: (nominalV: number) => `${plainNumber(nominalV)} nominal`,
  full: (fullV: number) => `${plainNumber(fullV)} full`,
  stock: (stock: number) => `▲ stock ${plainNumber(stock)}`,
};

/** In stages/power/Power.tsx. */
export const power = {
  howRowsShare: "how rows share",
  joining: "joining",
  slotsAndSwaps: "slots and swaps",
  meterAndGuard: "meter and guard",
  inTheCold: "in the cold",
  bayAndHolding: "bay and holding",
  measureAPack: "measure a pack",
  power: "Power",
  whichPacksHowMany: "Which packs, how many, and how they are joined.",
  pack: "Pack",
  chooseAPack: "Choose a pack…",
  sideBySide: "Side by side",
  moreRunTime: "more run time",
  inSeries: "In series",
  moreVolts: "more volts",
  thisBankMixesUnlike:
    "This bank mixes unlike packs. It is computed as it is; change its packs below, or choose one pack above to start anew.",
  chargePacksToThe: "Charge packs to the same volts before you join them side by side.",
  chooseThePacksOn: "Choose the packs on your shelf: volts, amps and speed follow at once.",
  volts: "Volts",
  fullEmpty: (fullV: number, emptyV: number) => `full ${plainNumber(fullV)} · empty ${plainNumber(emptyV)}`,
  capacity: "Capacity",
  energy: "Energy",
  tenSeconds: "Ten seconds",
  statedOnNoPack: "stated on no pack",
  atMostStated: "at most: not stated on every pack",
  innerResistance: "Inner resistance",
  voltageWindow: "Voltage window",
  fullChargeCountsNot: "Full charge counts, not the number on the label.",
  sagVoltsFallAs: "Sag: volts fall as amps rise",
  theHardestPullCosts: (sagV: number) => `The hardest pull costs ${fixed(sagV, 1)} V inside the packs.`,
  rowsAndPacksOne: "Rows and packs, one by one",
  dragAPack:
    "Drag a pack to another row (rest a finger on it first), or move it with the arrow keys. Choose one to see its numbers.",
  packInNumbers: (rows: string) => `Pack ${rows} in numbers`,
  whatIChangeHere: "what I change here changes in every pack, but for its charge and volts of the moment",
  packIsAnother: (rows: string) => `Pack ${rows} is another`,
  moveItTo: "Move it to",
  row: (r: string) => `row ${r}`,
  aNewRow: "a new row",
  takeItOut: "Take it out",
  moreAboutThesePacks: "More about these packs",
  workingItOut: "Working it out…",
};
