/** What is left on a reel of wire; empty for every other part, and for a reel nobody measured. */
import type { RackPart } from "../api/client";
import { type UnitChoice, withUnit } from "../texts/units";

export function lengthOf(part: RackPart | undefined, units: UnitChoice): string {
  const metres = (part?.document as { metres?: number | null } | undefined)?.metres;
  return part?.kind === "wires" && typeof metres === "number" ? withUnit(metres, "length", units) : "";
}
