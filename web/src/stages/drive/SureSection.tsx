/** How sure we are: each outcome with its likely range, and the two figures that widen it most, with how to measure them. */
import { memo } from "react";
import type { Evaluation, Ranges } from "../../api/client";
import { rideEnd } from "../../lib/ends";
import { useSettings } from "../../lib/settings";
import { duration, plainNumber, toShown, type UnitChoice, way, withUnit } from "../../lib/units";
import { BasisGlyph } from "../../ui/Glyph";

const speed = (v: number, u: UnitChoice) => withUnit(v, "speed", u);
const ROWS: [string, string, (value: number, units: UnitChoice) => string][] = [
  ["top_speed_m_s", "Top speed", speed],
  ["top_speed_low_m_s", "Top speed at 20 %", speed],
  ["launch_s", "Launch", (v) => `${v.toFixed(1)} s`],
  ["run_time_s", "Run time", (v) => duration(v)],
  ["distance_m", "Distance", way],
  ["hill_grade", "Steepest hill", (v) => `${Math.round(100 * v)} %`],
  ["peak_a", "Peak amps", (v) => `${plainNumber(v, 0)} A`],
  ["lowest_v", "Lowest pack volts", (v) => `${v.toFixed(1)} V`],
  ["motor_20min_c", "Winding at 20 min", (v, u) => `${Math.round(toShown(v, u.temp))} ${u.temp}`],
  ["stop_m", "Stops in", (v, u) => withUnit(v, "length", u)],
  ["wheelie_margin", "Front lifts, × the launch", (v) => v.toFixed(1)],
  ["tip_m_s", "Tips in a turn at", speed],
];

export const SureSection = memo(function SureSection({
  evaluation,
  ranges,
}: {
  evaluation: Evaluation;
  ranges: Ranges | undefined;
}) {
  const { units } = useSettings();
  const outcome = evaluation.outcome as unknown as Record<string, number | null> | null;
  if (!outcome || !ranges) return <p role="status">Working it out…</p>;
  return (
    <div className="grid gap-2">
      <p className="text-ink2">
        Nine machines in ten like this one come out within the range. Measure what is named at the right, and it narrows.
      </p>
      <ul className="grid gap-1.5">
        {ROWS.filter(([id]) => ranges.outcomes[id] && outcome[id] != null).map(([id, label, say]) => {
          const span = ranges.outcomes[id];
          const value = outcome[id] ?? 0;
          if (!span) return null;
          const low = Math.min(span.low, value);
          const high = Math.max(span.high, value);
          const from = low - (high - low) * 0.15;
          const at = (v: number) => `${(100 * (v - from)) / Math.max((high - low) * 1.3, 1e-9)}%`;
          const widest = ranges.widest?.[id] ?? [];
          return (
            <li
              key={id}
              className="grid grid-cols-[130px_minmax(120px,1fr)_minmax(0,1.9fr)] items-center gap-3 border-t border-line pt-1 max-desk:grid-cols-[1fr_1fr]"
            >
              <span className="text-small">
                {label}
                <b className="block text-body">{say(value, units)}</b>
              </span>
              <span>
                <span className="relative block h-3 rounded bg-paper" aria-hidden="true">
                  <span
                    className="absolute h-3 rounded bg-leaf opacity-40"
                    style={{ left: at(span.low), width: `calc(${at(span.high)} - ${at(span.low)})` }}
                  />
                  <span className="absolute top-[-2px] h-4 w-[2px] bg-ink" style={{ left: at(value) }} />
                </span>
                <span className="text-micro text-ink2">
                  {say(span.low, units)} – {say(span.high, units)}
                </span>
                {id === "run_time_s" && (ranges.endings?.length ?? 0) > 1 && (
                  <span className="block text-micro text-ink2">
                    {ranges.endings?.map((e) => (
                      <span key={e.ends_by} className="block">
                        {Math.max(1, Math.round(10 * e.share))} of 10: {rideEnd(e.ends_by)}, after {duration(e.low_s)} to{" "}
                        {duration(e.high_s)}
                      </span>
                    ))}
                  </span>
                )}
              </span>
              <span className="text-small max-desk:col-span-2">
                {widest.length === 0
                  ? "many small doubts together"
                  : widest.map((w) => (
                      <span key={w.path} className="block">
                        <BasisGlyph basis={w.basis} /> {w.name} ({Math.round(100 * w.share)} % of the doubt): {w.how}
                      </span>
                    ))}
              </span>
            </li>
          );
        })}
      </ul>
    </div>
  );
});
