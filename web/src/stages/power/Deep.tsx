/** What the packs do beyond the first look: how rows share and empty, joining them, slots, cold, the meter, the bay. */
import { useState } from "react";
import type { PowerPlan } from "../../api/client";
import { type Doc, type Json, read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { duration, plainNumber, toShown, withUnit } from "../../lib/units";
import { CheckField, NumberField, Segmented, SelectField, useForm } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { PickPart, type ShipWithPart } from "../../ui/PickPart";
import { Plot } from "../../ui/Plot";
import { Block, Grid } from "../Heading";
import { letter, type Row, spotName } from "./rows";

const COLOURS = ["var(--leaf-deep)", "var(--focus)", "var(--hot-deep)", "var(--amber-line)", "var(--ink)"];
const DASHES = [undefined, "7 3", "3 3", "9 3 2 3", "1.5 3"];
const th = "py-0.5 pr-2 text-left font-semibold";
const td = "py-0.5 pl-2 text-right whitespace-nowrap";

/** Column heads: the first to the left, numbers to the right. */
function Head({ names }: { names: string[] }) {
  return (
    <thead>
      <tr className="text-ink3">
        {names.map((name, i) => (
          <th key={name} scope="col" className={`${i ? td : th} align-bottom ${name.length > 12 ? "!whitespace-normal" : ""}`}>
            {name}
          </th>
        ))}
      </tr>
    </thead>
  );
}

/** Each row's amps from full to the end, who ends the ride, what stays in whom. */
export function Sharing({ plan, rows }: { plan: PowerPlan; rows: Row[] }) {
  const [start, setStart] = useState("full");
  const all = plan.emptying ?? [];
  const shown = all.find((e) => e.start === start) ?? all[0];
  if (!shown)
    return (
      <p className="text-ink2">
        No amps flow at cruise yet: enter motor and machine, or see the findings for what keeps it from moving.
      </p>
    );
  const most = Math.max(...shown.rows.flatMap((r) => r.y));
  const least = Math.min(0, ...shown.rows.flatMap((r) => r.y));
  const ender = shown.units.find((u) => u.ends);
  const unused = shown.units.reduce((sum, u) => sum + u.unused_ah, 0);
  const minutes = (s: number) => s / 60;
  const alike = shown.rows.every((r) => Math.abs((r.y[0] ?? 0) - (shown.rows[0]?.y[0] ?? 0)) < 0.01);
  return (
    <div className="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-5 max-desk:grid-cols-1">
      <div>
        {all.length > 1 && (
          <Segmented
            label="Where it starts"
            value={shown.start}
            options={[
              ["full", "from full"],
              ["as they rest", "as they are now"],
            ]}
            onChange={setStart}
          />
        )}
        <Plot
          title={`Amps of each row over ${Math.round(minutes(shown.seconds_s))} minutes of cruise, which ends by ${shown.ends_by}`}
          xLabel={`minutes at ${plainNumber(shown.amps_a, 1)} A`}
          yLabel="amps of a row"
          x={[0, minutes(shown.seconds_s)]}
          y={[least * 1.1, most * 1.15]}
          lines={shown.rows.map((r, i) => ({
            x: r.x.map(minutes),
            y: r.y,
            colour: COLOURS[i % COLOURS.length] as string,
            ...(DASHES[i % DASHES.length] ? { dash: DASHES[i % DASHES.length] as string } : {}),
          }))}
          words={
            alike
              ? [{ x: minutes(shown.seconds_s) * 0.03, y: most * 1.06, text: shown.rows.length > 1 ? "all rows alike" : "row A" }]
              : shown.rows.map((r, i) => ({
                  x: minutes(shown.seconds_s) * (0.04 + 0.12 * (i % 5)),
                  y: (r.y[Math.floor((r.y.length * (0.04 + 0.12 * (i % 5))) | 0)] ?? 0) + (most - least) * 0.04,
                  text: `row ${letter(i)}`,
                  colour: COLOURS[i % COLOURS.length] as string,
                  bold: true,
                }))
          }
        />
      </div>
      <div>
        <p className="mb-2">
          {ender ? (
            <>
              Pack <b>{spotName(rows, { row: ender.row, unit: ender.unit })}</b> ends it{" "}
              {shown.ends_by === "empty" ? "by being empty" : "by its own low cut-off"}
            </>
          ) : (
            <>The low-volt guard ends it</>
          )}{" "}
          after <b>{duration(shown.seconds_s)}</b>; {plainNumber(unused, 2)} Ah stay unused.
        </p>
        <table className="w-full text-small">
          <Head names={["Pack", "starts", "ends", "unused"]} />
          <tbody>
            {shown.units.map((u) => (
              <tr key={`${u.row}.${u.unit}`} className="border-t border-line">
                <th scope="row" className={th}>
                  {u.ends && <Glyph mark="now" size={11} quiet />} {spotName(rows, { row: u.row, unit: u.unit })}{" "}
                  <span className="font-normal text-ink3">{u.label}</span>
                </th>
                <td className={td}>{Math.round(100 * u.start)} %</td>
                <td className={td}>{Math.round(100 * u.end)} %</td>
                <td className={td}>{plainNumber(u.unused_ah, 2)} Ah</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** What flows between rows when they are joined as they rest now. */
export function Joined({ plan }: { plan: PowerPlan }) {
  const pairs = plan.joining ?? [];
  const worst = [...pairs].sort((a, b) => b.first_a / b.allowed_a - a.first_a / a.allowed_a)[0];
  if (!worst)
    return <p className="text-ink2">Enter what each pack rests at, or its charge: then what flows at joining is known.</p>;
  const bad = worst.first_a > worst.allowed_a;
  const names = `${letter(worst.high)} and ${letter(worst.low)}`;
  const end = Math.max(worst.settled_s / 60, 0.5);
  return (
    <div className="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-5 max-desk:grid-cols-1">
      <Plot
        title={`Amps from row ${letter(worst.high)} into row ${letter(worst.low)} after joining: ${plainNumber(worst.first_a, 1)} at first`}
        xLabel="minutes after joining"
        yLabel={`amps into row ${letter(worst.low)}`}
        x={[0, end]}
        y={[0, Math.max(worst.first_a, worst.allowed_a) * 1.15]}
        lines={[
          { x: worst.flow.x.map((s) => s / 60), y: worst.flow.y, colour: bad ? "var(--hot-deep)" : "var(--leaf-deep)" },
          { x: [0, end], y: [worst.allowed_a, worst.allowed_a], colour: "var(--focus)", dash: "6 4", width: 1.6 },
        ]}
        words={[
          {
            x: end * 0.97,
            y: worst.allowed_a * 1.04,
            text: `it stands ${plainNumber(worst.allowed_a, 1)} A`,
            anchor: "end",
            colour: "var(--focus)",
          },
        ]}
      />
      <div className="grid content-start gap-2">
        <p className={bad ? "rounded-lg border-2 border-hotdeep bg-hottint p-2" : ""}>
          <Glyph mark={bad ? "stop" : "fits"} size={13} quiet /> Rows {names} rest at {worst.high_v.toFixed(1)} and{" "}
          {worst.low_v.toFixed(1)} V: joined now, <b>{plainNumber(worst.first_a, 1)} A</b> flow
          {bad ? `, more than it stands for ${duration(worst.safe_after_s)}.` : "; it may be charged with that."} Charge both to
          within <b>{worst.within_v.toFixed(2)} V</b> before joining.
        </p>
        <table className="w-full text-small">
          <Head names={["Rows", "apart", "at first", "settled"]} />
          <tbody>
            {pairs.map((p) => (
              <tr key={`${p.high}.${p.low}`} className="border-t border-line">
                <th scope="row" className={th}>
                  {letter(p.high)} into {letter(p.low)}
                </th>
                <td className={td}>{(p.high_v - p.low_v).toFixed(2)} V</td>
                <td className={`${td} ${p.first_a > p.allowed_a ? "text-hottext" : ""}`}>{plainNumber(p.first_a, 1)} A</td>
                <td className={td}>{duration(p.settled_s)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** Which slots may stay empty, and what the rows left must then bear; packs together or one after the other. */
export function Slots({ plan, rows, packs }: { plan: PowerPlan; rows: Row[]; packs: ShipWithPart[] }) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const home = read(doc, "/bank/home_pack") as Doc | null | undefined;
  const swap = plan.swap;
  return (
    <div className="grid gap-3">
      <Grid min={190}>
        {rows.length > 1 && (
          <SelectField
            label="Ridden with empty slots?"
            pointer="/bank/occupancy"
            options={[
              ["all", "never: all slots filled"],
              ["one out", "one row may be out"],
              ["any", "any, as long as one is in"],
            ]}
          />
        )}
        <PickPart
          label="A small pack to get home on"
          parts={packs}
          value={packs.find((p) => p.label === home?.label)?.id ?? ""}
          none={home ? String(home.label) : "none"}
          onPick={(part) => edit("/bank/home_pack", part as Json)}
        />
        {home && (
          <button type="button" className="btn quiet" onClick={() => edit("/bank/home_pack", null)}>
            No home pack
          </button>
        )}
      </Grid>
      <div className="overflow-x-auto">
        <table className="w-full text-small">
          <Head names={["Slots", "volts", "peak", "steady", "worst row", "top speed", "run time", "sag"]} />
          <tbody>
            {(plan.occupancies ?? []).map((o) => (
              <tr key={o.name} className="border-t border-line align-top">
                <th scope="row" className={th}>
                  <Glyph mark={o.problems.length ? (o.permitted ? "stop" : "caution") : "fits"} size={12} /> {o.name}
                  {!o.permitted && <span className="font-normal text-ink3"> (not planned)</span>}
                  {o.problems.map((p) => (
                    <span key={p} className="block font-normal text-hottext">
                      {p}
                    </span>
                  ))}
                </th>
                <td className={td}>{o.volts_v.toFixed(1)} V</td>
                <td className={td}>{plainNumber(o.peak_a, 0)} A</td>
                <td className={td}>{plainNumber(o.rms_a, 1)} A</td>
                <td className={td}>{plainNumber(o.worst_row_a, 1)} A</td>
                <td className={td}>{o.top_speed_m_s == null ? "?" : withUnit(o.top_speed_m_s, "speed", units)}</td>
                <td className={td}>{o.run_time_s == null ? "?" : duration(o.run_time_s)}</td>
                <td className={td}>{o.sag_v.toFixed(1)} V</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {swap && (
        <p className="border-l-4 border-strong pl-2">
          All rows together run <b>{duration(swap.together_s)}</b> and sag {swap.together_sag_v.toFixed(1)} V at the hardest pull.
          Used one after the other, with {swap.changes} {swap.changes === 1 ? "change" : "changes"}, they run{" "}
          <b>{duration(swap.swapped_s)}</b> in all and sag {swap.swapped_sag_v.toFixed(1)} V.
        </p>
      )}
    </div>
  );
}

/** The packs in the cold. */
export function Cold({ plan }: { plan: PowerPlan }) {
  const { units } = useSettings();
  return (
    <table className="w-full max-w-[520px] text-small">
      <Head names={["Packs at", "give", "inner resistance", "sag at the peak"]} />
      <tbody>
        {(plan.cold ?? []).map((c) => (
          <tr key={c.temp_c} className="border-t border-line">
            <th scope="row" className={th}>
              {Math.round(toShown(c.temp_c, units.temp))} {units.temp}
            </th>
            <td className={td}>{plainNumber(c.capacity_ah, 1)} Ah</td>
            <td className={td}>{plainNumber(1000 * c.resistance_ohm, 0)} mΩ</td>
            <td className={td}>{c.sag_v.toFixed(1)} V</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The table for the handlebar, and what each set point of a guard leaves or overstrains. */
export function Meter({ plan }: { plan: PowerPlan }) {
  if (!plan.meter?.length) return <p className="text-ink2">Enter motor and machine: then the volts at cruise are known.</p>;
  return (
    <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
      <Block
        title="For the handlebar"
        line={`Volts at the packs, at rest and cruising with ${plainNumber(plan.cruise_a ?? 0, 1)} A.`}
      >
        <div data-print="handlebar">
          <table className="w-full max-w-[300px] text-small">
            <Head names={["Charge", "at rest", "cruising"]} />
            <tbody>
              {plan.meter.map((m) => (
                <tr key={m.charge} className={`border-t border-line ${m.charge <= 0.2 ? "text-hottext" : ""}`}>
                  <th scope="row" className={th}>
                    {Math.round(100 * m.charge)} %
                  </th>
                  <td className={td}>{m.rest_v.toFixed(1)} V</td>
                  <td className={td}>{m.cruise_v.toFixed(1)} V</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <button
          type="button"
          className="btn mt-2"
          onClick={() => {
            document.documentElement.dataset.printing = "handlebar";
            window.print();
            delete document.documentElement.dataset.printing;
          }}
        >
          Print for the handlebar
        </button>
      </Block>
      <Block title="Where to set the guard" line="Too low spoils cells; too high wastes charge. Unloaded, the volts come back.">
        <table className="w-full text-small">
          <Head names={["Set point", "a cell", "left, cruising", "left, full pull", "comes back to"]} />
          <tbody>
            {(plan.set_points ?? []).map((p) => (
              <tr key={p.volts_v} className="border-t border-line">
                <th scope="row" className={th}>
                  <Glyph mark={p.below_floor ? "stop" : p.left_cruise > 0.25 ? "caution" : "fits"} size={12} />{" "}
                  {p.volts_v.toFixed(1)} V
                </th>
                <td className={td}>{p.cell_v.toFixed(2)} V</td>
                <td className={td}>{Math.round(100 * p.left_cruise)} %</td>
                <td className={td}>{Math.round(100 * p.left_peak)} %</td>
                <td className={td}>{p.rebound_v.toFixed(1)} V</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Block>
    </div>
  );
}

const HOLDS = ["strap", "bracket", "clamp", "screws", "dock latch", "glue", "tape", "elastic", "hook-and-loop"] as const;

/** Do they fit the bay, how are they held, what do they weigh and where. */
export function BayFit({ plan, rows }: { plan: PowerPlan; rows: Row[] }) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const bay = read(doc, "/vehicle/bay");
  const found = plan.bay;
  const holding = read(doc, "/bank/holding") as Doc | null | undefined;
  const by = (holding?.by as string[] | undefined) ?? [];
  const names = rows.flatMap((r, row) => r.units.map((_, unit) => spotName(rows, { row, unit })));
  const size = (metres: number): Json => ({ value: metres, basis: "measured" });
  const sized = (read(doc, "/bank/rows/0/units/0/length_m") as Json | undefined) != null;
  const every = (name: string, value: Json) =>
    edit("/bank", {
      ...(read(doc, "/bank") as Doc),
      rows: rows.map((r) => ({ ...r, units: r.units.map((u) => ({ ...u, [name]: value })) })) as unknown as Json,
    });
  const say = {
    fits: "They fit, with padding around and room for their connectors.",
    "too big": "They do not fit: a pack, or all together, are larger than the bay.",
    "no way found": "No way was found to lay them in, though their volume would do.",
    "sizes not known": "Enter the packs' sides to see whether they fit.",
  };
  return (
    <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
      <div className="grid content-start gap-3">
        {bay ? (
          <Grid min={110}>
            <NumberField label="Bay, along" pointer="/vehicle/bay/length_m" kind="small" />
            <NumberField label="across" pointer="/vehicle/bay/width_m" kind="small" />
            <NumberField label="high" pointer="/vehicle/bay/height_m" kind="small" />
            <NumberField label="Padding" pointer="/vehicle/bay/clearance_m" kind="small" plain />
            <NumberField label="For connectors" pointer="/vehicle/bay/connector_m" kind="small" plain />
            <NumberField label="Middle ahead of rear axle" pointer="/vehicle/bay/ahead_of_rear_m" kind="small" plain />
            <NumberField label="Floor above ground" pointer="/vehicle/bay/floor_m" kind="small" plain />
          </Grid>
        ) : read(doc, "/vehicle") ? (
          <div>
            <button
              type="button"
              className="btn"
              onClick={() => edit("/vehicle/bay", { length_m: size(0.3), width_m: size(0.2), height_m: size(0.15) })}
            >
              Enter the bay's inside measures
            </button>
          </div>
        ) : (
          <p className="text-ink2">Choose the kind of machine in Survey first.</p>
        )}
        {sized ? (
          <Grid min={110}>
            <NumberField label="First pack, long" pointer="/bank/rows/0/units/0/length_m" kind="small" />
            <NumberField label="wide" pointer="/bank/rows/0/units/0/width_m" kind="small" />
            <NumberField label="high" pointer="/bank/rows/0/units/0/height_m" kind="small" />
            <NumberField label="weighs" pointer="/bank/rows/0/units/0/mass_kg" kind="mass" />
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
                    ...(read(doc, "/bank") as Doc),
                    rows: rows.map((r) => ({ ...r, units: r.units.map((u) => ({ ...u, ...keep })) })) as unknown as Json,
                  });
                }}
              >
                All packs are this size
              </button>
            )}
          </Grid>
        ) : (
          <div>
            <button type="button" className="btn" onClick={() => every("length_m", size(0.12))}>
              Enter the packs' sides
            </button>
          </div>
        )}
        <fieldset>
          <legend className="font-bold text-ink2">Held by</legend>
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
              label="They lean against"
              pointer="/bank/holding/against"
              options={[
                ["padding", "padding"],
                ["plastic wall", "a plastic wall"],
                ["bare metal", "bare metal"],
              ]}
            />
            <CheckField label="cushioned" pointer="/bank/holding/cushioned" />
            <CheckField label="spreader plates" pointer="/bank/holding/spreader_plates" />
          </div>
        )}
      </div>
      <div>
        <p className="mb-2">
          The packs weigh <b>{withUnit(plan.mass_kg ?? 0, "mass", units)}</b>
          {found?.height_m != null && `, their weight sits ${withUnit(found.height_m, "small", units)} above the ground`}
          {found?.ahead_of_rear_m != null && ` and ${withUnit(found.ahead_of_rear_m, "small", units)} ahead of the rear axle`}.
        </p>
        {found && (
          <>
            <p className="mb-2">
              <Glyph
                mark={found.answer === "fits" ? "fits" : found.answer === "sizes not known" ? "unknown" : "caution"}
                size={13}
                quiet
              />{" "}
              {say[found.answer]}
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
    { name: "from above", high: width, axis: 1, flip: false },
    { name: "from the side", high: height, axis: 2, flip: true },
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
      aria-label={`Packs laid into the bay, ${found.boxes.length} of ${names.length} placed`}
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
                <title>where their weight sits</title>
              </circle>
            )}
          </g>
        );
      })}
    </svg>
  );
}
