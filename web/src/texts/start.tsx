/** What Start says. */

import type { ReactNode } from "react";
import { decimals } from "./locale";
import { type UnitChoice, withUnit } from "./units";

/** In start/Arrangement.tsx. */
export const arrangement = {
  bestStart: "Best start",
  alwaysKept: "always kept",
  rowsOf: (rows: number, inSeries: number) => `${rows} rows of ${inSeries}`,
  withWhatItLacks: "With what it lacks:",
  andMore: (stops: number) => `, and ${stops - 1} more`,
  noStopButCautions: (cautions: number) => `no stop, ${cautions} ${cautions === 1 ? "caution" : "cautions"}`,
  noStop: "no stop",
  tryingWhatItLacks: "Trying what it lacks…",
  planItWithWhat: "Plan it with what it lacks",
  noChangeClearsThis: "No change on offer clears this. Try other packs, or another machine.",
  thatDidNotWork: "That did not work. Nothing is lost; try again.",
};

/** In start/families.ts. */
export const families = {
  rideOnCar: "Ride-on car",
  dirtBike: "Dirt bike",
  quad: "Quad",
  scooter: "Scooter",
  kart: "Kart",
  miniBike: "Mini bike",
  transplant: "Transplant",
};

/** In start/OwnPack.tsx. */
export const ownPack = {
  lithiumToolPackIts: "lithium tool pack (its tool guards it)",
  lithiumPackWithIts: "lithium pack with its own board",
  lfpPackWithIts: "LFP pack with its own board",
  leadBlock: "lead block",
  nickelPack: "nickel pack (NiMH or NiCd, of an old tool or toy)",
  cellAh: (count: number | undefined, kind: string, capacity: number | undefined) =>
    `${count}-cell ${kind === "lead" ? "lead block" : kind === "nickel" ? "nickel pack" : kind === "lfp" ? "LFP pack" : kind === "tool" ? "tool pack" : "pack"}, ${capacity} Ah`,
  notInTheList: "Not in the list? Enter what its label says",
  kindOfPack: "Kind of pack",
  cellsInARow: "Cells in a row",
  ampHours: "Amp-hours",
  aLithiumCellIs: decimals(
    "A lithium cell is 3.6 V in the middle: 18 V or “20 V max” are five, 36 V or “40 V max” ten, 48 V thirteen, 60 V seventeen. LFP 3.2 V, lead 2 V, nickel 1.2 V a cell.",
  ),
  enterWholeCells1: "Enter whole cells, 1 to 28, and amp-hours above zero.",
  howMany: "How many of them",
  enterHowMany: "Enter how many there are, 1 to 12.",
  putItOnThe: "Put it on my rack",
};

/** In start/Columns.tsx. */
export const columns = {
  inYears: "years",
  whatKindOfMachine: "What kind of machine is it?",
  voltsOfTheKit: "Volts of the kit",
  onTheOldBattery: "On the old battery",
  usualVolts: "Usual volts",
  asBoughtItDoes: "As bought it does about",
  batteryVolts: "Battery volts",
  motorWattsEach: "Motor watts, each",
  nothingElectricOnIt: "Nothing electric on it yet: it had an engine, or is a bare frame",
  onYourRack: (letters: string[]) => (letters.length ? `on your rack: ${letters.join(", ")}` : "on your rack"),
  leftOut: (name: string, why: string) => `${name} ${why}: left out of every plan.`,
  oneLess: "One less",
  oneMore: "One more",
  addAPack: "Add a pack",
  anotherPackYouOwn: "Another pack you own or may borrow…",
  whichPackDoYou: "Which pack do you own, or may you borrow?",
  sameFiveCells: "Same five cells.",
  twentyVoltMax: decimals(
    "“20 V max” is read fresh off the charger, 18 V is the middle. Full is 21.0 V, and that is what parts must stand. Side by side packs add amp-hours, in a row they add volts; both are tried.",
  ),
  ridersOfThisGarage: "Riders of this garage",
  years: (ageYears: number) => `${ageYears} years`,
  rider: "Rider",
  alsoRides: "Also rides",
  ridersAge: "Rider's age",
  theirAge: "Their age",
  ridersMass: "Rider's mass",
  theirMass: "Their mass",
  somebodyElseToo: "+ Somebody else, too",
  whereItIsRidden: "Where it is ridden",
  lowestCapCounts: "The lowest cap of them counts.",
  ageDecidesHowFast: "Age decides how fast it should go, mass what it has to carry.",
  isTheMostTo: (cap: number, units: UnitChoice) =>
    `${withUnit(cap, "speed", units)} is the most to plan for; a figure of your own can be entered later.`,
};

/** In start/Rest.tsx. */
export const rest = {
  batteryCapacity: "Battery capacity",
  motorVolts: "Motor volts",
  motorTeeth: "Motor teeth",
  wheelTeeth: "Wheel teeth",
  gearRatio: "Gear ratio",
  wheelAcross: "Wheel across",
  machinesMass: "Machine's mass",
  controllerLimit: "Controller limit",
  motorSideLimit: "Motor-side limit",
  anotherMotor: "Motor: another one",
  anotherController: "Controller: another one",
  asItIs: "as it is",
  fuseAsFound: "Fuse as found",
  theRest: "The rest",
  theRestIsTypical: "The rest is typical of its kind",
  whatIsTakenAs: "What is taken as typical",
  motors: (two: boolean, watts: number | string) => `${two ? "two motors" : "motor"}, ${watts} W`,
  andTeeth: (doc: number | null | undefined, v: number) => `${doc} and ${v} teeth`,
  gears1: (v: number) => `gears ${v}:1`,
  wheels: (v: number, units: UnitChoice) => `wheels ${withUnit(v, "small", units)}`,
  wireAwg: (v: number) => `wire ${v} AWG`,
  fuseA: (v: number) => `fuse ${v} A`,
  ah: (v: number) => `${v} Ah`,
  foldItAway: "Fold it away",
  lookThroughAll: (fields: number) => `Look through all ${fields}`,
  fillInWhatYou: "Fill in what you can read. Skip the rest: a typical figure steps in, marked assumed.",
};

/** In start/StartBuild.tsx. */
export const startBuild = {
  rideOnCar: "ride-on car",
  asFound: "As found",
  build: "Build",
  startABuild: "Start a build",
  whichMachine: "Which machine?",
  toBeMadeElectric: (words: string) => `${words}, to be made electric`,
  whichPacks: "Which packs?",
  toTry: (known: number) => `${known} to try`,
  noneYet: "none yet",
  whoRides: "Who rides?",
  years: (ageYears: number) => `${ageYears} years`,
  nobodyEnteredTakenFor: "nobody entered: taken for the youngest likely",
  arrangements: "Arrangements",
  theArrangementsCannotBe: "The arrangements cannot be computed just now.",
  arrangementsChooseAny: "Arrangements, choose any",
  thesePacksMakeNo: "These packs make no volts near what this machine was built for. Add more of them, or other ones.",
  addThePacksOn: "Add the packs on your shelf: every arrangement that makes sense appears here, with speed, run time and stops.",
  nameOfTheBuild: "Name of the build",
  suchAsMarigold: "Such as Marigold",
  beingWorkedOut: "Working out what you typed…",
  openWith: (name: string, picked: number) => `Open ${name || "the build"} with ${picked + 1} ${picked ? "setups" : "setup"}`,
  thatDidNotWork: "That did not work. Nothing is lost; try again.",
  figuresMarkedAreTypical: (basisGlyph: ReactNode) => (
    <>Figures marked {basisGlyph} are typical, so ranges are wide. The first timed ride narrows them most.</>
  ),
};

/** In start/KitChoice.tsx. */
export const kitChoice = {
  aKitOfYours: "A kit, donor or part of yours",
  none: "none",
  isInEach: "It is in every arrangement below, beside the machine as found.",
  whatItMakes: "What does it bring, and what is still to be had?",
};
