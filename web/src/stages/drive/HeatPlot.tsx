/** Winding heat over twenty minutes, in laps and flat out. */
import type { Evaluation } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { toShown, withUnit } from "../../lib/units";
import { Plot } from "../../ui/Plot";

export function HeatPlot({ evaluation }: { evaluation: Evaluation }) {
  const { units } = useSettings();
  const { course, flat_out: flat } = evaluation.curves.heat ?? {};
  const o = evaluation.outcome;
  if (!course || !flat || !o) return null;
  const temp = (v: number) => toShown(v, units.temp);
  const inMinutes = (c: typeof course) => ({ x: c.x.map((t) => t / 60), y: c.y.map(temp) });
  const rising = Math.max(
    flat.y.findIndex((c) => c >= Math.min(95, 0.8 * Math.max(...flat.y))),
    0,
  );
  return (
    <Plot
      title={`Winding heat: ${withUnit(o.motor_20min_c, "temp", units)} after 20 minutes of laps`}
      xLabel="minutes"
      yLabel={`winding, ${units.temp}`}
      x={[0, 20]}
      y={[temp(15), temp(170)]}
      height={210}
      zones={[
        { y0: temp(130), y1: temp(155), colour: "var(--amber-tint)" },
        { y0: temp(155), colour: "var(--hot-tint)" },
      ]}
      lines={[
        { ...inMinutes(course), width: 2.6 },
        { ...inMinutes(flat), colour: "var(--ink-2)", dash: "5 4" },
      ]}
      words={[
        {
          x: 19.6,
          y: temp(134),
          text: `${withUnit(130, "temp", units)}: give it a rest`,
          anchor: "end",
          colour: "var(--amber-text)",
        },
        { x: 19.6, y: temp(159), text: `${withUnit(155, "temp", units)}: the end`, anchor: "end", colour: "var(--hot-text)" },
        {
          x: 19.6,
          y: temp(Math.min(course.y.at(-1) ?? 0, 150) + 4),
          text: "lawn laps",
          anchor: "end",
          bold: true,
        },
        // Beside the line on its way up: at its end it would crowd the words of the limits.
        { x: (flat.x[rising] ?? 0) / 60 + 0.3, y: temp((flat.y[rising] ?? 0) - 7), text: "flat out", colour: "var(--ink-2)" },
      ]}
    />
  );
}
