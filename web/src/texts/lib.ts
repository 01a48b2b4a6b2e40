/** Words that several screens share. */

/** In lib/parts.ts. */
export const parts = {
  yours: "Yours, on the rack",
};

/** In lib/upload.ts. */
export const upload = {
  stoppedNothingWasRead: "Stopped. Nothing was read in.",
};

/** In lib/useStanding.ts. */
export const useStanding = {
  gateWords: { plan: "the plan", power: "first power", ride: "the first ride" } as const,
};

/** In lib/ends.ts. */
export const ends = {
  ends: {
    guard: "the low-volt guard switches off",
    "pack protection low volts": "the pack's own protection switches off, low volts",
    "foldback below half the aimed speed": "the controller holds back at its low cut-off",
    "unit empty": "a pack is empty",
    "winding 155 C": "the motor's winding is at its end",
    "pack protection trip": "the pack's own protection trips",
    "does not get up": "it does not get up a slope, or through the ground there",
    "goes on for a day": "nothing ends it within a day",
  },
};
