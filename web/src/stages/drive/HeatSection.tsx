/** What gets hot: motor, controller, leads; on the course and flat out; cooling down; the same ride on other days. */
import { memo } from "react";
import type { DrivePlan } from "../../api/client";
import { rideEnd } from "../../lib/ends";
import { useSettings } from "../../lib/settings";
import { heatSection as say } from "../../texts/drive";
import { duration, toShown } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { Plot } from "../../ui/Plot";
import { Head, td, th, Wide } from "../../ui/Table";
import { Block } from "../Heading";

export const HeatSection = memo(function HeatSection({ heat }: { heat: NonNullable<DrivePlan["heat"]> }) {
  const { units } = useSettings();
  const temp = (c: number) => `${Math.round(toShown(c, units.temp))} ${units.temp}`;
  const y = (c: number) => toShown(c, units.temp);
  const minutes = (line: { x: number[]; y: number[] }) => ({ x: line.x.map((s) => s / 60), y: line.y.map(y) });
  const end = Math.max(heat.course_winding.x.at(-1) ?? 0, Math.min(heat.flat_out_winding.x.at(-1) ?? 0, 1200)) / 60;
  const cool = heat.cool_down;
  const until = (line: { x: number[]; y: number[] }, last: number) => {
    const kept = line.x.filter((s) => s / 60 <= last).length;
    return minutes({ x: line.x.slice(0, kept), y: line.y.slice(0, kept) });
  };
  const after = Math.min(cool.winding.x.at(-1) ?? 3600, Math.max(cool.cool_s * 1.3, 900)) / 60;
  return (
    <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
      <Block title={say.theRideAndFlat} line={say.solidOnTheCourse}>
        <Plot
          title={say.windingAndCaseOver}
          xLabel={say.minutes}
          yLabel={say.motor(units)}
          x={[0, Math.max(end, 1)]}
          y={[y(5), y(170)]}
          height={230}
          zones={[
            { y0: y(heat.caution_c), y1: y(heat.stop_c), colour: "var(--amber-tint)" },
            { y0: y(heat.stop_c), colour: "var(--hot-tint)" },
          ]}
          lines={[
            { ...minutes(heat.course_winding), width: 2.6 },
            { ...minutes(heat.course_case), width: 1.3 },
            { ...until(heat.flat_out_winding, end), width: 2, dash: "6 4", colour: "var(--hot-deep)" },
            { ...until(heat.flat_out_case, end), width: 1.1, dash: "6 4", colour: "var(--hot-deep)" },
          ]}
          words={[
            {
              x: end * 0.98,
              y: y(heat.stop_c) + 4,
              text: say.theEnd(temp(heat.stop_c)),
              anchor: "end",
              colour: "var(--hot-text)",
            },
            { x: end * 0.98, y: y(heat.caution_c) + 4, text: say.warm, anchor: "end", colour: "var(--ink-2)" },
          ]}
        />
      </Block>
      <Block title={say.afterTheRideStanding} line={say.coolAgainAfter(cool.cool_s, cool.touch_s)}>
        <Plot
          title={say.windingAndCaseCooling}
          xLabel={say.minutesOfRest}
          yLabel={say.motor(units)}
          x={[0, after]}
          y={[y(5), y(170)]}
          height={230}
          lines={[
            { ...until(cool.winding, after), width: 2.6 },
            { ...until(cool.case, after), width: 1.3 },
          ]}
          words={[
            { x: after * 0.05, y: y(cool.start_winding_c) + 6, text: say.winding },
            { x: after * 0.3, y: y(Math.max(...cool.case.y)) + 8, text: say.case, colour: "var(--ink-2)" },
          ]}
        />
      </Block>
      <Block title={say.partByPart}>
        <Wide label={say.heatPartByPart}>
          <table className="w-full text-small">
            <Head names={say.partHeads} />
            <tbody>
              {heat.parts.map((p) => (
                <tr key={p.name} className="border-t border-line">
                  <th scope="row" className={th} title={p.basis}>
                    <Glyph
                      mark={p.course_c >= p.limit_c ? "stop" : p.course_c >= p.limit_c - 25 ? "caution" : "fits"}
                      size={12}
                    />{" "}
                    {p.name}
                  </th>
                  <td className={td}>{temp(p.limit_c)}</td>
                  <td className={td}>{temp(p.course_c)}</td>
                  <td className={td}>{p.flat_out_c == null ? say.beyondIt : temp(p.flat_out_c)}</td>
                  <td className={td}>{p.to_limit_s == null ? say.never : duration(p.to_limit_s)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
        <p className="mt-2 text-small text-ink3">{say.letGoWhenIt(heat.stalled_to_stop_s)}</p>
      </Block>
      <Block title={say.theSameRideOn}>
        <table className="w-full text-small">
          <Head names={say.airHeads} />
          <tbody>
            {heat.days.map((d) => (
              <tr key={d.ambient_c} className="border-t border-line" title={say.itEndsBecause(rideEnd(d.ends_by))}>
                <th scope="row" className={th}>
                  {temp(d.ambient_c)}
                </th>
                <td className={td}>{temp(d.winding_c)}</td>
                <td className={td}>{duration(d.run_time_s)}</td>
                <td className={td}>{d.full_load_to_stop_s == null ? say.never : duration(d.full_load_to_stop_s)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Block>
    </div>
  );
});
