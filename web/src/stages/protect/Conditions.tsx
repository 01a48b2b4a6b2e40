/** The conditions of one fuse and one gauge, each with its number. */
import { memo } from "react";
import type { Choice } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { conditions as say } from "../../texts/protect";
import { plainNumber, sizeWords } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";

export const Conditions = memo(function Conditions({ choice }: { choice: Choice }) {
  const { units } = useSettings();
  const picks = [
    ["now", choice.chosen],
    ["best", choice.best],
  ] as const;
  const lines: [string, string, (n: Record<string, number>) => string][] = [
    [say.carriesTheRide, "continuous", (n) => say.used(n.continuous_over_limit!)],
    [say.outlastsLaunches, "nuisance", (n) => say.of50(n.nuisance_sum!)],
    [say.sparesTheWire, "wire", (n) => say.standsA(n.derated_ampacity_a!)],
    [
      say.wireOutlastsAShort,
      "withstand",
      (n) => `${plainNumber(n.prospective_a!, 0)} A, ${plainNumber(100 * n.i2t_over_withstand!, 0)} %`,
    ],
    [say.breaksAShort, "breaking", (n) => `${plainNumber(n.near_fault_a!, 0)} A`],
    [say.opensOnACold, "cold_short", (n) => `${plainNumber(n.prospective_20_percent_coldest_a!, 0)} A`],
    [say.standsTheVolts, "volts", (n) => `${Math.round(100 * n.full_volts_over_fuse_volts!)} %`],
    [say.lostInTheLead, "drop", (n) => `${plainNumber(100 * n.drop_share_at_continuous_a!, 1)} %`],
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
