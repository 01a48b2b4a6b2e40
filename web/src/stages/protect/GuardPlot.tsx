/** Where on the ride the low-volt guard opens. */
import { memo } from "react";
import type { Curve, Evaluation } from "../../api/client";
import { rideEnd } from "../../lib/ends";
import { guardPlot as say } from "../../texts/protect";
import { Plot } from "../../ui/Plot";

export function at(curve: Curve, x: number): number {
  const i = curve.x.findIndex((v) => v >= x);
  return curve.y[i < 0 ? curve.y.length - 1 : i] ?? 0.01;
}

export const GuardPlot = memo(function GuardPlot({ evaluation, level }: { evaluation: Evaluation; level: number | undefined }) {
  const ride = evaluation.curves.ride;
  const volts = ride?.volts;
  const charge = ride?.charge;
  const o = evaluation.outcome;
  if (!volts || !charge || !o) return null;
  const left = charge.y.at(-1) ?? 0;
  const top = Math.max(...volts.y) * 1.02;
  const bottom = Math.min(...volts.y, level ?? 1e9, evaluation.bank?.empty_v ?? 1e9) * 0.96;
  return (
    <Plot
      title={say.voltsAtTheController(o.run_time_s, rideEnd(o.ends_by), left)}
      xLabel={say.chargeLeft}
      yLabel={say.voltsAtCruise}
      x={[100, 0]}
      y={[bottom, top]}
      height={190}
      lines={[
        { x: charge.y.map((s) => 100 * s), y: volts.y },
        ...(level === undefined ? [] : [{ x: [100, 0], y: [level, level], colour: "var(--focus)", width: 1.8 }]),
      ]}
      zones={left > 0.005 ? [{ x0: 100 * left, x1: 0, colour: "var(--amber-tint)", opacity: 0.9 }] : []}
      words={[
        ...(level === undefined
          ? []
          : [
              {
                x: 97,
                y: level + (top - bottom) * 0.03,
                text: say.guardV(level),
                colour: "var(--focus)",
                bold: true,
              },
            ]),
        {
          x: Math.max(100 * left, 30),
          y: top * 0.995,
          text: say.endsByUnused(o.ends_by, left),
          anchor: "end" as const,
        },
      ]}
    />
  );
});
