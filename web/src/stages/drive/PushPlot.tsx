/** What pushes and what holds back, against speed; top speed where they meet. */
import { memo } from "react";
import type { Evaluation } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { pushPlot as say } from "../../texts/drive";
import { toShown } from "../../texts/units";
import { type MarkPoint, Plot, type Words } from "../../ui/Plot";

/** What holds back, in a parent's words. */
const HOLDS: Record<string, string> = say.holds;

/** Each limit's stretch has its own ground. */
const SHADES: Record<string, string> = {
  grip: "var(--amber-tint)",
  phase: "var(--paper-sunk)",
  battery: "var(--focus-tint)",
  source: "var(--amber-tint)",
  undervoltage: "var(--hot-tint)",
};

export const PushPlot = memo(function PushPlot({ evaluation }: { evaluation: Evaluation }) {
  const { units } = useSettings();
  const o = evaluation.outcome;
  const { push, level, grade, push_ungripped: free } = evaluation.curves.force ?? {};
  if (!o || !push || !level || !grade || !free) return null;
  const speed = (v: number) => toShown(v, units.speed);
  const xs = (line: typeof push) => ({ x: line.x.map(speed), y: line.y });
  const end = speed(push.x.at(-1) ?? 1);
  const high = Math.max(...push.y, ...level.y) * 1.18;
  const top = { x: speed(o.top_speed_m_s), y: level.y[level.x.findIndex((v) => v >= o.top_speed_m_s)] ?? 0 };
  const far = top.x > end * 0.6;
  // Near the bottom its words stand above the line, else they would lie on the numbers of the axis.
  const low = top.y < 0.14 * high;
  const crossing: MarkPoint = {
    ...top,
    text: say.topSpeed(o.top_speed_m_s, units),
    colour: "var(--focus)",
    anchor: far ? "end" : "start",
    ...(low ? { dx: far ? -8 : 8, dy: -9 } : { dy: 24 }),
  };
  const cap = o.cap_m_s == null ? null : speed(o.cap_m_s);
  const limits = evaluation.curves.force_limits ?? [];
  const words: Words[] = limits
    .filter((s) => s.to_m_s - s.from_m_s > 0.08 * (push.x.at(-1) ?? 1) && s.from_m_s < o.top_speed_m_s)
    .map((s) => {
      const middle = (s.from_m_s + Math.min(s.to_m_s, o.top_speed_m_s)) / 2;
      const y = push.y[push.x.findIndex((v) => v >= middle)] ?? 0;
      return {
        x: speed(middle),
        y: y + high * 0.035,
        text: HOLDS[s.limit] ?? s.limit,
        bold: true,
        anchor: "middle" as const,
      };
    });
  return (
    <Plot
      title={say.pushAgainstSpeedIt(o.top_speed_m_s, units, HOLDS[o.limit_at_top] ?? o.limit_at_top)}
      xLabel={say.onThisGroundFull(units)}
      yLabel={say.newtonsOfPush}
      x={[0, end]}
      y={[0, high]}
      height={270}
      zones={[
        ...limits.map((s) => ({
          x0: speed(s.from_m_s),
          x1: speed(s.to_m_s),
          colour: SHADES[String(s.limit)] ?? "var(--paper)",
          opacity: 0.55,
        })),
        ...(cap !== null && cap < end ? [{ x0: cap, colour: "var(--hot-tint)", opacity: 0.75 }] : []),
      ]}
      bands={[{ x: push.x.filter((v) => v <= o.top_speed_m_s).map(speed), low: level.y, high: push.y, opacity: 0.18 }]}
      lines={[
        { ...xs(free), colour: "var(--ink-3)", dash: "3 4", width: 1.4 },
        { ...xs(push), width: 3 },
        { ...xs(level), colour: "var(--ink)", width: 2 },
        { ...xs(grade), colour: "var(--ink)", dash: "2 4", width: 1.6 },
        ...(cap !== null && cap < end ? [{ x: [cap, cap], y: [0, high], colour: "var(--hot-deep)", width: 1.6 }] : []),
      ]}
      marks={[crossing]}
      words={[
        ...words,
        { x: end * 0.02, y: (level.y[0] ?? 0) + high * 0.03, text: say.levelGround },
        ...(o.hill_grade_asked > 0
          ? [
              {
                x: end * 0.02,
                y: (grade.y[0] ?? 0) + high * 0.03,
                text: say.slope(o.hill_grade_asked),
              },
            ]
          : []),
        ...(cap !== null && cap < end
          ? [
              {
                x: cap,
                y: high * 0.97,
                text: say.ridersCap(cap),
                colour: "var(--hot-text)",
                bold: true,
                // Near the edge it stands before its line.
                anchor: cap > 0.7 * end ? ("end" as const) : ("start" as const),
              },
            ]
          : []),
      ]}
    />
  );
});
