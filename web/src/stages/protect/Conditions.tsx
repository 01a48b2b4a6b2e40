/** The conditions of one fuse and one gauge, each with its number. */
import { memo } from "react";
import type { Choice } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { plainNumber, sizeWords } from "../../lib/units";
import { Glyph } from "../../ui/Glyph";

export const Conditions = memo(function Conditions({ choice }: { choice: Choice }) {
  const { units } = useSettings();
  const picks = [
    ["now", choice.chosen],
    ["best", choice.best],
  ] as const;
  const lines: [string, string, (n: Record<string, number>) => string][] = [
    ["Carries the ride", "continuous", (n) => `${Math.round(100 * n.continuous_over_limit!)} % used`],
    ["Outlasts launches", "nuisance", (n) => `${Math.round(100 * Math.min(n.nuisance_sum!, 99))} of 50 %`],
    ["Spares the wire", "wire", (n) => `stands ${plainNumber(n.derated_ampacity_a!, 0)} A`],
    [
      "Wire outlasts a short",
      "withstand",
      (n) => `${plainNumber(n.prospective_a!, 0)} A, ${plainNumber(100 * n.i2t_over_withstand!, 0)} %`,
    ],
    ["Breaks a short", "breaking", (n) => `${plainNumber(n.near_fault_a!, 0)} A`],
    ["Opens on a cold day", "cold_short", (n) => `${plainNumber(n.prospective_20_percent_coldest_a!, 0)} A`],
    ["Stands the volts", "volts", (n) => `${Math.round(100 * n.full_volts_over_fuse_volts!)} %`],
    ["Lost in the lead", "drop", (n) => `${plainNumber(100 * n.drop_share_at_continuous_a!, 1)} %`],
  ];
  return (
    <table className="w-full text-small">
      <thead>
        <tr>
          <th scope="col" />
          {picks.map(
            ([name, p]) =>
              p && (
                <th key={name} scope="col" className="px-1 text-left leading-tight">
                  <span className={name === "best" ? "text-leaftext" : "text-focus"}>{name}</span>
                  <br />
                  {plainNumber(p.rating_a)} A × {sizeWords(p.size, units)}
                </th>
              ),
          )}
        </tr>
      </thead>
      <tbody>
        {lines.map(([name, key, say]) => (
          <tr key={key} className="border-t border-line">
            <th scope="row" className="py-0.5 text-left">
              {name}
            </th>
            {picks.map(
              ([who, p]) =>
                p && (
                  <td key={who} className="px-1">
                    <Glyph mark={p.fails.includes(key) ? "stop" : "fits"} size={12} /> {say(p.numbers)}
                  </td>
                ),
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
});
