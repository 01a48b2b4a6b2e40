/** Power: which packs, how many, how joined; the window against the controller; the sag. */

import { type ReactNode, useState } from "react";
import type { Pack } from "../../api/client";
import { valuesOf } from "../../lib/choices";
import { chosenId, manyOf, useParts } from "../../lib/parts";
import { type Doc, type Json, write } from "../../lib/pointer";
import {
  allOf,
  letter,
  MOST_ROWS,
  MOST_SERIES,
  moved,
  oneMorePack,
  oneMoreRow,
  type Row,
  rowsOf,
  type Spot,
  spotName,
  stepped,
  withoutUnit,
} from "../../lib/rows";
import { useSettings } from "../../lib/settings";
import { usePowerPlan } from "../../lib/useDeepPlan";
import { useParam } from "../../lib/useParam";
import { power as say } from "../../texts/power";
import { plainNumber } from "../../texts/units";
import { FormProvider, Segmented, useForm } from "../../ui/Field";
import { Fit } from "../../ui/Fit";
import { type Basis, BasisGlyph } from "../../ui/Glyph";
import { PickPart } from "../../ui/PickPart";
import { Trouble } from "../../ui/Trouble";
import { Block, Heading, opening } from "../Heading";
import type { StageProps } from "../stage";
import { BayFit } from "./BayFit";
import { BenchDrawing } from "./BenchDrawing";
import { asBank, Board } from "./Board";
import { Cold, Joined, Meter, Sharing, Slots } from "./Deep";
import { Measure } from "./Measure";
import { PackFields } from "./PackFields";
import { Sag } from "./SagPlot";
import { Stepper } from "./Stepper";
import { Window } from "./VoltWindow";

const MORE = [
  ["sharing", say.howRowsShare],
  ["joining", say.joining],
  ["slots", say.slotsAndSwaps],
  ["meter", say.meterAndGuard],
  ["cold", say.inTheCold],
  ["bay", say.bayAndHolding],
  ["measure", say.measureAPack],
] as const;

const OWN = new Set(["resting_v", "charge", "temp_c"]);

/** Together, a number of one pack is a number of all; what is of the moment stays each pack's own. */
function Packs({
  rows,
  together,
  spot,
  bank,
  children,
}: {
  rows: Row[];
  together: boolean;
  spot: Spot;
  bank: Json | undefined;
  children: ReactNode;
}) {
  const form = useForm();
  const here = `/bank/rows/${spot.row}/units/${spot.unit}/`;
  const edit = (pointer: string, value: Json) => {
    const own = pointer.startsWith(here) ? pointer.slice(here.length) : undefined;
    if (!together || !own || OWN.has(own.split("/")[0] ?? "")) return form.edit(pointer, value);
    const all = rows.map((row) => ({ ...row, units: row.units.map((u) => write(u, `/${own}`, value)) }));
    form.edit("/bank", asBank(bank, all));
  };
  return <FormProvider value={{ ...form, edit }}>{children}</FormProvider>;
}

export function Power({ build, row, draft, plan }: StageProps) {
  const parts = useParts();
  const rows = rowsOf(draft.doc);
  const evaluation = plan.evaluation;
  const deep = usePowerPlan({ doc: draft.doc, buildId: build.id, isBaseline: row.is_baseline });
  const [place, setSpot] = useState<Spot>({ row: 0, unit: 0 });
  const [open, setOpen] = useState(false);
  const [asked, setMore] = useParam("more", MORE[0][0]);
  const more = MORE.find(([key]) => key === asked)?.[0] ?? MORE[0][0];
  const { units } = useSettings();
  const unit = rows[0]?.units[0];
  const series = Math.max(...rows.map((r) => r.units.length), 0);
  // Rows of equally many packs can be stepped: what is there stays what it is.
  const even = rows.every((r) => r.units.length === series);
  const [wished, setTogether] = useState<boolean>();
  // Until it is known that all are alike, what is typed at one pack is of that pack alone.
  const together = wished ?? evaluation?.bank?.alike ?? false;
  // The pack that was chosen may be gone after an undo or a stepper.
  const spot = rows[place.row]?.units[place.unit] ? place : { row: 0, unit: 0 };
  const setRows = (next: Row[]) => draft.edit("/bank", asBank(draft.doc.bank, next));
  const others = evaluation?.bank?.another ?? [];
  const step = (count: number, inSeries: number) => setRows(stepped(rows, others, count, inSeries));
  const bank = evaluation?.bank;
  const basis = (name: "capacity_ah" | "peak_10s_a" | "resistance_ohm"): Basis => unit?.[name]?.basis ?? "assumed";
  const packs = parts.packs ?? [];
  return (
    <>
      <Heading
        title={say.power}
        line={opening(evaluation, "power", units) || say.whichPacksHowMany}
        aside={
          <span className="flex gap-3 text-small text-ink2">
            {valuesOf("Figure.basis").map((b) => (
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
            label={say.pack}
            parts={packs}
            value={chosenId(packs, unit as Doc | undefined)}
            none={unit ? String(unit.label) : say.chooseAPack}
            onPick={(_part, picked) => {
              const [across, up] = [Math.max(rows.length, 1), Math.max(series, 1)];
              setRows(allOf(rows, manyOf(picked, packs, across * up) as Pack[], across, up));
            }}
          />
          {unit && even && (
            <>
              <Stepper
                label={say.sideBySide}
                value={rows.length}
                least={1}
                most={MOST_ROWS}
                onChange={(n) => step(n, series)}
                aside={say.moreRunTime}
              />
              <Stepper
                label={say.inSeries}
                value={series}
                least={1}
                most={MOST_SERIES}
                onChange={(n) => step(rows.length, n)}
                aside={say.moreVolts}
              />
            </>
          )}
          {evaluation?.bank && !evaluation.bank.alike && (
            <p className="rounded-lg border border-line bg-paper p-2 text-ink2">{say.thisBankMixesUnlike}</p>
          )}
          {rows.length > 1 && <p className="border-l-4 border-amber pl-2 text-ink2">{say.chargePacksToThe}</p>}
        </div>
        {unit ? (
          <Fit>
            {(width) => (
              <BenchDrawing
                width={width}
                rows={rows}
                evaluation={evaluation}
                onSeries={() => setRows(rows.reduce((all, _, r) => oneMorePack(all, others, r), rows))}
                onRow={() => setRows(oneMoreRow(rows, others, rows.length - 1))}
              />
            )}
          </Fit>
        ) : (
          <p className="self-center text-center text-ink2">{say.chooseThePacksOn}</p>
        )}
        {bank && (
          <dl className="grid content-start gap-1.5 max-wide:col-span-2 max-wide:grid-cols-3 max-desk:col-span-1 max-desk:grid-cols-3">
            {(
              [
                [say.volts, plainNumber(bank.nominal_v), "V", "nameplate", say.fullEmpty(bank.full_v, bank.empty_v)],
                [say.capacity, plainNumber(bank.capacity_ah), "Ah", basis("capacity_ah"), ""],
                [say.energy, plainNumber(bank.energy_wh, 0), "Wh", basis("capacity_ah"), ""],
                [
                  say.tenSeconds,
                  bank.peak_10s_a == null ? "?" : plainNumber(bank.peak_10s_a, 0),
                  "A",
                  basis("peak_10s_a"),
                  bank.peak_at_most ? (bank.peak_10s_a == null ? say.statedOnNoPack : say.atMostStated) : "",
                ],
                [say.innerResistance, plainNumber(bank.resistance_ohm * 1000, 0), "mΩ", basis("resistance_ohm"), ""],
              ] as const
            ).map(([name, value, u, b, line]) => (
              <div key={name} className="border-b border-line pb-1">
                <dt className="flex justify-between text-small text-ink2">
                  {name} <BasisGlyph basis={b} />
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
          <Block title={say.voltageWindow} line={say.fullChargeCountsNot}>
            <Fit>{(width) => <Window evaluation={evaluation} doc={draft.doc} width={width} />}</Fit>
          </Block>
          <Block title={say.sagVoltsFallAs} line={say.theHardestPullCosts(evaluation.outcome.sag_v)}>
            <Sag evaluation={evaluation} />
          </Block>
        </div>
      )}
      {unit && (
        <div className="mt-4 border-t border-line pt-3">
          <Block title={say.rowsAndPacksOne} line={say.dragAPack}>
            <Board
              rows={rows}
              chosen={spot}
              choose={(to) => {
                setSpot(to);
                setOpen(true);
              }}
              change={setRows}
              others={others}
            />
          </Block>
          <details className="mt-3" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
            <summary className="font-head text-[15px] font-bold">{say.packInNumbers(spotName(rows, spot))}</summary>
            <div className="mt-2">
              {rows.length * series > 1 && (
                <label className="mb-2 flex min-h-8 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-5 accent-[var(--leaf-deep)]"
                    checked={together}
                    onChange={(e) => setTogether(e.target.checked)}
                  />
                  {say.whatIChangeHere}
                </label>
              )}
              <Packs rows={rows} together={together && rows.length * series > 1} spot={spot} bank={draft.doc.bank}>
                <PackFields path={`/bank/rows/${spot.row}/units/${spot.unit}`} />
              </Packs>
              <div className="mt-3 flex flex-wrap gap-3">
                <PickPart
                  label={say.packIsAnother(spotName(rows, spot))}
                  parts={packs}
                  none={say.chooseAPack}
                  onPick={(part) => draft.edit(`/bank/rows/${spot.row}/units/${spot.unit}`, part)}
                />
                {rows.length > 1 && (
                  <label>
                    <span className="mb-1 block text-small font-bold text-ink2">{say.moveItTo}</span>
                    <select
                      className="input"
                      value={spot.row}
                      onChange={(e) => {
                        const to = Number(e.target.value);
                        const next = moved(rows, spot, { row: to });
                        setRows(next);
                        const row = Math.min(to, next.length - 1);
                        setSpot({ row, unit: (next[row]?.units.length ?? 1) - 1 });
                      }}
                    >
                      {rows.map((_, r) => (
                        <option key={r} value={r}>
                          {say.row(letter(r))}
                        </option>
                      ))}
                      {rows.length < MOST_ROWS && <option value={rows.length}>{say.aNewRow}</option>}
                    </select>
                  </label>
                )}
                {rows.length * series > 1 && (
                  <button
                    type="button"
                    className="btn quiet self-end"
                    onClick={() => {
                      setRows(withoutUnit(rows, spot));
                      setSpot({ row: 0, unit: 0 });
                    }}
                  >
                    {say.takeItOut}
                  </button>
                )}
              </div>
            </div>
          </details>
        </div>
      )}
      {unit && (
        <div className="mt-4 border-t border-line pt-3">
          <div className="mb-3 max-w-full overflow-x-auto [&_button]:whitespace-nowrap [&_fieldset]:w-max [&_fieldset]:max-w-none">
            <Segmented label={say.moreAboutThesePacks} value={more} options={MORE} onChange={setMore} />
          </div>
          <Trouble error={deep.error} />
          {more === "measure" ? (
            <Measure
              pack={rows[spot.row]?.units[spot.unit] ?? unit}
              name={spotName(rows, spot)}
              adopt={(field, found) =>
                draft.edit(`/bank/rows/${spot.row}/units/${spot.unit}/${field}`, {
                  value: found.value,
                  basis: "measured",
                  spread: found.spread,
                })
              }
            />
          ) : !deep.plan ? (
            <p role="status">{say.workingItOut}</p>
          ) : (
            <>
              {more === "sharing" && <Sharing plan={deep.plan} rows={rows} />}
              {more === "joining" && <Joined plan={deep.plan} />}
              {more === "slots" && <Slots plan={deep.plan} rows={rows} packs={packs} />}
              {more === "meter" && <Meter plan={deep.plan} />}
              {more === "cold" && <Cold plan={deep.plan} />}
              {more === "bay" && <BayFit plan={deep.plan} rows={rows} />}
            </>
          )}
        </div>
      )}
    </>
  );
}
