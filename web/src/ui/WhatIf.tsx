/** A change before it is made: what it brings beside what is there now. Put it in, or leave it. */
import type { Evaluation } from "../api/client";
import type { Doc } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { type Of, useWhatIf } from "../lib/useDeepPlan";
import { fixed } from "../texts/locale";
import { whatIf as say } from "../texts/ui";
import { duration, plainNumber, sentence, toShown, withUnit } from "../texts/units";
import { Glyph } from "./Glyph";

export interface Change {
  label: string;
  doc: Doc;
}

export function WhatIf({
  of,
  now,
  change,
  apply,
  leave,
}: {
  of: Of;
  now: Evaluation | undefined;
  change: Change;
  apply: () => void;
  leave: () => void;
}) {
  const { units } = useSettings();
  const then = useWhatIf(of, change.doc);
  const stops = (e: Evaluation | undefined) => e?.findings.filter((f) => f.gate === "plan").length ?? 0;
  const cautions = (e: Evaluation | undefined) => e?.findings.filter((f) => f.severity === "caution").length ?? 0;
  const lines: [string, string, string][] = [];
  const [a, b] = [now?.outcome, then?.outcome];
  if (a && b) {
    const tell = (name: string, one: string, other: string) => one !== other && lines.push([name, one, other]);
    tell(say.topSpeed, withUnit(a.top_speed_m_s, "speed", units), withUnit(b.top_speed_m_s, "speed", units));
    tell(say.runTime, duration(a.run_time_s), duration(b.run_time_s));
    tell(say.peakAmps, `${plainNumber(a.peak_a, 0)} A`, `${plainNumber(b.peak_a, 0)} A`);
    tell(say.lowestVolts, `${fixed(a.lowest_v, 1)} V`, `${fixed(b.lowest_v, 1)} V`);
    const motor = (c: number) => `${Math.round(toShown(c, units.temp))} ${units.temp}`;
    tell(say.motorAt20Min, motor(a.motor_20min_c), motor(b.motor_20min_c));
  }
  const gone = now?.findings.filter((f) => f.severity !== "note" && !then?.findings.some((g) => g.key === f.key)) ?? [];
  const come = then?.findings.filter((f) => f.severity !== "note" && !now?.findings.some((g) => g.key === f.key)) ?? [];
  return (
    <section
      className="mb-3 rounded-lg border-2 border-focus bg-focustint p-3"
      aria-label={say.whatThisChanges}
      aria-live="polite"
    >
      <h2 className="text-[15px]">{sentence(change.label, units)}</h2>
      {then ? (
        <div className="mt-1 grid gap-1">
          <p>
            <Glyph mark={stops(then) ? "stop" : "fine"} size={13} quiet />{" "}
            {say.stopsThenAndNow(stops(then), cautions(then), stops(now), cautions(now))}
          </p>
          {lines.length > 0 && (
            <p>
              {lines.map(([name, one, other], i) => (
                <span key={name}>
                  {i > 0 && " · "}
                  {name} {one} → <b>{other}</b>
                </span>
              ))}
            </p>
          )}
          {gone.length > 0 && <p>{say.goes(gone.map((f) => f.title).join("; "))}</p>}
          {come.length > 0 && <p className="text-hottext">{say.comes(come.map((f) => f.title).join("; "))}</p>}
          {!lines.length && !gone.length && !come.length && <p>{say.speedRunTimeAnd}</p>}
        </div>
      ) : (
        <p role="status">{say.workingItOut}</p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="btn go" onClick={apply}>
          {say.putItIn}
        </button>
        <button type="button" className="btn" onClick={leave}>
          {say.leaveItAsIt}
        </button>
      </div>
    </section>
  );
}
