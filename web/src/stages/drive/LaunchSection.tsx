/** The launch with a cursor: speed, push, amps; when it reaches what; how near the front wheel comes to lifting. */
import { memo } from "react";
import type { DrivePlan } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { launchSection as say } from "../../texts/drive";
import { fixed } from "../../texts/locale";
import { plainNumber, toShown, withUnit } from "../../texts/units";
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
        label={say.secondsFromRest}
        x={launch.speed.x}
        xLabel={say.secondsFullThrottleFull}
        sayX={(s) => `${fixed(s, 2)} s`}
        traces={[
          {
            name: say.speed(units),
            y: launch.speed.y.map((v) => toShown(v, units.speed)),
            say: (v) => `${fixed(v, 1)} ${units.speed}`,
          },
          {
            name: say.accelerationMS,
            y: launch.acceleration.y,
            say: (v) => `${fixed(v, 2)} m/s²`,
            colour: "var(--ink)",
            range: [0, Math.max(...launch.acceleration.y, lifts == null ? 0 : Math.min(lifts, 12)) * 1.15],
            zones: lifts == null ? [] : [{ y0: lifts, colour: "var(--hot-tint)", opacity: 0.8 }],
          },
          { name: say.packAmps, y: launch.pack.y, say: amps, colour: "var(--hot-deep)" },
          { name: say.motorAmps, y: launch.motor.y, say: amps, colour: "var(--amber-line)" },
        ]}
      />
      <div className="grid content-start gap-4">
        <table className="w-full text-small">
          <Head names={say.fromRestToHeads} />
          <tbody>
            {launch.marks.map((m) => (
              <tr key={m.speed_m_s} className="border-t border-line">
                <th scope="row" className={th}>
                  {speed(m.speed_m_s)}
                </th>
                <td className={td}>{fixed(m.time_s, 1)} s</td>
                <td className={td}>{withUnit(m.distance_m, "length", units)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p>{say.peakFromThePacks(amps(launch.peak_a), amps(launch.motor_peak_a), amps(launch.rms_a), launch.slips_until_s)}</p>
        <Block title={say.frontWheel}>
          {launch.wheelie_margin == null || lifts == null ? (
            <p className="text-ink2">{say.theRearWheelDoes}</p>
          ) : (
            <>
              <p className="mb-2 text-ink2">{say.itLiftsAtM(lifts, launch.largest_m_s2, launch.wheelie_share)}</p>
              <table className="w-full text-small">
                <Head names={say.rearWheelMovedBackHeads} />
                <tbody>
                  {launch.longer.map((l) => (
                    <tr key={l.longer_m} className="border-t border-line">
                      <th scope="row" className={th}>
                        {l.longer_m === 0 ? say.asItIs : withUnit(l.longer_m, "small", units)}
                      </th>
                      <td className={`${td} ${l.wheelie_margin <= 1 ? "text-hottext" : ""}`}>
                        {say.theLaunch(l.wheelie_margin)}
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
