/** Every gear and mode, reverse, and one motor giving up, beside the one in use. */
import { memo } from "react";
import type { DrivePlan } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { gearsSection as say } from "../../texts/drive";
import { fixed } from "../../texts/locale";
import { duration, plainNumber, withUnit } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { Head, td, th, Wide } from "../../ui/Table";

export const GearsSection = memo(function GearsSection({ gears }: { gears: DrivePlan["gears"] }) {
  const { units } = useSettings();
  return (
    <Wide label={say.gearsAndModes}>
      <table className="w-full text-small">
        <Head names={say.gearOrModeHeads} />
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
                  <td className={td}>{g.launch_s == null ? "–" : `${fixed(g.launch_s, 1)} s`}</td>
                  <td className={td}>{Math.round(100 * g.hill_grade)} %</td>
                  <td className={`${td} ${g.wheelie_margin != null && g.wheelie_margin <= 1 ? "text-hottext" : ""}`}>
                    {g.wheelie_margin == null
                      ? say.cannot
                      : g.wheelie_share != null
                        ? say.ofTheAmps(g.wheelie_share)
                        : say.theLaunch(g.wheelie_margin)}
                  </td>
                  <td className={td}>{g.full_load_to_stop_s == null ? say.never : duration(g.full_load_to_stop_s)}</td>
                </>
              ) : (
                <td className={td} colSpan={7}>
                  {say.doesNotMove}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
});
