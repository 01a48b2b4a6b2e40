/** What the outcome band says. */
import type { UnitChoice } from "./units";

/** In outcome/OutcomeBand.tsx. */
export const outcomeBand = {
  asFound: (before: string) => `As found ${before}`,
  topSpeed: "Top speed",
  runTime: "Run time",
  steepestHill: "Steepest hill",
  peakAmps: "Peak amps",
  lowestPackVolts: "Lowest pack volts",
  motorAt20Min: "Motor at 20 min",
  motorAfter: (temp: string, units: UnitChoice) => `Motor ${temp} ${units.temp} after`,
  asFoundAt20: (motor20minC: string) => `As found ${motor20minC} at 20 min`,
  soManyOfTenRides: (share: number) => `, ${Math.max(1, Math.round(10 * share))} of 10 rides`,
  outcome: "Outcome",
  notEnoughYetTo: "Not enough yet to say how fast and how long.",
  likely: (range: string) => `likely ${range}`,
  heldBackBy: "Held back by",
};
