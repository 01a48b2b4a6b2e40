/** What a step's meter should show, in a few words. */
import type { Shown, Step } from "../../api/client";
import { plainNumber } from "../../lib/units";

export function expects(step: Step): string {
  const r = step.reading;
  if (!r) return "no reading";
  if (r.kind === "open") return "OL, open";
  if (r.high == null) return `over ${plainNumber(r.low ?? 0, (r.low ?? 0) < 10 ? 1 : 0)} ${r.unit}`;
  if (Math.abs(r.low ?? 1) < 0.3 && r.high < 0.3) return `0 ${r.unit}`;
  if (r.kind === "ohms") return `under ${plainNumber(r.high)} ${r.unit}`;
  return `${(r.low ?? 0).toFixed(1)} to ${r.high.toFixed(1)} ${r.unit}`;
}

/** What the meter shows between two terminals: the number, OL, or that only no short is known. */
export function shownAs(shown: Shown): string {
  if (shown.kind === "open") return "OL, open";
  if (shown.kind === "unknown") return `over ${plainNumber(shown.low ?? 0, 0)} Ω`;
  const value = shown.expected ?? 0;
  if (shown.kind === "volts") return `${Math.abs(value) < 0.005 ? "0" : plainNumber(value, 2)} V`;
  if (value < 1) return "near 0 Ω";
  return value < 1000 ? `${plainNumber(value)} Ω` : `${plainNumber(value / 1000)} kΩ`;
}
