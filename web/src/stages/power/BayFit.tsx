/** Do the packs fit the bay, how are they held, what do they weigh and where. */

import type { PowerPlan } from "../../api/client";
import { choices, valuesOf } from "../../lib/choices";
import { type Doc, type Json, read } from "../../lib/pointer";
import { type Row, spotName } from "../../lib/rows";
import { useSettings } from "../../lib/settings";
import { bayFit as say } from "../../texts/power";
import { CheckField, NumberField, SelectField, useForm } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { Grid } from "../Heading";

const HOLDS = valuesOf("Holding.by");

/** Do they fit the bay, how are they held, what do they weigh and where. */
export function BayFit({ plan, rows }: { plan: PowerPlan; rows: Row[] }) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const bay = read(doc, "/vehicle/bay");
  const found = plan.bay;
  const holding = read(doc, "/bank/holding");
  const by = (holding?.by as string[] | undefined) ?? [];
  const names = rows.flatMap((r, row) => r.units.map((_, unit) => spotName(rows, { row, unit })));
  const size = (metres: number): Json => ({ value: metres, basis: "measured" });
  const sized = read(doc, "/bank/rows/0/units/0/length_m") != null;
  const every = (name: string, value: Json) =>
    edit("/bank", {
      ...read(doc, "/bank"),
      rows: rows.map((r) => ({ ...r, units: r.units.map((u) => ({ ...u, [name]: value })) })),
    });
  const answers = say.answers;
  return (
    <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
      <div className="grid content-start gap-3">
        {bay ? (
          <Grid min={110}>
            <NumberField label={say.bayAlong} pointer="/vehicle/bay/length_m" kind="small" />
            <NumberField label={say.across} pointer="/vehicle/bay/width_m" kind="small" />
            <NumberField label={say.high} pointer="/vehicle/bay/height_m" kind="small" />
            <NumberField label={say.padding} pointer="/vehicle/bay/clearance_m" kind="small" plain />
            <NumberField label={say.forConnectors} pointer="/vehicle/bay/connector_m" kind="small" plain />
            <NumberField label={say.middleAheadOfRear} pointer="/vehicle/bay/ahead_of_rear_m" kind="small" plain />
            <NumberField label={say.floorAboveGround} pointer="/vehicle/bay/floor_m" kind="small" plain />
          </Grid>
        ) : read(doc, "/vehicle") ? (
          <div>
            <button
              type="button"
              className="btn"
              onClick={() => edit("/vehicle/bay", { length_m: size(0.3), width_m: size(0.2), height_m: size(0.15) })}
            >
              {say.enterTheBaysInside}
            </button>
          </div>
        ) : (
          <p className="text-ink2">{say.chooseTheKindOf}</p>
        )}
        {sized ? (
          <Grid min={110}>
            <NumberField label={say.firstPackLong} pointer="/bank/rows/0/units/0/length_m" kind="small" />
            <NumberField label={say.wide} pointer="/bank/rows/0/units/0/width_m" kind="small" />
            <NumberField label={say.high} pointer="/bank/rows/0/units/0/height_m" kind="small" />
            <NumberField label={say.weighs} pointer="/bank/rows/0/units/0/mass_kg" kind="mass" />
            {names.length > 1 && (
              <button
                type="button"
                className="btn quiet"
                onClick={() => {
                  const first = rows[0]?.units[0] as Doc;
                  const keep = Object.fromEntries(
                    ["length_m", "width_m", "height_m", "mass_kg"].map((k) => [k, first[k] ?? null]),
                  );
                  edit("/bank", {
                    ...read(doc, "/bank"),
                    rows: rows.map((r) => ({ ...r, units: r.units.map((u) => ({ ...u, ...keep })) })),
                  });
                }}
              >
                {say.allPacksAreThis}
              </button>
            )}
          </Grid>
        ) : (
          <div>
            <button type="button" className="btn" onClick={() => every("length_m", size(0.12))}>
              {say.enterThePacksSides}
            </button>
          </div>
        )}
        <fieldset>
          <legend className="font-bold text-ink2">{say.heldBy}</legend>
          <div className="flex flex-wrap gap-x-4">
            {HOLDS.map((kind) => (
              <label key={kind} className="flex min-h-8 items-center gap-1.5">
                <input
                  type="checkbox"
                  className="size-4.5 accent-[var(--leaf-deep)]"
                  checked={by.includes(kind)}
                  onChange={(e) => {
                    const next = e.target.checked ? [...by, kind] : by.filter((k) => k !== kind);
                    edit("/bank/holding", next.length ? { ...(holding ?? {}), by: next } : null);
                  }}
                />
                {kind}
              </label>
            ))}
          </div>
        </fieldset>
        {holding && (
          <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
            <SelectField
              label={say.theyLeanAgainst}
              pointer="/bank/holding/against"
              options={choices("Holding.against", { "plastic wall": say.aPlasticWall })}
            />
            <CheckField label={say.cushioned} pointer="/bank/holding/cushioned" />
            <CheckField label={say.spreaderPlates} pointer="/bank/holding/spreader_plates" />
            <CheckField label={say.homemadeMount} pointer="/bank/holding/homemade" />
          </div>
        )}
      </div>
      <div>
        <p className="mb-2">{say.thePacksWeighAbove(plan.mass_kg, units, found?.height_m, found?.ahead_of_rear_m)}</p>
        {found && (
          <>
            <p className="mb-2">
              <Glyph
                mark={found.answer === "fits" ? "fits" : found.answer === "sizes not known" ? "unknown" : "caution"}
                size={13}
                quiet
              />{" "}
              {answers[found.answer]}
            </p>
            <BayDrawing found={found} names={names} />
          </>
        )}
      </div>
    </div>
  );
}

/** The bay from above and from the side. */
function BayDrawing({ found, names }: { found: NonNullable<PowerPlan["bay"]>; names: string[] }) {
  const [length = 1, width = 1, height = 1] = found.bay;
  const scale = 300 / length;
  const views = [
    { name: say.fromAbove, high: width, axis: 1, flip: false },
    { name: say.fromTheSide, high: height, axis: 2, flip: true },
  ];
  let top = 16;
  const places = views.map((v) => {
    const at = top;
    top += v.high * scale + 30;
    return at;
  });
  return (
    <svg
      viewBox={`-6 0 316 ${top}`}
      className="block h-auto w-full max-w-[360px]"
      role="img"
      aria-label={say.packsLaidIntoThe(found.boxes.length, names.length)}
    >
      {views.map((v, i) => {
        const y0 = places[i] ?? 0;
        return (
          <g key={v.name}>
            <text x="0" y={y0 - 4} fontSize="11.5">
              {v.name}
            </text>
            <rect
              x="0"
              y={y0}
              width={length * scale}
              height={v.high * scale}
              fill="var(--paper-sunk)"
              stroke="var(--ink)"
              strokeWidth="2"
              rx="3"
            />
            {found.boxes.map((b) => {
              const [x = 0] = b.at;
              const [w = 0] = b.sides;
              const start = b.at[v.axis] ?? 0;
              const side = b.sides[v.axis] ?? 0;
              const y = v.flip ? v.high - start - side : start;
              return (
                <g key={b.index}>
                  <rect
                    x={x * scale + 2}
                    y={y0 + y * scale + 2}
                    width={Math.max(w * scale - 4, 1)}
                    height={Math.max(side * scale - 4, 1)}
                    rx="4"
                    fill="var(--leaf-tint)"
                    fillOpacity="0.85"
                    stroke="var(--ink)"
                  />
                  <text x={x * scale + 8} y={y0 + y * scale + 16} fontSize="12" fontWeight="700">
                    {names[b.index]}
                  </text>
                </g>
              );
            })}
            {found.balance_m && (
              <circle
                cx={(found.balance_m[0] ?? 0) * scale}
                cy={y0 + (v.flip ? v.high - (found.balance_m[v.axis] ?? 0) : (found.balance_m[v.axis] ?? 0)) * scale}
                r="5"
                fill="var(--focus)"
              >
                <title>{say.whereTheirWeightSits}</title>
              </circle>
            )}
          </g>
        );
      })}
    </svg>
  );
}
