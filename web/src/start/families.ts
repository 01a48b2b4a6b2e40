/** The kinds of machine, their usual volts, and which of them mostly come without anything electric. */

import { families as say } from "../texts/start";

export const FAMILIES = [
  ["ride-on car", say.rideOnCar, [6, 12, 24]],
  ["small dirt bike", say.dirtBike, [24, 36, 48]],
  ["quad", say.quad, [24, 36, 48]],
  ["scooter", say.scooter, [24, 36, 48]],
  ["kart", say.kart, [48, 60, 72]],
  ["mini bike", say.miniBike, [36, 48, 60]],
  ["transplant", say.transplant, [12, 24, 36]],
] as const;

/** Frames that had an engine, or nothing: their electric parts are a kit that is to go on. */
export const MOSTLY_BARE: readonly string[] = ["kart"];
