/** The kinds of machine, their usual volts, and which of them mostly come without anything electric. */

export const FAMILIES = [
  ["ride-on car", "Ride-on car", [6, 12, 24]],
  ["small dirt bike", "Dirt bike", [24, 36, 48]],
  ["quad", "Quad", [24, 36, 48]],
  ["scooter", "Scooter", [24, 36, 48]],
  ["kart", "Kart", [48, 60, 72]],
  ["mini bike", "Mini bike", [36, 48, 60]],
  ["transplant", "Transplant", [12, 24, 36]],
] as const;

/** Frames that had an engine, or nothing: their electric parts are a kit that is to go on. */
export const MOSTLY_BARE: readonly string[] = ["kart"];
