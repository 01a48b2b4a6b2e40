/** What the joints cost, what a short draws, where nothing guards, and the spark. */
import { memo } from "react";
import type { ProtectPlan } from "../../api/client";
import { rideEnd } from "../../lib/ends";
import { useSettings } from "../../lib/settings";
import { duration, plainNumber, withUnit } from "../../lib/units";
import { Glyph } from "../../ui/Glyph";
import { Head, td, th, Wide } from "../../ui/Table";

const seconds = (s: number | null) => (s === null ? "never" : s < 0.1 ? `${(1000 * s).toFixed(0)} ms` : `${plainNumber(s)} s`);

export const Joints = memo(function Joints({ joints }: { joints: ProtectPlan["joints"] }) {
  const total = (joints ?? [])
    .filter((j) => j.place.startsWith("main") || j.place === "motor")
    .reduce((sum, j) => sum + j.volts_v, 0);
  return (
    <>
      <table className="w-full text-small">
        <thead>
          <tr className="text-left text-ink3">
            <th scope="col">Part</th>
            <th scope="col" className="text-right">
              mΩ
            </th>
            <th scope="col" className="text-right">
              volts
            </th>
            <th scope="col" className="text-right">
              watts
            </th>
            <th scope="col" className="text-right">
              asked / stands
            </th>
          </tr>
        </thead>
        <tbody>
          {(joints ?? []).map((j) => {
            const over = j.stands_a != null && j.asked_a > j.stands_a;
            return (
              <tr key={`${j.name}${j.place}`} className="border-t border-line">
                <th scope="row" className="py-0.5 text-left font-semibold">
                  {j.name} <span className="font-normal text-ink3">{j.place === "main" ? "" : j.place}</span>
                </th>
                <td className="text-right">{plainNumber(1000 * j.ohm, 1)}</td>
                <td className="text-right">{j.volts_v.toFixed(2)}</td>
                <td className="text-right">{plainNumber(j.watts_w, 1)}</td>
                <td className={`text-right whitespace-nowrap ${over ? "text-hottext" : ""}`}>
                  {plainNumber(j.asked_a, 1)} / {j.stands_a == null ? "?" : plainNumber(j.stands_a, 0)} A
                  {j.stands_v != null && `, ${plainNumber(j.stands_v, 0)} V`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-1 text-small text-ink2">The main path loses {total.toFixed(2)} V under the ride's steady amps.</p>
    </>
  );
});

export const Shorts = memo(function Shorts({ plan }: { plan: ProtectPlan }) {
  const { units } = useSettings();
  return (
    <>
      <table className="w-full text-small">
        <thead>
          <tr className="text-left text-ink3">
            <th scope="col">A short here</th>
            <th scope="col" className="text-right">
              full, warm
            </th>
            <th scope="col" className="text-right">
              20 %, coldest
            </th>
          </tr>
        </thead>
        <tbody>
          {(plan.nodes ?? []).map((n) => (
            <tr key={n.name} className="border-t border-line align-top">
              <th scope="row" className="py-0.5 text-left font-semibold">
                {n.name}
                <span className="block font-normal text-ink3">{n.fuse ? `${n.fuse} opens` : "no fuse before it"}</span>
              </th>
              {(
                [
                  ["warm", n.short_a, n.opens_s],
                  ["cold", n.cold_a, n.cold_opens_s],
                ] as const
              ).map(([key, amps, opens]) => (
                <td key={key} className="text-right whitespace-nowrap">
                  {plainNumber(amps, 0)} A
                  {n.fuse && (
                    <span className={`block ${opens == null ? "text-hottext" : "text-ink3"}`}>{seconds(opens ?? null)}</span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <ul className="mt-2 grid gap-1 text-small">
        {(plan.stretches ?? []).map((s) => (
          <li key={s.name}>
            <Glyph mark={s.length_m > s.most_m ? "caution" : "fits"} size={12} /> {s.name}: {withUnit(s.length_m, "small", units)}{" "}
            without a fuse, at most {withUnit(s.most_m, "small", units)}.
          </li>
        ))}
      </ul>
    </>
  );
});

export const Precharge = memo(function Precharge({ found }: { found: NonNullable<ProtectPlan["precharge"]> }) {
  return (
    <p className="text-ink2">
      Plugged in bare, {plainNumber(1e6 * found.capacitance_f, 0)} µF{found.assumed ? " (assumed)" : ""} draw up to{" "}
      <b>{plainNumber(found.spark_a, 0)} A</b> for an instant, {plainNumber(found.energy_j, 2)} J. Through{" "}
      <b>
        {plainNumber(found.resistor_ohm)} Ω, {plainNumber(found.rated_w)} W
      </b>{" "}
      (wirewound; it bears {plainNumber(found.peak_w, 0)} W for a moment) they are 99 % full after{" "}
      <b>{plainNumber(found.seconds_s, 1)} s</b>: wait twice that, then close the main path.
    </p>
  );
});

/** A blocked wheel, a launch, a climb and the ride: amps, how long, and what ends it. */
export const Demands = memo(function Demands({ demands }: { demands: NonNullable<ProtectPlan["demands"]> }) {
  return (
    <Wide label="What flows, and for how long">
      <table className="w-full text-small">
        <Head names={["when", "packs", "motors", "lasts"]} />
        <tbody>
          {demands.map((one) => (
            <tr key={one.name} className="border-t border-line">
              <th scope="row" className={th}>
                {one.name}
                <span className="block font-normal text-ink3">end: {rideEnd(one.ends_by)}</span>
              </th>
              <td className={td}>{plainNumber(one.pack_a, 0)} A</td>
              <td className={td}>{plainNumber(one.motor_a, 0)} A</td>
              <td className={td}>{one.lasts_s == null ? "on and on" : duration(one.lasts_s)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
});
