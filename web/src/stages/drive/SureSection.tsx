/** How sure we are: each outcome with its likely range, and the two figures that widen it most, with how to measure them. */
import { memo } from "react";
import type { Evaluation, Ranges } from "../../api/client";
import { rideEnd } from "../../lib/ends";
import { useSettings } from "../../lib/settings";
import { sureSection as say } from "../../texts/drive";
import { fixed } from "../../texts/locale";
import { duration, plainNumber, toShown, type UnitChoice, way, withUnit } from "../../texts/units";
import { BasisGlyph } from "../../ui/Glyph";

const speed = (v: number, u: UnitChoice) => withUnit(v, "speed", u);
const ROWS: [string, string, (value: number, units: UnitChoice) => string][] = [
  ["top_speed_m_s", say.topSpeed, speed],
  ["top_speed_low_m_s", say.topSpeedAt20, speed],
  ["launch_s", say.launch, (v) => `${fixed(v, 1)} s`],
  ["run_time_s", say.runTime, (v) => duration(v)],
  ["distance_m", say.distance, way],
  ["hill_grade", say.steepestHill, (v) => `${Math.round(100 * v)} %`],
  ["peak_a", say.peakAmps, (v) => `${plainNumber(v, 0)} A`],
  ["lowest_v", say.lowestPackVolts, (v) => `${fixed(v, 1)} V`],
  ["motor_20min_c", say.windingAt20Min, (v, u) => `${Math.round(toShown(v, u.temp))} ${u.temp}`],
  ["stop_m", say.stopsIn, (v, u) => withUnit(v, "length", u)],
  ["wheelie_margin", say.frontLiftsTheLaunch, (v) => fixed(v, 1)],
  ["tip_m_s", say.tipsInATurn, speed],
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
  if (!outcome || !ranges) return <p role="status">{say.workingItOut}</p>;
  return (
    <div className="grid gap-2">
      <p className="text-ink2">{say.nineMachinesInTen}</p>
      <ul className="grid gap-1.5">
        {ROWS.filter(([id]) => ranges.outcomes[id] && outcome[id] != null).map(([id, label, tell]) => {
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
                <b className="block text-body">{tell(value, units)}</b>
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
                  {tell(span.low, units)} – {tell(span.high, units)}
                </span>
                {id === "run_time_s" && (ranges.endings?.length ?? 0) > 1 && (
                  <span className="block text-micro text-ink2">
                    {ranges.endings?.map((e) => (
                      <span key={e.ends_by} className="block">
                        {say.soManyEndSo(e.share, rideEnd(e.ends_by), e.low_s, e.high_s)}
                      </span>
                    ))}
                  </span>
                )}
              </span>
              <span className="text-small max-desk:col-span-2">
                {widest.length === 0
                  ? say.manySmallDoubtsTogether
                  : widest.map((w) => (
                      <span key={w.path} className="block">
                        <BasisGlyph basis={w.basis} /> {say.ofTheDoubt(w.name, w.share, w.how)}
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
