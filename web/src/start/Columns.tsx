/** The three questions: which machine, which packs, who rides. */

import type { ReactNode } from "react";
import type { Overview } from "../api/client";
import { choices, MOST } from "../lib/choices";
import type { Kind, Offered } from "../lib/parts";
import { type Doc, read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { decimals } from "../texts/locale";
import { columns as say } from "../texts/start";
import { withUnit } from "../texts/units";
import { NumberField, Segmented, SelectField, TextField, useForm } from "../ui/Field";
import { Glyph } from "../ui/Glyph";
import { MachineDrawing } from "../ui/MachineDrawing";
import { PickPart } from "../ui/PickPart";
import { FAMILIES } from "./families";
import type { ShelfEntry } from "./kept";
import { OwnPack } from "./OwnPack";
import { PackPicture } from "./PackPicture";

/** One of the questions, with what is answered so far. */
export function Question({
  number,
  title,
  said,
  answered,
  children,
}: {
  number: number;
  title: string;
  said: string;
  answered: boolean;
  children: ReactNode;
}) {
  return (
    <section
      aria-label={title}
      className="flex min-w-0 flex-col border-l border-line bg-card first:border-l-0 max-wide:border-l-0"
    >
      <div className="flex items-center gap-3 border-b border-strong bg-sunk px-5 py-1.5 max-desk:px-4">
        <span className="font-head text-[26px] leading-none text-ink3" aria-hidden="true">
          {number}
        </span>
        <div className="min-w-0">
          <h2 className="text-[16px]">{title}</h2>
          <p className="flex items-center gap-1.5 truncate text-small text-ink2">
            <Glyph mark={answered ? "done" : "now"} size={12} quiet /> {said}
          </p>
        </div>
      </div>
      <div className="flex flex-1 flex-col gap-3 px-5 py-3 max-desk:px-4">{children}</div>
    </section>
  );
}

/** What an answer here brings, at the foot of a question. */
function Foot({ children }: { children: ReactNode }) {
  return <p className="mt-auto border-l-4 border-leaf pl-3 text-small text-ink2">{children}</p>;
}

export function Machine({
  family,
  onFamily,
  bare,
  onBare,
}: {
  family: string;
  onFamily: (family: string) => void;
  bare: boolean;
  onBare: (bare: boolean) => void;
}) {
  const { doc, edit } = useForm();
  const volts = read(doc, "/stock/volts_v/value");
  const usual = FAMILIES.find(([value]) => value === family)?.[2] ?? [];
  return (
    <>
      <fieldset
        className="grid grid-cols-7 gap-px overflow-hidden rounded-lg border border-strong bg-line max-desk:grid-cols-4"
        aria-label={say.whatKindOfMachine}
      >
        {FAMILIES.map(([value, words]) => (
          <button
            type="button"
            key={value}
            aria-pressed={family === value}
            onClick={() => onFamily(value)}
            className={`grid justify-items-center gap-0.5 px-0.5 py-1 text-micro leading-[13px] ${family === value ? "bg-ink font-bold text-onink" : "bg-paper text-ink2"}`}
          >
            <span className="rounded bg-card px-0.5">
              <MachineDrawing family={value} width={46} />
            </span>
            {words}
          </button>
        ))}
      </fieldset>
      <div className="grid grid-cols-[minmax(0,150px)_minmax(0,1fr)] items-end gap-4 max-desk:grid-cols-1">
        <div className="max-desk:hidden">
          <MachineDrawing family={family} width={150} />
        </div>
        <div className="grid gap-2">
          <div>
            <span className="mb-1 block text-small font-bold text-ink2">{bare ? say.voltsOfTheKit : say.onTheOldBattery}</span>
            <Segmented
              label={say.usualVolts}
              value={String(volts ?? "")}
              options={usual.map((v) => [String(v), `${v} V`] as const)}
              onChange={(v) => edit("/stock/volts_v", { value: Number(v), basis: "nameplate" })}
            />
          </div>
          {!bare && <NumberField label={say.asBoughtItDoes} pointer="/stock/top_speed_m_s" kind="speed" plain />}
        </div>
      </div>
      <div className="grid grid-cols-2 items-end gap-4">
        <NumberField label={say.batteryVolts} pointer="/stock/volts_v" unit="V" />
        <NumberField label={say.motorWattsEach} pointer="/motor/power_w" unit="W" />
      </div>
      <label className="mt-auto flex items-center gap-2 text-small">
        <input
          type="checkbox"
          className="size-5 accent-[var(--leaf-deep)]"
          checked={bare}
          onChange={(e) => onBare(e.target.checked)}
        />
        {say.nothingElectricOnIt}
      </label>
    </>
  );
}

export function Shelf({
  shelf,
  packs,
  out,
  onShelf,
  onOwn,
}: {
  shelf: ShelfEntry[];
  packs: Kind[];
  /** Packs of the rack that are out of every plan. */
  out: Offered[];
  onShelf: (shelf: ShelfEntry[]) => void;
  onOwn: (own: { label: string; part: Doc; count: number }) => void;
}) {
  const count = (at: number, by: number) =>
    onShelf(shelf.flatMap((x, k) => (k !== at ? [x] : x.count + by < 1 ? [] : [{ ...x, count: Math.min(x.count + by, 12) }])));
  return (
    <>
      <ul className="grid">
        {shelf.map((s, i) => {
          const pack = packs.find((p) => p.id === s.id);
          return (
            <li key={s.id} className="flex items-center gap-3 border-b border-line py-1.5">
              <PackPicture rows={1} series={Math.min(s.count, 3)} cells={Number(pack?.part.cells_in_series ?? 5)} loose />
              <span className="min-w-0 flex-1">
                <b className="block font-head text-[14px] leading-[17px]">{decimals(pack?.label ?? "")}</b>
                {pack && pack.names.length > 0 && (
                  <span className="text-small text-ink2">
                    {say.onYourRack(pack.names.map((one) => one.letter).filter(Boolean))}
                  </span>
                )}
              </span>
              <span className="flex items-center overflow-hidden rounded-lg border border-strong">
                <button type="button" className="min-h-9 px-3 font-bold" aria-label={say.oneLess} onClick={() => count(i, -1)}>
                  −
                </button>
                <b className="w-6 bg-card text-center text-[16px]">{s.count}</b>
                <button type="button" className="min-h-9 px-3 font-bold" aria-label={say.oneMore} onClick={() => count(i, 1)}>
                  +
                </button>
              </span>
            </li>
          );
        })}
      </ul>
      <PickPart
        label={say.addAPack}
        none={shelf.length ? say.anotherPackYouOwn : say.whichPackDoYou}
        parts={packs.filter((p) => !shelf.some((s) => s.id === p.id))}
        onPick={(_part, { id }) =>
          onShelf([...shelf, { id, count: packs.find((p) => p.id === id)?.names.length || 2 }].slice(-6))
        }
      />
      {out.map((one) => (
        <p key={one.id} className="border-l-4 border-hot pl-2 text-small">
          {say.leftOut(one.label, one.own?.out?.title ?? "")}
        </p>
      ))}
      <OwnPack onAdd={onOwn} />
      <Foot>
        <b className="text-ink">{say.sameFiveCells}</b> {say.twentyVoltMax}
      </Foot>
    </>
  );
}

type Known = Overview["riders"][number];

/** Who rides: people of the garage in one tap, others by name and age. The first is whom the numbers are for. */
export function Riders({ riders, cap }: { riders: Known[]; cap: number | null | undefined }) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const main = read(doc, "/rider");
  const also = read(doc, "/also") ?? [];
  const everybody = main ? [main, ...also] : also;
  const put = (people: Doc[]) => {
    edit("/rider", people[0] ?? null);
    edit("/also", people.slice(1));
  };
  const known = (one: Doc | null | undefined) => one != null && riders.some((r) => r.name === one.name);
  // Where the garage knows riders, a form is opened for others only when it is asked for.
  const places = [
    ...((main || riders.length === 0) && !known(main) ? ["/rider"] : []),
    ...also.flatMap((one, i) => (known(one) ? [] : [`/also/${i}`])),
  ];
  return (
    <>
      {riders.length > 0 && (
        <ul aria-label={say.ridersOfThisGarage}>
          {riders.map((r) => {
            const on = everybody.some((one) => one.name === r.name);
            const mass = (r.document.mass_kg as { value?: number } | null | undefined)?.value;
            return (
              <li key={r.id} className="border-b border-line">
                <label className="flex min-h-9 items-center gap-2.5">
                  <input
                    type="checkbox"
                    className="size-5 accent-[var(--leaf-deep)]"
                    checked={on}
                    onChange={() =>
                      put(
                        on
                          ? everybody.filter((one) => one.name !== r.name)
                          : [...everybody.filter((one) => one.name || one.age_years), { ...r.document, name: r.name }],
                      )
                    }
                  />
                  <b className="min-w-0 flex-1 truncate font-head text-[14px]">{r.name}</b>
                  <span className="text-small text-ink2">
                    {[r.document.age_years ? say.years(r.document.age_years) : "", mass ? withUnit(mass, "mass", units) : ""]
                      .filter(Boolean)
                      .join(", ")}
                  </span>
                </label>
              </li>
            );
          })}
        </ul>
      )}
      {places.map((at) => (
        <div key={at} className="grid grid-cols-2 items-end gap-2 border-b border-line pb-2 last:border-b-0">
          <div className="col-span-2">
            <TextField label={at === "/rider" ? say.rider : say.alsoRides} pointer={`${at}/name`} />
          </div>
          <NumberField
            label={at === "/rider" ? say.ridersAge : say.theirAge}
            pointer={`${at}/age_years`}
            unit={say.inYears}
            plain
          />
          <NumberField label={at === "/rider" ? say.ridersMass : say.theirMass} pointer={`${at}/mass_kg`} kind="mass" />
        </div>
      ))}
      <div className="flex flex-wrap items-end gap-2">
        <button
          type="button"
          className="btn"
          disabled={also.length >= MOST["Setup.also"] || (!main && riders.length === 0)}
          onClick={() => (main ? edit("/also", [...also, { name: "" }]) : edit("/rider", { name: "" }))}
        >
          {say.somebodyElseToo}
        </button>
        <div className="min-w-36 flex-1">
          <SelectField label={say.whereItIsRidden} pointer="/ground/surface" options={choices("Ground.surface")} />
        </div>
      </div>
      <Foot>
        {everybody.length > 1 ? <b className="text-ink">{say.lowestCapCounts} </b> : null}
        {cap == null ? say.ageDecidesHowFast : say.isTheMostTo(cap, units)}
      </Foot>
    </>
  );
}
