/** Every gear and mode, reverse, and one motor giving up, beside the one in use. */
import { memo } from "react";
import type { DrivePlan } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { duration, plainNumber, withUnit } from "../../lib/units";
import { Glyph } from "../../ui/Glyph";
import { Head, td, th, Wide } from "../../ui/Table";

export const GearsSection = memo(function GearsSection({ gears }: { gears: DrivePlan["gears"] }) {
  const { units } = useSettings();
  return (
    <Wide label="Gears and modes">
      <table className="w-full text-small">
        <Head
          names={[
            "Gear or mode",
            "top speed",
            "push at rest",
            "stall amps",
            "launch",
            "hill",
            "front lifts at",
            "flat out, end in",
          ]}
        />
        <tbody>
          {gears.map((g) => (
            <tr key={g.name} className={`border-t border-line ${g.in_use ? "bg-focustint font-bold" : ""}`}>
              <th scope="row" className={`${th} min-w-[170px]`}>
                {g.in_use && <Glyph mark="now" size={11} quiet />} {g.name}
                {g.note && <span className="block font-normal text-ink3">{g.note}</span>}
              </th>
              {g.moves ? (
                <>
                  <td className={td}>{withUnit(g.top_speed_m_s, "speed", units)}</td>
                  <td className={td}>{plainNumber(g.push_n, 0)} N</td>
                  <td className={td}>{plainNumber(g.stall_a, 0)} A</td>
                  <td className={td}>{g.launch_s == null ? "–" : `${g.launch_s.toFixed(1)} s`}</td>
                  <td className={td}>{Math.round(100 * g.hill_grade)} %</td>
                  <td className={`${td} ${g.wheelie_margin != null && g.wheelie_margin <= 1 ? "text-hottext" : ""}`}>
                    {g.wheelie_margin == null
                      ? "cannot"
                      : g.wheelie_share != null
                        ? `${Math.round(100 * g.wheelie_share)} % of the amps`
                        : `${g.wheelie_margin.toFixed(1)} × the launch`}
                  </td>
                  <td className={td}>{g.full_load_to_stop_s == null ? "never" : duration(g.full_load_to_stop_s)}</td>
                </>
              ) : (
                <td className={td} colSpan={7}>
                  does not move
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
});
