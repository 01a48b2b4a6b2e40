/** Winding heat over twenty minutes, in laps and flat out. */
import { memo } from "react";
import type { Evaluation } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { toShown, withUnit } from "../../lib/units";
import { Plot } from "../../ui/Plot";

export const HeatPlot = memo(function HeatPlot({ evaluation }: { evaluation: Evaluation }) {
  const { units } = useSettings();
  const { course, flat_out: flat } = evaluation.curves.heat ?? {};
  const o = evaluation.outcome;
  if (!course || !flat || !o) return null;
  const temp = (v: number) => toShown(v, units.temp);
  const inMinutes = (c: typeof course) => ({ x: c.x.map((t) => t / 60), y: c.y.map(temp) });
  const read = (line: typeof course, minutes: number) =>
    line.y[
      Math.max(
        line.x.findIndex((t) => t >= 60 * minutes),
        0,
      )
    ] ?? 0;
  const flatAbove = read(flat, 2) > read(course, 2);
  const beside = (text: string, line: typeof course, above: boolean, bold: boolean) => {
    const minutes = Math.min(above ? 4 : 8, ((line.x.at(-1) ?? 0) / 60) * 0.6);
    const y = temp(read(line, minutes) + (above ? 8 : -16));
    return {
      x: minutes,
      y,
      text,
      bold,
      anchor: above ? ("end" as const) : ("start" as const),
      ...(bold ? {} : { colour: "var(--ink-2)" }),
    };
  };
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
        { x: 0.3, y: temp(134), text: `${withUnit(130, "temp", units)}: give it a rest`, colour: "var(--amber-text)" },
        { x: 0.3, y: temp(159), text: `${withUnit(155, "temp", units)}: the end`, colour: "var(--hot-text)" },
        // The upper line's name stands above it and the lower one's below.
        beside("lawn laps", course, !flatAbove, true),
        beside("flat out", flat, flatAbove, false),
      ]}
    />
  );
});
