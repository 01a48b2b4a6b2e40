/** Predicted speed by knob mark with its likely band, and the measured runs. */
import type { Trial } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { fixed } from "../../texts/locale";
import { knobPlot as say } from "../../texts/prove";
import { shown, toMark, toShown } from "../../texts/units";
import { Plot } from "../../ui/Plot";
import type { StageProps } from "../stage";

export function KnobPlot({
  trials,
  plan,
  row,
  baseTop,
}: {
  trials: Trial[];
  plan: StageProps["plan"];
  row: StageProps["row"];
  baseTop: number | undefined;
}) {
  const { units } = useSettings();
  const knob = plan.evaluation?.curves.knob;
  const ranges = plan.ranges;
  const mine = trials.filter((t) => t.setup_id === row.id);
  const speed = (v: number) => toShown(v, units.speed);
  if (!knob) {
    const o = plan.evaluation?.outcome;
    const r = ranges?.outcomes.top_speed_half_m_s;
    if (!o || !r) return null;
    return (
      <Plot
        title={say.predictedSpeedAgainstThe}
        xLabel={say.run}
        yLabel={units.speed}
        x={[0, Math.max(mine.length, 1) + 1]}
        y={[0, speed(r.high) * 1.25]}
        format={(v) => (Number.isInteger(v) ? String(v) : fixed(v, 1))}
        bands={[
          { x: [0, Math.max(mine.length, 1) + 1], low: [speed(r.low), speed(r.low)], high: [speed(r.high), speed(r.high)] },
        ]}
        lines={[{ x: [0, Math.max(mine.length, 1) + 1], y: [speed(o.top_speed_half_m_s), speed(o.top_speed_half_m_s)] }]}
        marks={mine.map((t, i) => ({
          x: i + 1,
          y: speed(t.speed_m_s),
          half: speed(t.half_width_m_s),
          text: shown(t.speed_m_s, "speed", units),
          dy: -14,
        }))}
        words={[
          {
            x: 0.05,
            y: speed(r.high) * 1.06,
            text: say.predictedLikely(o.top_speed_half_m_s, units, r.low, r.high),
            colour: "var(--leaf-text)",
            bold: true,
          },
        ]}
      />
    );
  }
  const low = ranges?.knob_low;
  const high = ranges?.knob_high;
  const top = speed(Math.max(high?.y.at(-1) ?? 0, knob.y.at(-1) ?? 0, ...mine.map((t) => t.speed_m_s))) * 1.1;
  return (
    <Plot
      title={say.predictedSpeedAtEach}
      xLabel={say.knobMark}
      yLabel={say.halfCharge(units)}
      x={[0, 10]}
      y={[0, top]}
      height={240}
      bands={low && high ? [{ x: low.x.map(toMark), low: low.y.map(speed), high: high.y.map(speed) }] : []}
      lines={[
        { x: knob.x.map(toMark), y: knob.y.map(speed), width: 2.6 },
        ...(baseTop === undefined
          ? []
          : [{ x: [0, 10], y: [speed(baseTop), speed(baseTop)], colour: "var(--ink-2)", dash: "2 4", width: 1.4 }]),
      ]}
      marks={mine
        .filter((t) => t.knob != null)
        .map((t) => ({
          x: toMark(t.knob ?? 1),
          y: speed(t.speed_m_s),
          half: speed(t.half_width_m_s),
          text: shown(t.speed_m_s, "speed", units),
          dy: 20,
          dx: (t.knob ?? 1) > 0.8 ? -4 : 4,
          anchor: (t.knob ?? 1) > 0.8 ? "end" : "start",
        }))}
      words={[
        { x: 0.3, y: top * 0.95, text: say.linePredictedBandLikely, colour: "var(--ink-2)" },
        ...(baseTop === undefined ? [] : [{ x: 0.2, y: speed(baseTop) + top * 0.015, text: say.asFound(baseTop, units) }]),
      ]}
    />
  );
}
