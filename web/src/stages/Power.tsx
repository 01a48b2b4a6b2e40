/** Power: which packs, how many, how joined; the window against the controller; the sag. */
import { type ReactNode, useId } from "react";
import type { Evaluation } from "../api/client";
import { useParts } from "../lib/parts";
import { type Doc, type Json, read } from "../lib/pointer";
import { plainNumber } from "../lib/units";
import { CheckField, FormProvider, NumberField, SelectField, useForm } from "../ui/Field";
import { Fit } from "../ui/Fit";
import { type Basis, BasisGlyph } from "../ui/Glyph";
import { Plot } from "../ui/Plot";
import type { StageProps } from "../workspace/Workspace";
import { Block, Grid, Heading } from "./Heading";

type Row = { units: Doc[]; fuse?: Json; lead?: Json };
const MOST_ROWS = 8;
const MOST_SERIES = 10;

export function rowsOf(doc: Doc): Row[] {
  return (read(doc, "/bank/rows") as unknown as Row[] | undefined) ?? [];
}

/** A bank of rows × series alike packs, keeping each row's fuse and each pack's own resting volts where they were. */
function resized(rows: Row[], unit: Doc, count: number, series: number): Json {
  return Array.from({ length: count }, (_, r) => {
    const old = rows[r];
    return {
      units: Array.from({ length: series }, (_, u) => {
        const resting = old?.units[u]?.resting_v;
        return { ...unit, resting_v: resting ?? null };
      }),
      fuse: old?.fuse ?? rows[0]?.fuse ?? null,
      lead: old?.lead ?? rows[0]?.lead ?? null,
    };
  }) as unknown as Json;
}

function Stepper({
  label,
  value,
  least,
  most,
  onChange,
  aside,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange: (n: number) => void;
  aside?: string;
}) {
  const id = useId();
  return (
    <div>
      <div className="mb-1 flex justify-between text-small">
        <span id={id} className="font-bold text-ink2">
          {label}
        </span>
        <span className="text-ink3">{aside}</span>
      </div>
      <fieldset
        className="grid h-[42px] grid-cols-[44px_1fr_44px] overflow-hidden rounded-[7px] border border-strong bg-card"
        aria-labelledby={id}
      >
        <button
          type="button"
          className="border-r border-line bg-paper text-[20px] font-bold disabled:text-ink3"
          disabled={value <= least}
          onClick={() => onChange(value - 1)}
          aria-label={`${label}: one less`}
        >
          −
        </button>
        <output className="grid place-items-center font-head text-[21px] font-bold">{value}</output>
        <button
          type="button"
          className="border-l border-line bg-paper text-[20px] font-bold disabled:text-ink3"
          disabled={value >= most}
          onClick={() => onChange(value + 1)}
          aria-label={`${label}: one more`}
        >
          +
        </button>
      </fieldset>
    </div>
  );
}

/** The bench with two axes: to the right more amp-hours and amps, upward more volts. */
function BenchDrawing({
  width,
  rows,
  evaluation,
  onSeries,
  onRow,
}: {
  width: number;
  rows: Row[];
  evaluation: Evaluation | undefined;
  onSeries: () => void;
  onRow: () => void;
}) {
  const count = rows.length;
  const series = Math.max(...rows.map((r) => r.units.length), 1);
  const unit = rows[0]?.units[0];
  const volts = evaluation?.bank?.nominal_v ?? 0;
  const perUnit = volts / series;
  const ah = Number((unit?.capacity_ah as Doc | undefined)?.value ?? 0);
  const limit = evaluation?.trail.find((s) => s.id === "controller")?.stands;
  const full = evaluation?.bank?.full_v ?? 0;
  const nextFull = (full / series) * (series + 1);
  const refused = limit != null && nextFull > limit;
  const w = Math.max(34, Math.min(96, (width - 182) / count - 12));
  const h = Math.min(92, 132 / series);
  const x0 = 56;
  const base = 214;
  const y0 = base - series * (h + 8);
  return (
    <svg
      viewBox={`0 0 ${width} 262`}
      className="block h-auto w-full"
      role="group"
      aria-label={`${count} ${count === 1 ? "row" : "rows"} of ${series} ${series === 1 ? "pack" : "packs in series"}: ${plainNumber(volts)} volts, ${plainNumber(ah * count)} amp-hours`}
    >
      <path d={`M34 232V20m-5 8 5-8 5 8M34 240H${width - 8}m-8-5 8 5-8 5`} fill="none" stroke="var(--ink-2)" strokeWidth="1.4" />
      <text x="20" y="190" fontSize="11.5" transform="rotate(-90 20 190)">
        in a row: more volts
      </text>
      <text x={width / 2} y="257" fontSize="11.5" textAnchor="middle">
        side by side: more amp-hours and amps
      </text>
      <rect x={x0 - 8} y={y0 - 12} width={count * (w + 12) + 12} height="5" fill="var(--w-red)" />
      <text x={x0 + count * (w + 12) + 10} y={y0 - 6} fontSize="15" fontWeight="700">
        +
      </text>
      <rect x={x0 - 8} y={base + 6} width={count * (w + 12) + 12} height="5" fill="var(--w-black)" />
      <text x={x0 + count * (w + 12) + 10} y={base + 14} fontSize="15" fontWeight="700">
        −
      </text>
      {rows.map((row, r) => {
        const x = x0 + r * (w + 12);
        return (
          <g key={r}>
            <path d={`M${x + w / 2} ${y0 - 8}V${base + 8}`} stroke="var(--ink)" strokeWidth="4" />
            {row.units.map((u, i) => {
              const y = base - (i + 1) * (h + 8) + 4;
              const resting = (u.resting_v as Doc | null)?.value;
              const cells = Math.min(Number(u.cells_in_series ?? 1), 10);
              return (
                <g key={i}>
                  <rect x={x} y={y} width={w} height={h} rx="7" fill="var(--leaf-tint)" stroke="var(--ink)" strokeWidth="1.8" />
                  <text x={x + 8} y={y + 15} fontSize="12.5" fontWeight="700">
                    {String.fromCharCode(65 + r)}
                    {series > 1 ? i + 1 : ""}
                  </text>
                  <text x={x + w - 7} y={w < 74 && h > 60 ? y + h - 7 : y + 15} fontSize="11.5" textAnchor="end">
                    {typeof resting === "number" ? `${resting} V` : `${plainNumber(perUnit)} V`}
                  </text>
                  {h > 46 &&
                    Array.from({ length: Math.ceil(cells / 2) }, (_, k) => (
                      <g key={k}>
                        <rect
                          x={x + 8}
                          y={y + 22 + k * ((h - 30) / Math.ceil(cells / 2))}
                          width={w / 2 - 12}
                          height={Math.min(8, (h - 34) / Math.ceil(cells / 2))}
                          rx="2"
                          fill="var(--leaf)"
                        />
                        {k * 2 + 1 < cells && (
                          <rect
                            x={x + w / 2 + 4}
                            y={y + 22 + k * ((h - 30) / Math.ceil(cells / 2))}
                            width={w / 2 - 12}
                            height={Math.min(8, (h - 34) / Math.ceil(cells / 2))}
                            rx="2"
                            fill="var(--leaf)"
                          />
                        )}
                      </g>
                    ))}
                </g>
              );
            })}
            {row.fuse != null && (
              <rect x={x + w / 2 - 5} y={y0 - 6} width="10" height="8" fill="var(--card)" stroke="var(--ink)" />
            )}
          </g>
        );
      })}
      {count < MOST_ROWS && (
        <g
          role="button"
          tabIndex={0}
          className="cursor-pointer"
          onClick={onRow}
          onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onRow()}
          aria-label="One more row side by side"
        >
          <rect
            x={x0 + count * (w + 12) + 26}
            y={base - h - 4}
            width={Math.max(w, 84)}
            height={h}
            rx="7"
            fill="none"
            stroke="var(--focus)"
            strokeWidth="1.6"
            strokeDasharray="5 4"
          />
          <text
            x={x0 + count * (w + 12) + 26 + Math.max(w, 84) / 2}
            y={base - h / 2 - 6}
            fontSize="12"
            fontWeight="700"
            textAnchor="middle"
            style={{ fill: "var(--focus)" }}
          >
            one more row
          </text>
          <text x={x0 + count * (w + 12) + 26 + Math.max(w, 84) / 2} y={base - h / 2 + 9} fontSize="11" textAnchor="middle">
            {plainNumber(ah * (count + 1))} Ah
          </text>
        </g>
      )}
      {series < MOST_SERIES && nextFull <= 120 && (
        <g
          role="button"
          tabIndex={0}
          className="cursor-pointer"
          onClick={onSeries}
          onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onSeries()}
          aria-label="One more in series"
        >
          <rect
            x={x0 - 8}
            y={Math.max(y0 - 54, 4)}
            width="216"
            height="34"
            rx="6"
            fill="var(--card)"
            stroke={refused ? "var(--hot-deep)" : "var(--line-strong)"}
            strokeWidth="1.3"
            strokeDasharray="5 4"
          />
          <text x={x0 + 4} y={Math.max(y0 - 54, 4) + 14} fontSize="12" fontWeight="700">
            One more in series: {plainNumber(perUnit * (series + 1))} V
          </text>
          <text
            x={x0 + 4}
            y={Math.max(y0 - 54, 4) + 28}
            fontSize="11"
            style={{ fill: refused ? "var(--hot-text)" : "var(--ink-2)" }}
          >
            {refused
              ? `controller stands ${plainNumber(limit)} V, full is ${plainNumber(nextFull)}`
              : limit != null
                ? "within what the controller stands"
                : "check motor and switch first"}
          </text>
        </g>
      )}
    </svg>
  );
}

function Window({ evaluation, doc, width }: { evaluation: Evaluation; doc: Doc; width: number }) {
  const bank = evaluation.bank;
  if (!bank) return null;
  const low = read(doc, "/controller/undervoltage_v/value") as number | undefined;
  const most = evaluation.trail.find((s) => s.id === "controller")?.stands ?? undefined;
  const stock = read(doc, "/stock/volts_v/value") as number | undefined;
  const span: [number, number] = [
    Math.min(bank.empty_v, low ?? bank.empty_v, stock ?? bank.empty_v) * 0.85,
    Math.max(bank.full_v, most ?? 0) * 1.08,
  ];
  const over = most !== undefined && bank.full_v > most;
  const x = (v: number) => 14 + ((v - span[0]) / (span[1] - span[0])) * (width - 28);
  return (
    <svg
      viewBox={`0 0 ${width} 150`}
      className="block h-auto w-full"
      role="img"
      aria-label={`Window from ${plainNumber(bank.empty_v)} empty to ${plainNumber(bank.full_v)} volts full${most ? `; the controller stands ${plainNumber(most)} volts` : ""}`}
    >
      {most !== undefined && (
        <rect x={x(low ?? span[0])} y="22" width={x(most) - x(low ?? span[0])} height="96" fill="var(--paper-sunk)" />
      )}
      {most !== undefined && (
        <text x={x(((low ?? span[0]) + most) / 2)} y="14" fontSize="11.5" textAnchor="middle" fontWeight="700">
          {low ? `controller runs ${plainNumber(low)} to ${plainNumber(most)} V` : `controller stands ${plainNumber(most)} V`}
        </text>
      )}
      {[low, most].map((v, i) => v !== undefined && <path key={i} d={`M${x(v)} 20V120`} stroke="var(--ink)" strokeWidth="1.6" />)}
      <rect
        x={x(bank.empty_v)}
        y="54"
        width={x(bank.full_v) - x(bank.empty_v)}
        height="24"
        rx="4"
        fill={over ? "var(--hot)" : "var(--leaf)"}
      />
      <path d={`M${x(bank.nominal_v)} 48v36`} stroke="var(--ink)" strokeWidth="2.4" />
      <text x={x(bank.empty_v)} y="96" fontSize="11" textAnchor="middle">
        {plainNumber(bank.empty_v)}
      </text>
      <text x={x(bank.nominal_v)} y="44" fontSize="11" textAnchor="middle">
        {plainNumber(bank.nominal_v)} nominal
      </text>
      <text x={x(bank.full_v)} y="96" fontSize="11" textAnchor="middle" fontWeight="700">
        {plainNumber(bank.full_v)} full
      </text>
      {stock !== undefined && (
        <text x={x(stock)} y="112" fontSize="11" textAnchor="middle" style={{ fill: "var(--ink-3)" }}>
          ▲ stock {plainNumber(stock)}
        </text>
      )}
      <path d={`M14 122H${width - 14}`} stroke="var(--ink)" />
      {Array.from({ length: 6 }, (_, i) => span[0] + ((i + 0.5) / 6) * (span[1] - span[0])).map((v) => (
        <text key={v} x={x(Math.round(v))} y="138" fontSize="11" textAnchor="middle">
          {Math.round(v)} V
        </text>
      ))}
    </svg>
  );
}

function Sag({ evaluation }: { evaluation: Evaluation }) {
  const o = evaluation.outcome;
  const { full, half, low } = evaluation.curves.sag ?? {};
  if (!o || !full || !half || !low) return null;
  const end = full.x.at(-1) ?? 1;
  const bottom = Math.min(...low.y, evaluation.bank?.empty_v ?? 1e9) * 0.97;
  const at = (line: typeof half, a: number) => line.y[0]! + ((line.y.at(-1)! - line.y[0]!) * a) / (line.x.at(-1) ?? 1);
  const stands = evaluation.bank?.continuous_a;
  return (
    <Plot
      title={`Volts fall from ${plainNumber(half.y[0]!)} at rest to ${plainNumber(at(half, o.peak_a))} at ${plainNumber(o.peak_a)} amps, half charged`}
      xLabel="amps drawn from the packs"
      yLabel="volts at the packs"
      x={[0, end]}
      y={[bottom, full.y[0]! * 1.02]}
      zones={stands != null && stands < end ? [{ x0: stands, colour: "var(--hot-tint)", opacity: 0.7 }] : []}
      lines={[
        full,
        { ...half, width: 3 },
        { ...low, dash: "5 4" },
        {
          x: [0, end],
          y: [evaluation.bank?.empty_v ?? 0, evaluation.bank?.empty_v ?? 0],
          colour: "var(--hot-deep)",
          dash: "7 4",
          width: 1.4,
        },
      ]}
      marks={[
        {
          x: o.cruise_a,
          y: at(half, o.cruise_a),
          text: `cruise ${plainNumber(o.cruise_a)} A`,
          filled: false,
          anchor: "start",
          dx: 6,
          dy: -9,
        },
        {
          x: o.peak_a,
          y: at(half, o.peak_a),
          text: `${plainNumber(o.peak_a)} A · ${at(half, o.peak_a).toFixed(1)} V`,
          colour: "var(--focus)",
          anchor: "end",
          dx: -6,
          dy: 18,
        },
      ]}
      words={[
        { x: end * 0.02, y: full.y[0]! * 0.997, text: "full" },
        { x: end * 0.02, y: low.y[0]! * 0.985, text: "20 %" },
        {
          x: end * 0.3,
          y: (evaluation.bank?.empty_v ?? 0) * 1.008,
          text: `empty ${plainNumber(evaluation.bank?.empty_v ?? 0)} V`,
          colour: "var(--hot-text)",
        },
        ...(stands != null && stands < end
          ? [
              {
                x: stands * 1.01,
                y: full.y[0]! * 1.005,
                text: `packs stand ${plainNumber(stands)} A steady`,
                colour: "var(--hot-text)",
              },
            ]
          : []),
      ]}
    />
  );
}

/** While all packs are alike, a number of the first is a number of all; only the resting volts are each pack's own. */
function AlikePacks({ rows, alike, children }: { rows: Row[]; alike: boolean; children: ReactNode }) {
  const form = useForm();
  const edit = (pointer: string, value: Json) => {
    const own = pointer.match(/^\/bank\/rows\/0\/units\/0\/(\w+)$/)?.[1];
    if (!alike || !own || own === "resting_v") return form.edit(pointer, value);
    const all = rows.map((row) => ({ ...row, units: row.units.map((u) => ({ ...u, [own]: value })) }));
    form.edit("/bank", { rows: all as unknown as Json });
  };
  return <FormProvider value={{ ...form, edit }}>{children}</FormProvider>;
}

export function Power({ draft, plan }: StageProps) {
  const parts = useParts();
  const rows = rowsOf(draft.doc);
  const unit = rows[0]?.units[0];
  const series = Math.max(...rows.map((r) => r.units.length), 0);
  const alike = rows.every(
    (r) =>
      r.units.length === series && r.units.every((u) => u.label === unit?.label && u.cells_in_series === unit?.cells_in_series),
  );
  const set = (to: Doc, count: number, inSeries: number) => draft.edit("/bank", { rows: resized(rows, to, count, inSeries) });
  const evaluation = plan.evaluation;
  const bank = evaluation?.bank;
  const basis = (name: string) => ((unit?.[name] as Doc | null)?.basis as Basis | undefined) ?? "assumed";
  const packs = parts.packs ?? [];
  return (
    <>
      <Heading
        title="Power"
        line="Which packs, how many, and how they are joined."
        aside={
          <span className="flex gap-3 text-small text-ink2">
            {(["measured", "nameplate", "assumed"] as const).map((b) => (
              <span key={b} className="flex items-center gap-1">
                <BasisGlyph basis={b} /> {b}
              </span>
            ))}
          </span>
        }
      />
      <div className="grid grid-cols-[200px_minmax(0,1fr)_120px] gap-5 max-wide:grid-cols-[200px_minmax(0,1fr)] max-desk:grid-cols-1">
        <div className="grid content-start gap-3">
          <label className="block">
            <span className="mb-1 block text-small font-bold text-ink2">Pack</span>
            <select
              className="input"
              value={packs.find((p) => p.label === unit?.label)?.id ?? ""}
              onChange={(e) => {
                const picked = packs.find((p) => p.id === e.target.value);
                if (picked) set(picked.part as Doc, Math.max(rows.length, 1), Math.max(series, 1));
              }}
            >
              <option value="">{unit ? String(unit.label) : "Choose a pack…"}</option>
              {packs.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.label}
                </option>
              ))}
            </select>
          </label>
          {unit && alike && (
            <>
              <Stepper
                label="Side by side"
                value={rows.length}
                least={1}
                most={MOST_ROWS}
                onChange={(n) => set(unit, n, series)}
                aside="more run time"
              />
              <Stepper
                label="In series"
                value={series}
                least={1}
                most={MOST_SERIES}
                onChange={(n) => set(unit, rows.length, n)}
                aside="more volts"
              />
            </>
          )}
          {unit && !alike && (
            <p className="rounded-lg border border-line bg-paper p-2 text-ink2">
              This bank mixes unlike packs. It is computed as it is; edit its packs below, or choose one pack above to start anew.
            </p>
          )}
          {rows.length > 1 && (
            <p className="border-l-4 border-amber pl-2 text-ink2">
              Charge packs to the same volts before you join them side by side.
            </p>
          )}
        </div>
        {unit ? (
          <Fit>
            {(width) => (
              <BenchDrawing
                width={width}
                rows={rows}
                evaluation={evaluation}
                onSeries={() => set(unit, rows.length, series + 1)}
                onRow={() => set(unit, rows.length + 1, series)}
              />
            )}
          </Fit>
        ) : (
          <p className="self-center text-center text-ink2">
            Choose the packs on your shelf: volts, amps and speed follow at once.
          </p>
        )}
        {bank && (
          <dl className="grid content-start gap-1.5 max-wide:col-span-2 max-wide:grid-cols-3 max-desk:col-span-1 max-desk:grid-cols-3">
            {(
              [
                [
                  "Volts",
                  plainNumber(bank.nominal_v),
                  "V",
                  "nameplate",
                  `full ${plainNumber(bank.full_v)} · empty ${plainNumber(bank.empty_v)}`,
                ],
                ["Capacity", plainNumber(bank.capacity_ah), "Ah", basis("capacity_ah"), ""],
                ["Energy", plainNumber(bank.energy_wh, 0), "Wh", basis("capacity_ah"), ""],
                ["Ten seconds", bank.peak_10s_a == null ? "?" : plainNumber(bank.peak_10s_a, 0), "A", basis("peak_10s_a"), ""],
                ["Inner resistance", plainNumber(bank.resistance_ohm * 1000, 0), "mΩ", basis("resistance_ohm"), ""],
              ] as const
            ).map(([name, value, u, b, line]) => (
              <div key={name} className="border-b border-line pb-1">
                <dt className="flex justify-between text-small text-ink2">
                  {name} <BasisGlyph basis={b as Basis} />
                </dt>
                <dd className="font-head text-[21px] leading-6 font-bold">
                  {value} <span className="font-text text-small font-normal text-ink3">{u}</span>
                </dd>
                {line && <dd className="text-micro text-ink2">{line}</dd>}
              </div>
            ))}
          </dl>
        )}
      </div>
      {evaluation?.outcome && (
        <div className="mt-4 grid grid-cols-2 gap-6 border-t border-line pt-3 max-desk:grid-cols-1">
          <Block title="Voltage window" line="Full charge counts, not the number on the label.">
            <Fit>{(width) => <Window evaluation={evaluation} doc={draft.doc} width={width} />}</Fit>
          </Block>
          <Block
            title="Sag: volts fall as amps rise"
            line={`The hardest pull costs ${evaluation.outcome.sag_v.toFixed(1)} V inside the packs.`}
          >
            <Sag evaluation={evaluation} />
          </Block>
        </div>
      )}
      {unit && (
        <details className="mt-4 border-t border-line pt-3" open={!alike || undefined}>
          <summary className="font-head text-[15px] font-bold">The packs in numbers</summary>
          <AlikePacks rows={rows} alike={alike}>
            {rows.map((row, r) =>
              row.units.map((_, u) =>
                r === 0 || !alike || rows.length > 1 ? (
                  <div key={`${r}.${u}`} className="mt-3">
                    <h3 className="mb-2 text-[13.5px]">
                      {rows.length > 1 || row.units.length > 1
                        ? `Pack ${String.fromCharCode(65 + r)}${row.units.length > 1 ? u + 1 : ""}`
                        : "Pack"}
                    </h3>
                    <Grid min={140}>
                      <NumberField label="Resting volts now" pointer={`/bank/rows/${r}/units/${u}/resting_v`} unit="V" />
                      {(r === 0 && u === 0) || !alike ? (
                        <>
                          <NumberField label="Capacity" pointer={`/bank/rows/${r}/units/${u}/capacity_ah`} unit="Ah" />
                          <NumberField
                            label="Cells in series"
                            pointer={`/bank/rows/${r}/units/${u}/cells_in_series`}
                            plain
                            whole
                          />
                          <SelectField
                            label="Chemistry"
                            pointer={`/bank/rows/${r}/units/${u}/chemistry`}
                            options={[
                              ["li-ion", "li-ion"],
                              ["lfp", "LFP"],
                              ["lead", "lead"],
                            ]}
                          />
                          <NumberField label="Resistance" pointer={`/bank/rows/${r}/units/${u}/resistance_ohm`} unit="Ω" />
                          <NumberField label="Steady amps" pointer={`/bank/rows/${r}/units/${u}/continuous_a`} unit="A" />
                          <NumberField label="Amps for 10 s" pointer={`/bank/rows/${r}/units/${u}/peak_10s_a`} unit="A" />
                          <NumberField label="Switches off at" pointer={`/bank/rows/${r}/units/${u}/trip_a`} unit="A" />
                          <NumberField label="Own low cut-off" pointer={`/bank/rows/${r}/units/${u}/protection_low_v`} unit="V" />
                          <CheckField label="The tool guards it" pointer={`/bank/rows/${r}/units/${u}/guard_in_tool`} />
                        </>
                      ) : null}
                    </Grid>
                  </div>
                ) : null,
              ),
            )}
          </AlikePacks>
          {alike && rows.length * series > 1 && (
            <p className="mt-2 text-small text-ink3">
              The packs are alike: a number of the first is a number of all. Resting volts are each pack's own.
            </p>
          )}
        </details>
      )}
    </>
  );
}
