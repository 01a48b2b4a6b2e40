/** What Prove says. */
import { day, decimals, fixed } from "./locale";
import { plainNumber, shown, type UnitChoice } from "./units";

/** In stages/prove/EntryForm.tsx. */
export const entryForm = {
  of10: "of 10",
  trialOf: (build: string, setup: string, passes: string) => `Trial of ${build}, ${setup}: ${passes}`,
  thatDidNotWork: "That did not work. Your numbers are still here.",
  enterTheMarkedLength: "Enter the marked length, such as 100.",
  enterAtLeastOne: "Enter at least one time, in seconds.",
  aTimeMustBe: decimals("A time must be a number of seconds above zero, such as 12.4."),
  knobAndVoltsMust: "Knob and volts must be numbers, or empty.",
  theKnobsMarkIs: "The knob's mark is between 0 and 10.",
  newTrialRun: "New trial run",
  withFlyingStartLevel: (name: string) => `with “${name}”, flying start, level`,
  newRun: "New run",
  markedLength: "Marked length",
  knobMark: "Knob mark",
  restVoltsBefore: "Rest volts before",
  after: "after",
  out: "Out",
  back: "Back",
  note: "Note",
  thisSetupMayNot: "This setup may not be ridden yet; your numbers stay here.",
  theMachineAsFound: "The machine as found has stops",
  theBaselineRunIs:
    "The baseline run is ridden all the same, once and slowly: open ground, an adult within reach of the machine. Every other ride waits until they are closed.",
  notNow: "Not now",
  itWasRiddenAs: "It was ridden as found",
  saving: "Saving…",
  saveRun: "Save run",
  twoMorePasses: "Two more passes",
};

/** In stages/prove/KnobPlot.tsx. */
export const knobPlot = {
  predictedSpeedAgainstThe: "Predicted speed against the measured runs",
  run: "run",
  predictedLikely: (topSpeedHalfMS: number, units: UnitChoice, low: number, high: number) =>
    `predicted ${shown(topSpeedHalfMS, "speed", units)}, likely ${shown(low, "speed", units)}–${shown(high, "speed", units)}`,
  predictedSpeedAtEach: "Predicted speed at each knob mark, with its likely band, and the measured runs",
  knobMark: "knob mark",
  halfCharge: (units: UnitChoice) => `${units.speed}, half charge`,
  linePredictedBandLikely: "line predicted, band likely, points measured",
  asFound: (baseTop: number, units: UnitChoice) => `as found ${shown(baseTop, "speed", units)}`,
};

/** In stages/prove/Prove.tsx. */
export const prove = {
  photosOfThisRun: "Photos of this run",
  off: (share: number) => `${plainNumber(Math.abs(100 * share), 0)} % ${share < 0 ? "low" : "high"}`,
  theTrialOf: (when: string) => `The trial of ${day(when)}`,
  prove: "Prove",
  wheelsOffTheGround: "Wheels off the ground first. Then ride a marked length, both ways, and see if the plan holds.",
  overTheBaselineOn: (gainHalfWidth: number | null) =>
    `over the baseline on the same ground, give or take ${fixed(100 * (gainHalfWidth ?? 0), 0)} % (95 %).`,
  theGainShowsWhen: "The gain shows when the baseline and this setup were both timed on the same ground with the knob full up.",
  onTheStand: "On the stand",
  beforeAnybodyRidesAll: "Before anybody rides: all of these, in their order.",
  chooseThePacksFirst: "Choose the packs first: the checks are made from the setup.",
  andMore: (reasons: number) => `, and ${reasons - 1} more`,
  trialRuns: "Trial runs",
  noRunYetThe: "No run yet. The first one with the stock setup is the baseline every gain is measured against.",
  setup: "Setup",
  when: "When",
  ground: "Ground",
  passes: "Passes",
  knob: "Knob",
  voltsBefore: "Volts before",
  measured: (units: UnitChoice) => `Measured ${units.speed}`,
  predicted: "Predicted",
  fit: "Fit",
  deleteOne: "Delete",
  fits: "fits",
  deleteRunOf: (setupName: string) => `Delete run of ${setupName}`,
  showOlderRuns: "Show older runs",
};
