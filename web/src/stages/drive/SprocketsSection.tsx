/** Which sprocket to order: speed against launch, hill, heat and the front wheel for every one that can be had. */
import { useState } from "react";
import type { Chooser, Sprocket } from "../../api/client";
import { applyPatch, type Doc } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { sprocketsSection as say } from "../../texts/drive";
import { fixed } from "../../texts/locale";
import { duration, toShown, withUnit } from "../../texts/units";
import { Segmented } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { Plot } from "../../ui/Plot";
import { Head, td, th, Wide } from "../../ui/Table";
import type { Change } from "../../ui/WhatIf";
import { ends } from "./LimitsSection";
import { TryButton } from "./TryButton";

const SIDES = [
  ["motor", say.motorSprocket],
  ["wheel", say.wheelSprocket],
  ["wheel size", say.wheelSize],
] as const;

/** The setup with the fields of a choice put in. */
export const withChoice = (doc: Doc, choice: Sprocket): Doc => applyPatch(doc, choice.patch);

export function SprocketsSection({
  sprockets,
  doc,
  tryOut,
}: {
  sprockets: NonNullable<Chooser["sprockets"]>;
  doc: Doc;
  tryOut: (change: Change) => void;
}) {
  const { units } = useSettings();
  const offered = SIDES.filter(([side]) => sprockets.choices.some((c) => c.side === side));
  const [side, setSide] = useState<string>(offered[0]?.[0] ?? say.wheelSize);
  const now = sprockets.choices.find((c) => c.in_use);
  const key = (c: Sprocket) =>
    side === "motor" ? (c.motor_teeth ?? 0) : side === "wheel" ? (c.wheel_teeth ?? 0) : c.wheel_diameter_m;
  const shown = sprockets.choices.filter((c) => c.side === side || c.in_use).sort((a, b) => key(a) - key(b));
  const name = (c: Sprocket) =>
    side === "wheel size" ? withUnit(c.wheel_diameter_m, "small", units) : say.someTeeth(side, c.motor_teeth, c.wheel_teeth);
  if (!now) return null;
  const axis = (c: Sprocket) => (side === "wheel size" ? toShown(c.wheel_diameter_m, units.small) : key(c));
  const speeds = shown.map((c) => toShown(c.top_speed_m_s, units.speed));
  const hills = shown.map((c) => 100 * Math.min(c.hill_grade, 1));
  const span: [number, number] = [axis(shown[0] ?? now), Math.max(axis(shown.at(-1) ?? now), axis(shown[0] ?? now) + 0.1)];
  const plot = (title: string, y: number[], colour: string) => (
    <Plot
      title={say.forEachChoice(title)}
      xLabel={side === "wheel size" ? say.wheelAcross(units) : say.teeth}
      yLabel={title}
      x={span}
      y={[0, Math.max(...y) * 1.15]}
      height={150}
      lines={[{ x: shown.map(axis), y, colour }]}
      marks={[{ x: axis(now), y: y[shown.indexOf(now)] ?? 0, colour: "var(--focus)" }]}
    />
  );
  return (
    <div className="grid gap-4">
      {sprockets.why_none && <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">{sprockets.why_none}</p>}
      <div className="flex flex-wrap items-center gap-3">
        <Segmented label={say.whatToChange} value={side} options={offered} onChange={setSide} />
        <p className="text-ink2">{say.chainSideWheelSize(sprockets.chain, side)}</p>
      </div>
      {shown.length > 1 && (
        <div className="grid grid-cols-3 gap-4 max-desk:grid-cols-1">
          {plot(say.topSpeedIn(units), speeds, "var(--leaf-deep)")}
          {plot(say.steepestHill, hills, "var(--ink)")}
          {plot(
            say.launchS,
            shown.map((c) => c.launch_s),
            "var(--hot-deep)",
          )}
        </div>
      )}
      <Wide label={say.sprocketsAndWheels}>
        <table className="w-full text-small">
          <Head
            names={[
              say.choice,
              say.topSpeed,
              say.atLaunch,
              say.hillAndWhatEnds,
              say.frontLiftsAt,
              say.winding20Min,
              say.ride,
              say.torqueAsFound,
              ...(now.links ? [say.links, say.centre] : []),
              "",
            ]}
          />
          <tbody>
            {shown.map((c) => (
              <tr key={name(c)} className={`border-t border-line ${c.in_use ? "bg-focustint font-bold" : ""}`}>
                <th scope="row" className={`${th} whitespace-nowrap`}>
                  {c.in_use && <Glyph mark="now" size={11} quiet />} {name(c)}
                </th>
                <td className={td}>{withUnit(c.top_speed_m_s, "speed", units)}</td>
                <td className={td}>{fixed(c.launch_s, 1)} s</td>
                <td className={td}>
                  {Math.round(100 * Math.min(c.hill_grade, 10))} %, {ends(c.hill_ends_by)}
                </td>
                <td className={`${td} ${c.wheelie_margin != null && c.wheelie_margin <= 1 ? "text-hottext" : ""}`}>
                  {c.wheelie_margin == null ? say.cannot : say.launch(c.wheelie_margin)}
                </td>
                <td className={`${td} ${c.motor_20min_c >= 130 ? "text-hottext" : ""}`}>
                  {Math.round(toShown(c.motor_20min_c, units.temp))} {units.temp}
                </td>
                <td className={td}>{duration(c.run_time_s)}</td>
                <td className={td}>{c.stock_torque == null ? "–" : `${fixed(c.stock_torque, 2)} ×`}</td>
                {now.links && (
                  <>
                    <td className={td}>{c.links ?? "–"}</td>
                    <td className={td}>{c.centre_m == null ? "–" : withUnit(c.centre_m, "small", units)}</td>
                  </>
                )}
                <td className={td}>
                  {!c.in_use && <TryButton label={say.with(name(c))} doc={withChoice(doc, c)} tryOut={tryOut} />}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      {now.chain_pull_n != null && <p className="text-small text-ink3">{say.atStandstillAndFull(now.chain_pull_n)}</p>}
    </div>
  );
}
