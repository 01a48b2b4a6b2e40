/** Power: which packs, how many, how joined; the window against the controller; the sag. */
import type { ReactNode } from "react";
import { useParts } from "../../lib/parts";
import type { Doc, Json } from "../../lib/pointer";
import { plainNumber } from "../../lib/units";
import { CheckField, FormProvider, NumberField, SelectField, useForm } from "../../ui/Field";
import { Fit } from "../../ui/Fit";
import { type Basis, BasisGlyph } from "../../ui/Glyph";
import { PickPart } from "../../ui/PickPart";
import type { StageProps } from "../../workspace/Workspace";
import { Block, Grid, Heading } from "../Heading";
import { BenchDrawing } from "./BenchDrawing";
import { MOST_ROWS, MOST_SERIES, type Row, resized, rowsOf } from "./rows";
import { Sag } from "./SagPlot";
import { Stepper } from "./Stepper";
import { Window } from "./VoltWindow";

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
          <PickPart
            label="Pack"
            parts={packs}
            value={packs.find((p) => p.label === unit?.label)?.id ?? ""}
            none={unit ? String(unit.label) : "Choose a pack…"}
            onPick={(part) => set(part, Math.max(rows.length, 1), Math.max(series, 1))}
          />
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
