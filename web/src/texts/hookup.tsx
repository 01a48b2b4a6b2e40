/** What Hookup says around its steps; the steps' own words are the core's. */
import { decimals, fixed } from "./locale";
import { countWords, plainNumber, sentence, type UnitChoice } from "./units";

/** In stages/hookup/expects.ts. */
export const expects = {
  noReading: "no reading",
  olOpen: "OL, open",
  over: (low: number | null, unit: string) => `over ${plainNumber(low ?? 0, (low ?? 0) < 10 ? 1 : 0)} ${unit}`,
  under: (high: number, unit: string) => `under ${plainNumber(high)} ${unit}`,
  to: (low: number | null, high: number, unit: string) => `${fixed(low ?? 0, 1)} to ${fixed(high, 1)} ${unit}`,
  overOhms: (low: number | null) => `over ${plainNumber(low ?? 0, 0)} Ω`,
  near0: "near 0 Ω",
};

/** In stages/hookup/BackSection.tsx. */
export const backSection = {
  backToHowIt: "Back to how it was found",
  whatTheWayBackIs:
    "For a rider it is too quick for, or before it is sold. The steps undo only what differs from the machine as found.",
  nothingDiffersThatWould: "Nothing differs that would have to be undone.",
  redTipOnBlack: (redOn: string, blackOn: string, s: string) => `Red tip on ${redOn}, black tip on ${blackOn}: ${s}.`,
  stepDone: (title: string, units: UnitChoice) => `${sentence(title, units)}: done`,
  done: "Done",
  whatCannotBeUndone: "What cannot be undone",
};

/** In stages/hookup/ColoursSection.tsx. */
export const coloursSection = {
  photosOfThisPlug: "Photos of this plug",
  names: {
    throttle: "Throttle",
    brake: "Brake lever",
    key: "Key or lock",
    "foot switch": "Foot switch",
    "speed switch": "Speed switch",
    "reverse switch": "Reverse switch",
    "direction switch": "Forward and reverse switch",
    learning: "Learning plug",
    display: "Display",
    phases: "Motor phases",
    Halls: "Motor Halls",
    motor: "Motor, two leads",
    other: "Another plug",
  },
  whiteWithRed: "white with red",
  whiteWithBlack: "white with black",
  notTried: "not tried",
  yes: "yes",
  no: "no",
  colourOfWire: (label: string, i: number) => `${label}, colour of wire ${i + 1}`,
  colour: "colour",
  whatWireIsFor: (label: string, i: number) => `${label}, what wire ${i + 1} is for`,
  unknown: "unknown",
  more: "more",
  takeWireOut: (label: string, i: number) => `${label}, take wire ${i + 1} out`,
  addAWire: "Add a wire",
  familyAndSize: "Family and size",
  generation: "Generation",
  contacts: "Contacts",
  notLooked: "not looked",
  sides: { controller: "the controller's half", part: "the part's half" },
  toFindWithThe: "To find with the meter",
  contactToFind: (theFunction: string, half: string, among: string, how: string) => (
    <>
      <b>{theFunction}</b> on {half}
      {among ? `, one of ${among}` : ""}: {how}
    </>
  ),
  leftOver: "Left over",
  wireLeftOver: (colour: string, sides: string, theFunction: string, what: string) => (
    <>
      <b>{colour}</b> on {sides}
      {theFunction ? `, ${theFunction}` : ""}. {what}
    </>
  ),
  keepOnTheRack: "Keep on the rack",
  keptAs: (label: string) => `Kept as “${label}”.`,
  coloursDifferFromMaker:
    "Colours differ from maker to maker. Enter what you see on either half, wire by wire, and what each is for as far as you know it. Plugs apart, packs out.",
  takeThePlugOut: (place: string | undefined) => `Take the plug ${place} out`,
  takeOut: "Take out",
  controllersHalf: "Controller's half",
  partsHalf: "Part's half",
  name: "Name",
  whichMotor: "Which motor",
  halvesJoined: "Halves joined",
  doTheyMateAnd: "Do they mate and lock?",
  twistedAndTapedBefore: "Twisted and taped before",
  add: (name: string) => `Add ${name}`,
  fromTheRack: "From the rack",
  chooseAKeptPlug: "Choose a kept plug…",
  tableOfPlugColours: "Table of plug colours, CSV",
  reading: "Reading…",
  readACsvOf: "Read a CSV of colours",
  saveTheColoursAs: "Save the colours as CSV",
};

/** In stages/hookup/Faults.tsx. */
export const faults = {
  theWiringAsPlanned: "The wiring as planned is wrong",
  notEverythingIsJoined: "Not everything is joined yet",
};

/** In stages/hookup/HookupDrawing.tsx. */
export const hookupDrawing = {
  coloursAndTheirLetters: (known: string) =>
    `${known}. New leads are bought in red and black; on old wire the colour proves nothing.`,
  theDrawingCannotBe: "The drawing cannot be laid out in this browser. The steps say all of it.",
  layingTheDrawingOut: "Laying the drawing out…",
  drawingMovedWithThe: "Drawing, moved with the arrow keys, plus and minus enlarge, zero shows the whole",
  drawingAtStep: (title: string) => `Drawing of the hookup, now: ${title}`,
  drawing: "Drawing of the hookup",
  followTheStep: "Follow the step",
  whole: "Whole",
  enlargeTheDrawing: "Enlarge the drawing",
  makeTheDrawingSmaller: "Make the drawing smaller",
  large: "Large",
  saveAsSvg: "Save as SVG",
  printIt: "Print it",
};

/** In stages/hookup/SmallWires.tsx. */
export const smallWires = {
  none: "none",
  aKeyOrLock: "A key or lock",
  aSwitchForThe: "A switch for the speed modes",
  aSwitchForReverse: "A switch for reverse alone",
  aDisplayOrCharge: "A display or charge indicator",
  aLearningPlug: "A learning plug",
  aChargeSocketOn: "A charge socket on the machine",
  aCover: "a cover",
  aSealAgainstWater: "a seal against water",
  aNewCableEntry: "a new cable entry",
  forwardNeutralAndReverse: "Forward, neutral and reverse switch",
  atTheController: "at the controller",
  inTheMotorLeads: "in the motor leads",
  joinedTheWheelStarts: (
    <>
      <b>Joined, the wheel starts at once and without throttle.</b> Wheel free, hands clear. Let it learn, unplug, wait until it
      stands. If it learned the wrong direction, plug in and out once more. Never ride with it joined.
    </>
  ),
  besidesTheirJob: "What the replaced parts did besides",
  doesNow: "Which of these something in this setup does now",
  settingsInsideTheController: "Settings inside the controller were changed, by an app, a cable or a display",
  versionBefore: "Version before",
  settingsBeforeAreNoted: "Settings before are noted",
  theOldFileAnd: "The old file and its tool are kept",
  cablesThroughATube: "Cables through a tube or stem",
  cable: (i: number) => `Cable ${i + 1}`,
  whereItRuns: "Where it runs",
  conductors: "Conductors",
  copperOfEach: "Copper of each",
  takeCableOut: (i: number) => `Take cable ${i + 1} out`,
  takeOut: "Take out",
  itCarriesTheWires: "It carries the wires of",
  wiresConductors: (needs: number, has: number) => `${needs} wires, ${has} conductors`,
  throughTheStem: "Through the stem",
  addACable: "Add a cable",
  noteEachCoverBefore:
    "Note each cover before it comes off: how many screws, what turns them, where they wait. Take a photo of the wires first.",
  what: "What",
  itIs: "It is",
  screwsOrClips: "Screws or clips",
  turnedBy: "Turned by",
  keptIn: "Kept in",
  plugsToUnclip: "Plugs to unclip",
  photoIs: "Photo is",
  closedAgain: "Closed again",
  takeNamedOut: (label: string) => `Take ${label} out`,
  cover: "Cover",
  lidWithAGasket: "Lid with a gasket",
  cableEntry: "Cable entry",
  add: (words: string) => `Add ${words}`,
};

/** In stages/hookup/LogicSection.tsx. */
export const logicSection = {
  do: { insulate: "Insulate", join: "Join", leave: "Leave" },
  whatEachControlDoes: "What each control does",
  plugsAndLooseWires: "Plugs and loose wires the controller's harness has",
  plugsNothingHangsOn: "Plugs nothing hangs on",
};

/** In stages/hookup/MeterSection.tsx. */
export const meterSection = {
  packsIn: "Packs in",
  rowFusesIn: "Row fuses in",
  mainFuseIn: "Main fuse in",
  cutOffOn: "Cut-off on",
  keyOn: "Key on",
  brakePulled: "Brake pulled",
  footSwitchStoodOn: "Foot switch stood on",
  pedalPressed: "Pedal pressed",
  accessoriesOn: "Accessories on",
  accessoryFusesIn: "Accessory fuses in",
  learningPlugJoined: "Learning plug joined",
  redTipOn: "Red tip on",
  blackTipOn: "Black tip on",
  theMachineNow: "The machine now",
  inOne: (value: string | undefined) => <>{value} in</>,
  throttleFull: "Throttle full",
  direction: "Direction",
  speedSwitch: (value: string | undefined) => <>Speed switch: {value}</>,
  turnTheWheelA: (turn: number) => `Turn the wheel a little (${turn + 1} of 6)`,
  withThePacksIn: "With the packs in, the meter on volts shows",
  withThePacksOut: "With the packs out, the meter on ohms shows",
  betweenAndVFor: (low: number, high: number) =>
    `Between ${plainNumber(low)} and ${plainNumber(high)} V, for packs from nearly empty to full.`,
  aContinuityTesterBeeps: "A continuity tester beeps.",
  neverMeasureOhmsWith: "Never measure ohms with a pack in.",
  wireToGround: ["no wire to ground", "first wire to ground", "second wire to ground"],
};

/** In stages/hookup/OrdersSection.tsx. */
export const ordersSection = {
  runsSmoothlyForward: "Runs smoothly, forward",
  runsSmoothlyBackward: "Runs smoothly, backward",
  turnsButWeaklyOr: "Turns, but weakly or loudly, many amps",
  twitchesGrowlsOrLocks: "Twitches, growls or locks",
  staysDead: "Stays dead",
  someMotor: (side: string) => `${side} motor`,
  phasesAndHalls: "Phases and Halls",
  withTheOtherOnes: "with the other one's phases apart",
  motorOfSide: (side: string) => `${side === "left" ? "Left" : "Right"} motor`,
  letterTheControllersThree:
    "Letter the controller's three thick leads and its three thin Hall wires A, B, C, and the motor's likewise: equal colours, equal letters. 5 V and ground of the Hall plug are found first, with the meter, and stay.",
  foundLeaveItSo: "Found: leave it so",
  somethingDoesNotFit: "Something does not fit",
  joinItSoTry: (tries: number) => `Join it so, try ${tries + 1}`,
  orderToJoin: "Order to join",
  of6OrdersLeft: (left: number, chance: number, most: number) =>
    `${left} of 6 orders left; this one with ${plainNumber(100 * chance, 0)} %. At most ${most} tries in all.`,
  wheelOffTheGround: (smoothA: number, stopA: number) =>
    `Wheel off the ground, hands and cloth clear, lowest mode. Open the throttle a little, two seconds at most. Smooth is about ${plainNumber(smoothA, 1)} A; over ${plainNumber(stopA, 1)} A let go at once. Power off before a wire moves.`,
  whatDidTheWheel: "What did the wheel do?",
  aWheelThatStays:
    "A wheel that stays dead says nothing about the order: check the key, the brake lever and 5 V at the Hall plug, then try it again.",
  tried: "Tried",
  phasesHalls: (phases: string, halls: string, outcomes: string | undefined) => (
    <>
      phases {phases}, Halls {halls}: {outcomes}
    </>
  ),
  takeBackTry: (i: number) => `Take back try ${i + 1}`,
  controllerToMotorHeads: ["controller to motor", "", "", ""],
  phaseLeads: "phase leads",
  hallWires: "Hall wires",
};

/** In stages/hookup/StepCard.tsx. */
export const stepCard = {
  first: "First:",
  likeliestFirst: "Likeliest first",
  thenMeasure: "Then measure:",
  tools: "Tools",
  joint: "Joint",
  heldAndDry: "Held and dry",
  step: (theNumber: number) => `Step ${theNumber}`,
  changedSinceItWas: "Changed since it was done: do it once more.",
  thisStepCameWith: "This step came with a newer version, after you had done all the others. Do it when the tools are out next.",
  redTipOnBlack: (redOn: string, blackOn: string, note: string | undefined) => (
    <>
      Red tip on <b>{redOn}</b>, black tip on <b>{blackOn}</b>. {note}
    </>
  ),
  shouldRead: "should read",
  youRead: "you read",
  ol: "OL",
  enterANumberSuch: decimals("Enter a number such as 20.4, or OL for open."),
  locked: "Locked",
  measureAgain: "Measure again",
  doneAgain: "Done again",
  tickStep: (theNumber: number) => `Tick step ${theNumber}`,
  next: "Next",
};

/** In stages/hookup/StepList.tsx. */
export const stepList = {
  steps: "Steps",
  changedSinceOnceMore: "changed since: once more",
  lockedUntilAllBefore: "locked until all before it is closed",
  ol: "OL",
  takeBackStep: (i: number) => `Take back step ${i + 1}`,
};

/** In stages/hookup/TouchedReading.tsx. */
export const touchedReading = {
  isOn: (word: string, on: boolean) => `${word} ${on ? "on" : "off"}`,
  cutOff: "cut-off",
  key: "key",
  packsOut: "packs out",
  packsAndMainFuse: "packs and main fuse in",
  packsInMainFuse: "packs in, main fuse out",
  redTipIsSet: "Red tip is set. Touch a second point for the black one.",
  to: (low: number, high: number) => `(${plainNumber(low)} to ${plainNumber(high)})`,
  redOnBlackOn: (redOn: string, blackOn: string) => (
    <>
      Red on <b>{redOn}</b>, black on <b>{blackOn}</b>:
    </>
  ),
  with: (doc: string) => `With ${doc}.`,
  changeThat: "Change that",
  takeTheTipsOff: "Take the tips off",
};

/** In stages/hookup/WiresSection.tsx. */
export const wiresSection = {
  allWires: "All wires",
  fromColourToColour: (startColour: string, endColour: string) => `${startColour} to ${endColour}`,
  saveTheWireList: "Save the wire list as CSV",
  fromHeads: ["From", "To", "For", "Colour", "Wire", "One way", "Ends"],
};

/** In stages/hookup/Hookup.tsx. */
export const hookup = {
  photosOfThisStep: "Photos of this step",
  meterAnywhere: "meter anywhere",
  whichColourIsWhich: "which colour is which",
  phasesAndHalls: "phases and Halls",
  smallWires: "small wires",
  allWires: "all wires",
  controls: "controls",
  coversAndSeals: "covers and seals",
  wayBack: "way back",
  stepOf: (step: number, build: string, setup: string, open: boolean, value: number | null) =>
    `Step ${step + 1} of ${build}, ${setup}: ${open ? "OL" : (value ?? "done")}`,
  hookup: "Hookup",
  whichWireGoesWhere: "Which wire goes where, in which order.",
  chooseThePacksFirst: "Choose the packs first: the steps are made from the setup.",
  fromTheControlsAnd: "From the controls and the wheel back to the packs, main fuse last.",
  ofChecked: (size: number, steps: number) => `${size} of ${steps} checked`,
  theStepsFollowYour: "The steps follow your last change; they can be ticked once it is saved.",
  open: (open: number | undefined, power: boolean | undefined) =>
    `${countWords(open ?? 0, "thing")} open: ${power ? "it may be powered, not ridden yet" : "no power yet"}`,
  moreOfTheHookup: "More of the hookup",
};
