/** What the Trail says. */
import type { UnitChoice } from "./units";

/** In trail/Trail.tsx. */
export const trail = {
  over: "over",
  rise: (units: UnitChoice) => `${units.temp} rise`,
  askedOfWhatStands: (asks: string, stands: string, unit: string) => `${asks} of ${stands} ${unit}`,
  notKnown: "not known",
  spinsAtLaunch: "spins at launch",
  asked: (share: number) => `${Math.round(100 * share)} % asked`,
  spare: (share: number) => `${Math.round(100 * (1 - share))} % spare`,
  theTrail: "The Trail",
  narrowLittleToSpare: "narrow = little to spare",
  weakLink: "Weak link",
  stop: "stop",
  theTrailGrowsAs: "The Trail grows as you enter parts: start with the packs.",
};
