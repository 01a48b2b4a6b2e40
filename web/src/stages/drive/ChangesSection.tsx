/** One thing at a time: what each change brings and costs, by evaluating the whole machine with it. */
import type { Changes } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { changesSection as say } from "../../texts/drive";
import { fixed, isNothing } from "../../texts/locale";
import { duration, sentence, toShown, unitOf } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { Head, td, th, Wide } from "../../ui/Table";
import { useSaid } from "../../ui/Terms";
import type { Change } from "../../ui/WhatIf";
import { TryButton } from "./TryButton";

const signed = (value: number, digits: number, unit: string) => {
  const text = fixed(Math.abs(value), digits);
  return isNothing(text) ? "±0" : `${value > 0 ? "+" : "−"}${text} ${unit}`.trim();
};

export function ChangesSection({ tried, tryOut }: { tried: NonNullable<Changes["tried"]>; tryOut: (change: Change) => void }) {
  const { units } = useSettings();
  const said = useSaid();
  const speed = unitOf("speed", units);
  const temp = units.temp === "°F" ? 1.8 : 1;
  return (
    <div className="grid gap-3">
      <p className="border-l-4 border-amber pl-3">{said(tried.held_back.sentence)}</p>
      <Wide label={say.singleChanges}>
        <table className="w-full text-small">
          <Head names={say.changeOneThingHeads} />
          <tbody>
            {tried.changes.map((c) => (
              <tr key={c.lever} className="border-t border-line">
                <th scope="row" className={`${th} min-w-[150px]`}>
                  {sentence(c.label, units)}
                  <span className="block font-normal text-ink3">{sentence(c.detail, units)}</span>
                </th>
                <td className={`${td} ${c.top_gain_m_s > 0.02 ? "font-bold" : ""}`}>
                  {signed(toShown(c.top_gain_m_s, speed), 1, speed)}
                </td>
                <td className={td}>{signed(c.launch_gain_s, 1, "s")}</td>
                <td className={td}>{signed(100 * c.hill_gain, 0, "%")}</td>
                <td className={td}>
                  {Math.abs(c.run_time_gain_s) < 30
                    ? "±0"
                    : `${c.run_time_gain_s > 0 ? "+" : "−"}${duration(Math.abs(c.run_time_gain_s))}`}
                </td>
                <td className={td}>{signed(temp * c.winding_gain_k, 0, units.temp)}</td>
                <td className={td}>{signed(toShown(c.stop_gain_m, units.length), 1, units.length)}</td>
                <td className={`${td} ${c.worst_share > 1 ? "text-hottext" : ""}`}>
                  <Glyph mark={c.worst_share > 1 ? "stop" : c.worst_share > 0.85 ? "caution" : "fits"} size={12} />{" "}
                  {c.worst_station} {Math.round(100 * c.worst_share)} %
                </td>
                <td className={td}>
                  <TryButton label={c.label} doc={c.document} tryOut={tryOut} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="text-small text-ink3">{say.eachLineIsThe}</p>
    </div>
  );
}
