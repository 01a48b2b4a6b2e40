/** What ends a ride, in a parent's words. */
const ENDS: Record<string, string> = {
  guard: "the low-volt guard switches off",
  "pack protection low volts": "the pack's own protection switches off, low volts",
  "foldback below half the aimed speed": "the controller holds back at its low cut-off",
  "unit empty": "a pack is empty",
  "winding 155 C": "the motor's winding is at its end",
  "pack protection trip": "the pack's own protection trips",
  "does not get up": "it does not get up a slope, or through the ground there",
  "goes on for a day": "nothing ends it within a day",
};

/** The words for an end as the core names it; what is no end of a ride speaks for itself already. */
export const rideEnd = (name: string) => ENDS[name] ?? name;
