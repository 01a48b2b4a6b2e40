/** The launch with a cursor: speed, push, amps; when it reaches what; how near the front wheel comes to lifting. */
import { memo } from "react";
import type { DrivePlan } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { plainNumber, toShown, withUnit } from "../../lib/units";
import { Scrubbed } from "../../ui/Scrubbed";
import { Head, td, th } from "../../ui/Table";
import { Block } from "../Heading";

export const LaunchSection = memo(function LaunchSection({ launch }: { launch: NonNullable<DrivePlan["launch"]> }) {
  const { units } = useSettings();
  const speed = (v: number) => withUnit(v, "speed", units);
  const amps = (v: number) => `${plainNumber(v, v < 10 ? 1 : 0)} A`;
  const lifts = launch.lifts_m_s2;
  return (
    <div className="grid grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)] gap-6 max-desk:grid-cols-1">
      <Scrubbed
        label="Seconds from rest"
        x={launch.speed.x}
        xLabel="seconds, full throttle, full packs, level"
        sayX={(s) => `${s.toFixed(2)} s`}
        traces={[
          {
            name: `speed, ${units.speed}`,
            y: launch.speed.y.map((v) => toShown(v, units.speed)),
            say: (v) => `${v.toFixed(1)} ${units.speed}`,
          },
          {
            name: "acceleration, m/s²",
            y: launch.acceleration.y,
            say: (v) => `${v.toFixed(2)} m/s²`,
            colour: "var(--ink)",
            range: [0, Math.max(...launch.acceleration.y, lifts == null ? 0 : Math.min(lifts, 12)) * 1.15],
            zones: lifts == null ? [] : [{ y0: lifts, colour: "var(--hot-tint)", opacity: 0.8 }],
          },
          { name: "pack amps", y: launch.pack.y, say: amps, colour: "var(--hot-deep)" },
          { name: "motor amps", y: launch.motor.y, say: amps, colour: "var(--amber-line)" },
        ]}
      />
      <div className="grid content-start gap-4">
        <table className="w-full text-small">
          <Head names={["From rest to", "after", "on"]} />
          <tbody>
            {launch.marks.map((m) => (
              <tr key={m.speed_m_s} className="border-t border-line">
                <th scope="row" className={th}>
                  {speed(m.speed_m_s)}
                </th>
                <td className={td}>{m.time_s.toFixed(1)} s</td>
                <td className={td}>{withUnit(m.distance_m, "length", units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p>
          Peak <b>{amps(launch.peak_a)}</b> from the packs, {amps(launch.motor_peak_a)} in the motor; {amps(launch.rms_a)} on
          (RMS) average.{" "}
          {launch.slips_until_s == null
            ? "The wheels grip all the way."
            : `The wheels spin for ${launch.slips_until_s.toFixed(1)} s: grip, not the motor, sets the start.`}
        </p>
        <Block title="Front wheel">
          {launch.wheelie_margin == null || lifts == null ? (
            <p className="text-ink2">The rear wheel does not drive it: a launch cannot lift the front.</p>
          ) : (
            <>
              <p className="mb-2 text-ink2">
                It lifts at {lifts.toFixed(1)} m/s²; the launch reaches {launch.largest_m_s2.toFixed(1)}.{" "}
                {launch.wheelie_share == null
                  ? "It stays down at full throttle."
                  : `Below ${Math.round(100 * launch.wheelie_share)} % of the motor amps it stays down.`}
              </p>
              <table className="w-full text-small">
                <Head names={["Rear wheel moved back", "lifts at"]} />
                <tbody>
                  {launch.longer.map((l) => (
                    <tr key={l.longer_m} className="border-t border-line">
                      <th scope="row" className={th}>
                        {l.longer_m === 0 ? "as it is" : withUnit(l.longer_m, "small", units)}
                      </th>
                      <td className={`${td} ${l.wheelie_margin <= 1 ? "text-hottext" : ""}`}>
                        {l.wheelie_margin.toFixed(2)} × the launch
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </>
          )}
        </Block>
      </div>
    </div>
  );
});
