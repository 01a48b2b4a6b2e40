/** What the core filled in for fields nobody typed, by their place: shown greyed in the empty field. */
import type { Evaluation } from "../api/client";

export function assumedOf(gaps: Evaluation["gaps"]): Record<string, string> {
  const map: Record<string, string> = {};
  for (const gap of gaps) {
    const typical = gap.kind === "assumed" && gap.message.match(/: ([\d.e+-]+ ?(?:mΩ|mm|kg)?) assumed/)?.[1];
    if (typical) map[gap.path] = typical;
  }
  return map;
}
