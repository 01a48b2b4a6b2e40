/** What the core filled in for fields nobody typed, by their place and in SI: shown greyed in the empty field. */
import type { Evaluation } from "../api/client";

export function assumedOf(gaps: Evaluation["gaps"]): Record<string, number> {
  const map: Record<string, number> = {};
  for (const gap of gaps) if (gap.value !== null) map[gap.path] = gap.value;
  return map;
}
