/** Hill, stop and turn: what ends each, and what another brake or radius would do. */
import { memo } from "react";
import type { DrivePlan } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { limitsSection as say } from "../../texts/drive";
import { fixed } from "../../texts/locale";
import { withUnit } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { Head, td, th } from "../../ui/Table";
import { Block } from "../Heading";

const HOLDING: Record<string, string> = say.holding;

export const ends = (by: string) =>
  by === "traction" ? say.itSlips : by === "tips back" ? say.itTipsBack : (HOLDING[by.replace("motor:", "")] ?? by);
const percent = (grade: number) => (grade >= 9.99 ? "any" : `${Math.round(100 * grade)} %`);

export const LimitsSection = memo(function LimitsSection({ plan }: { plan: DrivePlan }) {
  const { units } = useSettings();
  const h = plan.hills;
  const speed = (v: number) => withUnit(v, "speed", units);
  return (
    <div className="grid grid-cols-3 gap-6 max-wide:grid-cols-2 max-desk:grid-cols-1">
      {h && (
        <Block title={say.uphill} line={say.heldAtFullPacks(speed(h.pace_m_s))}>
          <dl className="grid gap-1">
            {(
              [
                [say.steepestItHolds, `${percent(h.holds_grade)}: ${ends(h.holds_ends_by)}`],
                [say.steepestItStartsOn, `${percent(h.starts_grade)}: ${ends(h.starts_ends_by)}`],
                [say.theMotorWouldHold, percent(h.motor_grade)],
                [say.theTyresWouldGrip, percent(h.traction_grade)],
                [say.itTipsBackFrom, percent(h.tips_back_grade)],
              ] as const
            ).map(([name, text]) => (
              <div key={name} className="flex justify-between gap-3 border-b border-line text-small">
                <dt className="text-ink2">{name}</dt>
                <dd className="text-right font-bold">{text}</dd>
              </div>
            ))}
          </dl>
        </Block>
      )}
      <Block title={say.stopping} line={say.fromTopSpeedS(plan.reaction_s)}>
        <table className="w-full text-small">
          <Head names={say.brakeHeads} />
          <tbody>
            {plan.stops.map((s) => (
              <tr key={`${s.brake} ${s.axles}`} className={`border-t border-line ${s.in_use ? "bg-focustint font-bold" : ""}`}>
                <th scope="row" className={th}>
                  {s.in_use && <Glyph mark="now" size={11} quiet />} {s.brake}, {s.axles}
                </th>
                <td className={td}>{fixed(s.deceleration_m_s2, 1)} m/s²</td>
                <td className={td}>{withUnit(s.distance_m, "length", units)}</td>
                <td className={td}>{s.against_stock == null ? "–" : `${fixed(s.against_stock, 1)} ×`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Block>
      <Block title={say.turning} line={say.onThisGroundSlower}>
        <table className="w-full text-small">
          <Head names={say.radiusHeads} />
          <tbody>
            {plan.turns.map((t) => (
              <tr key={t.radius_m} className="border-t border-line">
                <th scope="row" className={th}>
                  {withUnit(t.radius_m, "length", units)}
                </th>
                <td className={td}>{speed(t.slides_m_s)}</td>
                <td className={td}>{t.tips_m_s == null ? say.leans : speed(t.tips_m_s)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Block>
    </div>
  );
});
