/** What a step's meter should show, in a few words. */
import type { Shown, Step } from "../../api/client";
import { expects as say } from "../../texts/hookup";
import { plainNumber } from "../../texts/units";

export function expects(step: Step): string {
  const r = step.reading;
  if (!r) return say.noReading;
  if (r.kind === "open") return say.olOpen;
  if (r.high == null) return say.over(r.low, r.unit);
  if (Math.abs(r.low ?? 1) < 0.3 && r.high < 0.3) return `0 ${r.unit}`;
  if (r.kind === "ohms") return say.under(r.high, r.unit);
  return say.to(r.low, r.high, r.unit);
}

/** What the meter shows between two terminals: the number, OL, or that only no short is known. */
export function shownAs(shown: Shown): string {
  if (shown.kind === "open") return say.olOpen;
  if (shown.kind === "unknown") return say.overOhms(shown.low);
  const value = shown.expected ?? 0;
  if (shown.kind === "volts") return `${Math.abs(value) < 0.005 ? "0" : plainNumber(value, 2)} V`;
  if (value < 1) return say.near0;
  return value < 1000 ? `${plainNumber(value)} Ω` : `${plainNumber(value / 1000)} kΩ`;
}
