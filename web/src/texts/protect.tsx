/** What Protect says. */
import { fixed } from "./locale";
import { duration, plainNumber, sentence, type UnitChoice, withUnit } from "./units";

/** In stages/protect/Accessories.tsx. */
export const accessories = {
  converterOfTheList: "Converter of yours, or a common one",
  lamps: "Lamps",
  whatItIs: "What it is",
  draws: "Draws",
  takenFrom: "Taken from",
  comesBackBy: "Comes back by",
  itsOwnLead: "its own lead",
  theFrame: "the frame",
  itIs: "It is",
  aLamp: "a lamp",
  aHorn: "a horn",
  aSoundBox: "a sound box",
  somethingElse: "something else",
  switchedBy: "Switched by",
  theCutOffAlone: "the cut-off alone",
  aSwitch: "a switch",
  aPushButton: "a push button",
  madeFor: "Made for",
  alwaysOn: "always on",
  giveItAFuse: "Give it a fuse",
  noFuse: "No fuse",
  enterItsLead: "Enter its lead",
  noLead: "No lead",
  behindAConverter: "Behind a converter",
  noConverter: "No converter",
  takeItOut: "Take it out",
  converterFrom: "Converter from",
  upTo: "up to",
  gives: "gives",
  atMost: "at most",
  drawsIdle: "draws idle",
  efficiency: "Efficiency",
  itsTwoMinusAre: "Its two minus are apart",
  addAnAccessory: "Add an accessory",
};

/** In stages/protect/Conditions.tsx. */
export const conditions = {
  carriesTheRide: "Carries the ride",
  used: (continuousOverLimit: number) => `${Math.round(100 * continuousOverLimit)} % used`,
  outlastsLaunches: "Outlasts launches",
  of50: (nuisanceSum: number) => `${Math.round(100 * Math.min(nuisanceSum, 99))} of 50 %`,
  sparesTheWire: "Spares the wire",
  standsA: (deratedAmpacityA: number) => `stands ${plainNumber(deratedAmpacityA, 0)} A`,
  wireOutlastsAShort: "Wire outlasts a short",
  breaksAShort: "Breaks a short",
  opensOnACold: "Opens on a cold day",
  standsTheVolts: "Stands the volts",
  lostInTheLead: "Lost in the lead",
};

/** In stages/protect/GuardPlot.tsx. */
export const guardPlot = {
  voltsAtTheController: (runTimeS: number, endsBy: string, left: number) =>
    `Volts at the controller over the ride, which ends after ${duration(runTimeS)} because ${endsBy}, with ${Math.round(100 * left)} percent left`,
  chargeLeft: "charge left, %",
  voltsAtCruise: "volts at cruise",
  guardV: (level: number) => `guard ${plainNumber(level)} V`,
  endsByUnused: (endsBy: string, left: number) => `ends by ${endsBy}, ${Math.round(100 * left)} % unused`,
};

/** In stages/protect/Matrix.tsx. */
export const matrix = {
  tooSmall: "too small",
  itCannotCarryThe: "it cannot carry the ride for good",
  itDoesNotCarry: "it does not carry the controller's limit on a long climb",
  mayBlow: "may blow",
  tenLaunchesMayOpen: "ten launches may open it",
  tooThin: "too thin",
  theWireIsToo: "the wire is too hot before it opens",
  tooLarge: "too large",
  itIsLargerThan: "it is larger than a plug, switch or holder behind it",
  cantBreak: "can't break",
  aDeadShortIs: "a dead short is more than it can break",
  aShortDamagesThe: "a short damages the wire before it opens",
  staysShut: "stays shut",
  onAColdDay: "on a cold day a weak short would not open it",
  wouldArc: "would arc",
  itsDcVoltsAre: "its DC volts are under full charge",
  losesVolts: "loses volts",
  over10OfThe: "over 10 % of the volts are lost in the lead",
  wrongOrder: "wrong order",
  aRowsOwnFuse: "a row's own fuse opens before it",
  theWireDoesNot: "the wire does not stand the ride's amps",
  eachCellSaysWhat: "Each cell says what is wrong with that fuse on that wire. Choose one to see what it changes.",
  fuse: "Fuse",
  fitsEveryCondition: "fits every condition",
  best: "best",
  fits: "fits",
  onlyThoseNearThe: "Only those near the best",
  everyGaugeAsIn: "Every gauge, as in your drawer",
};

/** In stages/protect/Plugs.tsx. */
export const plugs = {
  plugOfYours: "Plug of your rack",
  plug: (i: number) => `Plug ${i + 1}`,
  where: "Where",
  fromThePacks: "from the packs",
  toTheMotor: "to the motor",
  contactsPassed: "Contacts passed",
  stands: "Stands",
  dcVolts: "DC volts",
  brownedOrMelted: "browned or melted",
  bareLivePins: "bare live pins",
  takeItOut: "Take it out",
};

/** In stages/protect/RunFields.tsx. */
export const runFields = {
  theseRowsAreAlike: "These rows are alike: what you change here changes in each.",
  aPlugInEach: "A plug in each row",
  aPlugInThis: "A plug in this row",
};

/** In stages/protect/RunTree.tsx. */
export const runTree = {
  behind: (fuse: string) => `behind ${fuse}`,
  tooHot: "too hot",
  leadsFromThePacks: "Leads from the packs outward",
  noFuse: "no fuse",
  ofA: (askedA: number, standsA: number) => `${plainNumber(askedA, 1)} of ${plainNumber(standsA, 0)} A`,
  fits: "fits",
  neverSettles: "never settles",
  underAItLoses: (askedA: number, dropV: number, lossW: number, steadyC: string, climbing: string, insulation: string) => (
    <>
      Under {plainNumber(askedA, 1)} A it loses <b>{plainNumber(dropV, 2)} V</b> and {plainNumber(lossW, 1)} W; copper settles at{" "}
      <b>{steadyC}</b>
      {climbing && `, on a long climb at ${climbing}`}. Its insulation stands {insulation}.
    </>
  ),
  insteadVSavedFaster: (size: string, savedV: number, speed: number, units: UnitChoice, steadyC: string) =>
    `${size} instead: ${plainNumber(savedV, 2)} V saved, ${Math.abs(speed) < 0.05 ? "no speed worth a word" : `${fixed(speed, 1)} ${units.speed} faster`}, copper at ${steadyC}.`,
  better: (best: string, units: UnitChoice) => (
    <>
      Better: <b>{sentence(best, units)}</b>.
    </>
  ),
};

/** In stages/protect/Switches.tsx. */
export const switches = {
  chooseOne: "Of the list, or your rack…",
  kind: "Kind",
  cutOff: "Cut-off",
  addACutOff: "Add a cut-off",
  keyThatCarriesThe: "Key that carries the current",
  addAKeyThat: "Add a key that carries the current",
  contactorOrRelay: "Contactor or relay",
  addAContactorOr: "Add a contactor or relay",
  pedalSwitch: "Pedal switch",
  addAPedalSwitch: "Add a pedal switch",
  plugToPull: "plug to pull",
  breaks: "Breaks",
  atDcVolts: "At DC volts",
  sitsIn: "Sits in",
  whoReachesIt: "Who reaches it",
  theRider: "the rider",
  anAdultBesideIt: "an adult beside it",
  nobodyUnderWay: "nobody under way",
  no: (name: string) => `No ${name}`,
  takeItOut: "Take it out",
};

/** In stages/protect/Tables.tsx. */
export const tables = {
  never: "never",
  warm: "warm",
  cold: "cold",
  ms: (s: number) => `${fixed(1000 * s, 0)} ms`,
  part: "Part",
  volts: "volts",
  watts: "watts",
  askedStands: "asked / stands",
  theMainPathLoses: (total: number) => `The main path loses ${fixed(total, 2)} V under the ride's steady amps.`,
  aShortHere: "A short here",
  fullWarm: "full, warm",
  lowAndColdest: "20 %, coldest",
  opens: (fuse: string) => `${fuse} opens`,
  noFuseBeforeIt: "no fuse before it",
  withoutAFuseAt: (name: string, lengthM: number, units: UnitChoice, mostM: number) =>
    `${name}: ${withUnit(lengthM, "small", units)} without a fuse, at most ${withUnit(mostM, "small", units)}.`,
  pluggedInBare: (
    capacitanceF: number,
    assumed: boolean,
    sparkA: number,
    energyJ: number,
    resistorOhm: number,
    ratedW: number,
    peakW: number,
    secondsS: number,
  ) => (
    <>
      Plugged in bare, {plainNumber(1e6 * capacitanceF, 0)} µF{assumed ? " (assumed)" : ""} draw up to{" "}
      <b>{plainNumber(sparkA, 0)} A</b> for an instant, {plainNumber(energyJ, 2)} J. Through{" "}
      <b>
        {plainNumber(resistorOhm)} Ω, {plainNumber(ratedW)} W
      </b>{" "}
      (wirewound; it bears {plainNumber(peakW, 0)} W for a moment) they are 99 % full after <b>{plainNumber(secondsS, 1)} s</b>:
      wait twice that, then close the main path.
    </>
  ),
  whatFlowsAndFor: "What flows, and for how long",
  end: (endsBy: string) => `end: ${endsBy}`,
  onAndOn: "on and on",
  whenHeads: ["when", "packs", "motors", "lasts"],
};

/** In stages/protect/TimeCurrent.tsx. */
export const timeCurrent = {
  theMainLead: "the main lead",
  theWireIsToo: "The wire is too hot before the fuse opens.",
  theFuseOpensFirst: "The fuse opens first at every current.",
  secondsToOpenAgainst: (ratingA: number, size: string) => `Seconds to open against amps for ${ratingA} A and ${size}`,
  ampsThrough: (name: string) => `amps through ${name}`,
  seconds: "seconds",
  launchAS: (launchPeakA: number, launchS: number) => `launch ${plainNumber(launchPeakA, 0)} A, ${fixed(launchS, 1)} s`,
  shortA: (fault: number) => `short ${plainNumber(fault, 0)} A`,
  tooHot: (size: string) => ` ${size} too hot`,
  dashedAShortIt: "dashed: a short it withstands",
  fuseOpen: " fuse open",
  whatWouldAChange: (ratingA: number, size: string) => `What would ${plainNumber(ratingA)} A × ${size} change?`,
};

/** In stages/protect/Protect.tsx. */
export const protect = {
  workingOutEveryLead: "Working out every lead",
  protect: "Protect",
  theFuseMustOpen: "The fuse must open before the wire is too hot.",
  bestForEveryLead: "Best for every lead…",
  noFuseAndWire: (blocking: string) =>
    `No fuse and wire fit yet. What stands in the way: ${blocking || "several conditions at once: shorten the lead or lower the amps"}.`,
  workingOutThisLead: "Working out this lead…",
  enterForTheTable: "Enter the main lead, the packs and the motor: then every fuse is tried with every wire.",
  fuseAndWireIn: (name: string) => `${name}: fuse and wire in numbers`,
  leadsAndFuses: "Leads and fuses",
  enterTheMainLead: "Enter the main lead",
  addAMainFuse: "Add a main fuse",
  controllerLeadOfIts: "Controller lead of its own",
  enterTheMotorLead: "Enter the motor lead",
  enterTheRowsLeads: "Enter the rows' leads",
  enterThePacksOwn: "Enter the pack's own lead",
  enterTheLinksBetween: "Enter the links between packs",
  aFuseForEach: "A fuse for each row",
  aFuseAtThe: "A fuse at the pack",
  whatFlowsAndFor: "What flows, and for how long",
  fuseWirePlugsAnd: "Fuse, wire, plugs and switches are judged by these, not by a label.",
  whatEachJointCosts: "What each joint costs",
  voltsLostHereAre: "Volts lost here are speed lost on the road; watts are heat.",
  ifSomethingShorts: "If something shorts",
  aTiredColdPack: "A tired, cold pack must still open the fuse.",
  theSparkWhenPlugging: "The spark when plugging in",
  capacitorsInAll: "Capacitors in all",
  thereIsAPre: "there is a pre-charge path",
  lowVoltGuard: "Low-volt guard",
  itSavesTheCells: "It saves the cells from being drained; the cut-off is the hand switch.",
  setPoint: "Set point",
  comesBackAt: "Comes back at",
  waitsBeforeItActs: "Waits before it acts",
  stands: "Stands",
  kind: "Kind",
  voltmeterWatched: "voltmeter, watched",
  noGuard: "No guard",
  guardOfYours: "Guard of your rack",
  addALowVolt: (guardV: number) => `Add a low-volt guard at ${plainNumber(guardV)} V`,
  chooseThePacksFirst: "Choose the packs first: its set point follows from them.",
  switchesAndPlugs: "Switches and plugs",
  eachMustBreakThe: "Each must break the packs' DC volts and the worst amps; a rating for AC says nothing.",
  addAPlug: "Add a plug",
  accessories: "Accessories",
  lampsHornMeterSocket: "Lamps, horn, meter, socket: each with its own small fuse and its own way back, never through the frame.",
};
