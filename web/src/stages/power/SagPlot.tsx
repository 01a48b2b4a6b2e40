/** Pack volts against amps at three charges. */
import { memo } from "react";
import type { Evaluation } from "../../api/client";
import { fixed } from "../../texts/locale";
import { sagPlot as say } from "../../texts/power";
import { plainNumber } from "../../texts/units";
import { Plot } from "../../ui/Plot";

export const Sag = memo(function Sag({ evaluation }: { evaluation: Evaluation }) {
  const o = evaluation.outcome;
  const { full, half, low } = evaluation.curves.sag ?? {};
  if (!o || !full || !half || !low) return null;
  const end = full.x.at(-1) ?? 1;
  const bottom = Math.min(...low.y, evaluation.bank?.empty_v ?? 1e9) * 0.97;
  const at = (line: typeof half, a: number) => line.y[0]! + ((line.y.at(-1)! - line.y[0]!) * a) / (line.x.at(-1) ?? 1);
  const stands = evaluation.bank?.continuous_a;
  return (
    <Plot
      title={say.voltsFallFromAt(half.y[0]!, at(half, o.peak_a), o.peak_a)}
      xLabel={say.ampsDrawnFromThe}
      yLabel={say.voltsAtThePacks}
      x={[0, end]}
      y={[bottom, full.y[0]! * 1.02]}
      zones={stands != null && stands < end ? [{ x0: stands, colour: "var(--hot-tint)", opacity: 0.7 }] : []}
      lines={[
        full,
        { ...half, width: 3 },
        { ...low, dash: "5 4" },
        {
          x: [0, end],
          y: [evaluation.bank?.empty_v ?? 0, evaluation.bank?.empty_v ?? 0],
          colour: "var(--hot-deep)",
          dash: "7 4",
          width: 1.4,
        },
      ]}
      marks={[
        {
          x: o.cruise_a,
          y: at(half, o.cruise_a),
          text: say.cruiseA(o.cruise_a),
          filled: false,
          anchor: "start",
          dx: 6,
          dy: -9,
        },
        {
          x: o.peak_a,
          y: at(half, o.peak_a),
          text: `${plainNumber(o.peak_a)} A · ${fixed(at(half, o.peak_a), 1)} V`,
          colour: "var(--focus)",
          anchor: "end",
          dx: -6,
          dy: 18,
        },
      ]}
      words={[
        { x: end * 0.02, y: full.y[0]! * 0.997, text: say.full },
        { x: end * 0.02, y: low.y[0]! * 0.985, text: "20 %" },
        {
          x: end * 0.3,
          y: (evaluation.bank?.empty_v ?? 0) * 1.008,
          text: say.emptyV(evaluation.bank?.empty_v),
          colour: "var(--hot-text)",
        },
        ...(stands != null && stands < end
          ? [
              {
                // To the left of the edge, where there is no room to its right.
                x: stands > end / 2 ? end : stands * 1.01,
                anchor: stands > end / 2 ? ("end" as const) : ("start" as const),
                y: full.y[0]! * 1.005,
                text: say.packsStandASteady(stands),
                colour: "var(--hot-text)",
              },
            ]
          : []),
      ]}
    />
  );
});
