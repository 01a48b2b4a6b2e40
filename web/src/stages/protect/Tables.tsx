/** What the joints cost, what a short draws, where nothing guards, and the spark. */
import { memo } from "react";
import type { ProtectPlan } from "../../api/client";
import { rideEnd } from "../../lib/ends";
import { useSettings } from "../../lib/settings";
import { fixed } from "../../texts/locale";
import { tables as say } from "../../texts/protect";
import { duration, plainNumber } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { Head, td, th, Wide } from "../../ui/Table";

const seconds = (s: number | null) => (s === null ? say.never : s < 0.1 ? say.ms(s) : `${plainNumber(s)} s`);

export const Joints = memo(function Joints({ joints }: { joints: ProtectPlan["joints"] }) {
  const total = (joints ?? [])
    .filter((j) => j.place.startsWith("main") || j.place === "motor")
    .reduce((sum, j) => sum + j.volts_v, 0);
  return (
    <>
      <table className="w-full text-small">
        <thead>
          <tr className="text-left text-ink3">
            <th scope="col">{say.part}</th>
            <th scope="col" className="text-right">
              mΩ
            </th>
            <th scope="col" className="text-right">
              {say.volts}
            </th>
            <th scope="col" className="text-right">
              {say.watts}
            </th>
            <th scope="col" className="text-right">
              {say.askedStands}
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
                <td className="text-right">{fixed(j.volts_v, 2)}</td>
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
      <p className="mt-1 text-small text-ink2">{say.theMainPathLoses(total)}</p>
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
            <th scope="col">{say.aShortHere}</th>
            <th scope="col" className="text-right">
              {say.fullWarm}
            </th>
            <th scope="col" className="text-right">
              {say.lowAndColdest}
            </th>
          </tr>
        </thead>
        <tbody>
          {(plan.nodes ?? []).map((n) => (
            <tr key={n.name} className="border-t border-line align-top">
              <th scope="row" className="py-0.5 text-left font-semibold">
                {n.name}
                <span className="block font-normal text-ink3">{n.fuse ? say.opens(n.fuse) : say.noFuseBeforeIt}</span>
              </th>
              {(
                [
                  [say.warm, n.short_a, n.opens_s],
                  [say.cold, n.cold_a, n.cold_opens_s],
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
            <Glyph mark={s.length_m > s.most_m ? "caution" : "fits"} size={12} />{" "}
            {say.withoutAFuseAt(s.name, s.length_m, units, s.most_m)}
          </li>
        ))}
      </ul>
    </>
  );
});

export const Precharge = memo(function Precharge({ found }: { found: NonNullable<ProtectPlan["precharge"]> }) {
  return (
    <p className="text-ink2">
      {say.pluggedInBare(
        found.capacitance_f,
        found.assumed,
        found.spark_a,
        found.energy_j,
        found.resistor_ohm,
        found.rated_w,
        found.peak_w,
        found.seconds_s,
      )}
    </p>
  );
});

/** A blocked wheel, a launch, a climb and the ride: amps, how long, and what ends it. */
export const Demands = memo(function Demands({ demands }: { demands: NonNullable<ProtectPlan["demands"]> }) {
  return (
    <Wide label={say.whatFlowsAndFor}>
      <table className="w-full text-small">
        <Head names={say.whenHeads} />
        <tbody>
          {demands.map((one) => (
            <tr key={one.name} className="border-t border-line">
              <th scope="row" className={th}>
                {one.name}
                <span className="block font-normal text-ink3">{say.end(rideEnd(one.ends_by))}</span>
              </th>
              <td className={td}>{plainNumber(one.pack_a, 0)} A</td>
              <td className={td}>{plainNumber(one.motor_a, 0)} A</td>
              <td className={td}>{one.lasts_s == null ? say.onAndOn : duration(one.lasts_s)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
});
