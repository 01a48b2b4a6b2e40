/** What Survey says. */
import { type UnitChoice, withUnit } from "./units";

/** In stages/survey/LookList.tsx. */
export const lookList = {
  toLookAtOf: (open: number, asked: number) => `To look at: ${open} of ${asked}`,
  lookedAtAll: (asked: number) => `Looked at: all ${asked}`,
  whoLookedCounts: "Only the word of somebody who looked counts. “Can't tell” counts as not there.",
  before: (gate: string) => `Before ${gate}.`,
  couldNotTell: "Could not tell",
  seenInOrder: "Seen, in order",
  seenNotInOrder: "Seen, not in order",
};

/** In stages/survey/Survey.tsx. */
export const survey = {
  years: "years",
  stockVolts: "Stock volts",
  wheel: "Wheel",
  wheelbase: "Wheelbase",
  massAsFound: "Mass as found",
  typicalOfItsKind: "typical of its kind",
  open: "open",
  survey: "Survey",
  whatIsThereBefore: "What is there, before anything is cut or bought. Skip what you cannot read.",
  stillOpen: "Still open",
  theMachine: "The machine",
  family: "Family",
  massAsFoundPacks: "Mass as found, packs in",
  track: "Track",
  heightOfMass: "Height of mass",
  massAheadOfRear: "Mass ahead of rear axle",
  frontAxleCarriesRider: "Front axle carries, rider on",
  rearAxleCarriesRider: "Rear axle carries, rider on",
  driven: "Driven",
  allWheels: "all wheels",
  riderSits: "Rider sits",
  brake: "Brake",
  brakedAxles: "Braked axles",
  stockElectrics: "Stock electrics",
  stockCapacity: "Stock capacity",
  stockFuse: "Stock fuse",
  packsItCameWith: "Packs it came with weigh",
  driveItCameWith: "Drive it came with weighs",
  worthKeeping: "Worth keeping",
  whichLeadIsPlus: "Which lead is plus?",
  theColourIsNo: "The colour is no proof. Read the marking on the old battery, or measure.",
  whatYouFound: "What you found",
  theMakersLimits: "The maker's limits",
  offTheLabelOr: "Off the label or the manual: they come first.",
  highestSpeed: "Highest speed",
  leastAge: "Least age",
  load: "Load",
  seats: "Seats",
  partsAdded: "Parts added",
  suspension: "Suspension",
  yes: "Yes",
  no: "No",
  aCircuitBoardBetween: "A circuit board between pedal and motor?",
  moreVoltsCanKill: "More volts can kill it. Follow the wires from the pedal.",
  circuitBoard: "Circuit board",
  notLookedYet: "Not looked yet",
  theNewWiringBypasses: "The new wiring bypasses it",
  thisPlanExpectsAs: (top: number, units: UnitChoice) => `This plan expects ${withUnit(top, "speed", units)} as found.`,
  baselineRunEveryGain: (
    <>
      <b>Baseline run.</b> Every gain is measured against it: fresh charge, timed both ways.
    </>
  ),
  enterTheBaselineRun: "Enter the baseline run",
};
