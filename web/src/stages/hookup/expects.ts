/** What a step's meter should show, in a few words. */
import type { Step } from "../../api/client";
import { plainNumber } from "../../lib/units";

export function expects(step: Step): string {
  const r = step.reading;
  if (!r) return "no reading";
  if (r.kind === "open") return "OL, open";
  if (r.high == null) return `over ${plainNumber(r.low ?? 0, 0)} ${r.unit}`;
  if (Math.abs(r.low ?? 1) < 0.3 && r.high < 0.3) return `0 ${r.unit}`;
  if (r.kind === "ohms") return `under ${plainNumber(r.high)} ${r.unit}`;
  return `${(r.low ?? 0).toFixed(1)} to ${r.high.toFixed(1)} ${r.unit}`;
}
