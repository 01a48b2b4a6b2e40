/** Which colour is which: what one sees on either half of a plug, paired by what it is for. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId } from "react";
import { client, type Hookup, unwrap } from "../../api/client";
import { choices, MOST } from "../../lib/choices";
import { useRack } from "../../lib/parts";
import { type Doc, read } from "../../lib/pointer";
import { saveAs } from "../../lib/saveAs";
import { PhotosOf } from "../../photos/PhotosOf";
import { coloursSection as say } from "../../texts/hookup";
import { CheckField, Segmented, SelectField, TextField, useForm } from "../../ui/Field";
import { FilePick } from "../../ui/FilePick";
import { Glyph } from "../../ui/Glyph";
import { Trouble } from "../../ui/Trouble";
import type { StageProps } from "../stage";

type Crosswalk = Hookup["plugs"][number];
type Half = "controller" | "part";

const NAMES: Record<string, string> = say.names;
const COLOURS = [
  "red",
  "black",
  "white",
  "green",
  "blue",
  "yellow",
  "orange",
  "brown",
  "violet",
  "grey",
  "pink",
  say.whiteWithRed,
  say.whiteWithBlack,
];
const MATES = [
  ["", say.notTried],
  ["yes", say.yes],
  ["no", say.no],
] as const;

/** A plug's own name beside others of its kind: plugs have no number of their own, but are rarely moved. */
function placeOf(pairs: readonly Doc[], i: number): string {
  const kind = (pair: Doc | undefined) => `${pair?.place ?? "other"} ${pair?.side ?? ""}`.trim();
  const own = kind(pairs[i]);
  const before = pairs.slice(0, i).filter((pair) => kind(pair) === own).length;
  return `plug ${own}${before ? ` ${before + 1}` : ""}`.slice(0, 40);
}

function HalfWires({
  label,
  pointer,
  plug,
  functions,
  extra,
}: {
  label: string;
  pointer: string;
  /** Where this half's family, generation and contacts stand. */
  plug: string;
  functions: string[];
  extra: string[];
}) {
  const { doc, edit } = useForm();
  const colours = useId();
  const wires = (read(doc, pointer) as Doc[] | undefined) ?? [];
  const set = (list: Doc[]) => edit(pointer, list);
  const change = (i: number, key: string, value: string) => set(wires.map((w, k) => (k === i ? { ...w, [key]: value } : w)));
  return (
    <fieldset className="min-w-0">
      <legend className="text-small font-bold text-ink2">{label}</legend>
      <datalist id={colours}>
        {COLOURS.map((c) => (
          <option key={c} value={c} />
        ))}
      </datalist>
      <ul className="grid gap-1.5">
        {wires.map((w, i) => (
          <li key={i} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-1.5">
            <input
              className="input"
              list={colours}
              aria-label={say.colourOfWire(label, i)}
              placeholder={say.colour}
              value={String(w.colour ?? "")}
              maxLength={30}
              onChange={(e) => change(i, "colour", e.target.value)}
            />
            <select
              className="input"
              aria-label={say.whatWireIsFor(label, i)}
              value={String(w.function ?? "")}
              onChange={(e) => change(i, "function", e.target.value)}
            >
              <option value="">{say.unknown}</option>
              {functions.map((f) => (
                <option key={f}>{f}</option>
              ))}
              <optgroup label={say.more}>
                {extra.map((f) => (
                  <option key={f}>{f}</option>
                ))}
              </optgroup>
            </select>
            <button
              type="button"
              className="btn quiet !px-1"
              aria-label={say.takeWireOut(label, i)}
              onClick={() => set(wires.filter((_w, k) => k !== i))}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn mt-1.5"
        disabled={wires.length >= MOST["PlugPair.controller"]}
        onClick={() => set([...wires, { colour: "", function: "" }])}
      >
        {say.addAWire}
      </button>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <div className="col-span-2">
          <TextField label={say.familyAndSize} pointer={`${plug}family`} />
        </div>
        <TextField label={say.generation} pointer={`${plug}generation`} />
        <SelectField label={say.contacts} pointer={`${plug}gender`} options={choices("PlugPair.gender", { "": say.notLooked })} />
      </div>
    </fieldset>
  );
}

function Found({ found }: { found: Crosswalk }) {
  const sides: Record<Half, string> = say.sides;
  return (
    <div className="grid gap-2" aria-live="polite">
      {found.doubts.map((doubt) => (
        <p key={doubt} className="flex gap-2">
          <Glyph mark="caution" /> {doubt}
        </p>
      ))}
      {found.joins.length > 0 && (
        <ul className="rounded-[9px] border-2 border-leaf bg-leaftint p-3">
          {found.joins.map((join) => (
            <li key={join.function}>
              <b className="font-head text-[17px]">{join.sentence}</b> <span className="text-ink2">{join.function}</span>
            </li>
          ))}
        </ul>
      )}
      {found.to_find.length > 0 && (
        <div>
          <h4 className="text-small font-bold text-ink2">{say.toFindWithThe}</h4>
          <ul className="list-disc pl-5">
            {found.to_find.map((one) => (
              <li key={one.half + one.function}>
                {say.contactToFind(
                  one.function,
                  sides[one.half],
                  one.among.length > 1 ? one.among.filter(Boolean).join(", ") : "",
                  one.how,
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
      {found.left_over.length > 0 && (
        <div>
          <h4 className="text-small font-bold text-ink2">{say.leftOver}</h4>
          <ul className="list-disc pl-5">
            {found.left_over.map((one) => (
              <li key={one.half + one.colour}>{say.wireLeftOver(one.colour, sides[one.half], one.function, one.what)}</li>
            ))}
          </ul>
        </div>
      )}
      {found.halves && <p className="border-l-4 border-amber pl-2">{found.halves}</p>}
    </div>
  );
}

/** A plug's colours kept on the rack, for the next machine with the same parts. */
function Keep({ pair, garageId, label }: { pair: Doc; garageId: number; label: string }) {
  const queryClient = useQueryClient();
  const keep = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/garages/{garage_id}/rack", {
          params: { path: { garage_id: garageId } },
          body: { kind: "plug colours", label, document: pair as never, quantity: 1 },
        }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["garage"] }),
  });
  return (
    <>
      <button type="button" className="btn quiet" disabled={keep.isPending} onClick={() => keep.mutate()}>
        {say.keepOnTheRack}
      </button>
      {keep.isSuccess && <span role="status">{say.keptAs(label)}</span>}
      <Trouble error={keep.error} />
    </>
  );
}

export function ColoursSection({ plan, build, row }: { plan: Hookup } & Pick<StageProps, "build" | "row">) {
  const garageId = build.garage_id;
  const { doc, edit } = useForm();
  const kept = (useRack(garageId) ?? []).filter((part) => part.kind === "plug colours");
  const twoMotors = Number(read(doc, "/motor/count") ?? 1) === 2;
  const pairs = read(doc, "/plug_pairs") ?? [];
  const set = (list: Doc[]) => edit("/plug_pairs", list);
  const functions = useQuery({
    queryKey: ["plug functions"],
    queryFn: () => unwrap(client.GET("/api/hookup/functions")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const readFile = useMutation({
    mutationFn: async (file: File) => unwrap(client.POST("/api/hookup/colours/read", { body: { text: await file.text() } })),
    onSuccess: (found) => set([...pairs, ...found].slice(0, MOST["Setup.plug_pairs"])),
  });
  const asTable = useMutation({
    mutationFn: async () => {
      const text = await unwrap(client.POST("/api/hookup/colours", { body: { setup: doc as never }, parseAs: "text" }));
      saveAs(text as string, "plug colours.csv", "text/csv");
    },
  });
  const start = (place: string): Doc => {
    const wires = (functions.data?.[place] ?? []).map((f) => ({ colour: "", function: f }));
    return { place, controller: wires, part: wires.map((w) => ({ ...w })) };
  };
  return (
    <div className="relative grid gap-4">
      <p>{say.coloursDifferFromMaker}</p>
      {pairs.map((pair, i) => {
        const place = String(pair.place ?? "other");
        const at = `/plug_pairs/${i}`;
        const found = plan.plugs[i];
        const name = String(pair.label || "") || (NAMES[place] ?? place);
        return (
          <section key={i} aria-label={NAMES[place]} className="border-t border-line pt-3">
            <div className="flex items-center justify-between gap-2">
              <h3 className="text-[16px]">{NAMES[place]}</h3>
              <div className="flex flex-wrap items-center justify-end gap-2">
                <Keep pair={pair} garageId={garageId} label={name} />
                <button
                  type="button"
                  className="btn quiet"
                  aria-label={say.takeThePlugOut(NAMES[place])}
                  onClick={() => set(pairs.filter((_p, k) => k !== i))}
                >
                  {say.takeOut}
                </button>
              </div>
            </div>
            <div className="mt-1 grid grid-cols-3 gap-4 max-wide:grid-cols-2 max-desk:grid-cols-1">
              <HalfWires
                label={say.controllersHalf}
                pointer={`${at}/controller`}
                plug={`${at}/`}
                functions={functions.data?.[place] ?? []}
                extra={functions.data?.[""] ?? []}
              />
              <HalfWires
                label={say.partsHalf}
                pointer={`${at}/part`}
                plug={`${at}/part_`}
                functions={functions.data?.[place] ?? []}
                extra={functions.data?.[""] ?? []}
              />
              <div className="max-wide:col-span-full">{found && <Found found={found} />}</div>
            </div>
            <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-2">
              <TextField label={say.name} pointer={`${at}/label`} />
              {twoMotors && ["phases", "Halls", "motor"].includes(place) && (
                <SelectField label={say.whichMotor} pointer={`${at}/side`} options={choices("PlugPair.side")} />
              )}
              <SelectField label={say.halvesJoined} pointer={`${at}/joined`} options={choices("PlugPair.joined")} />
              <div>
                <p className="text-small text-ink2">{say.doTheyMateAnd}</p>
                <Segmented
                  label={say.doTheyMateAnd}
                  value={pair.mates === true ? "yes" : pair.mates === false ? "no" : ""}
                  options={MATES}
                  onChange={(v) => edit(`${at}/mates`, v === "" ? null : v === "yes")}
                />
              </div>
              <CheckField label={say.twistedAndTapedBefore} pointer={`${at}/taped`} />
            </div>
            <PhotosOf
              garageId={garageId}
              shows={{ build: build.id, setup: row.id, place: placeOf(pairs, i) }}
              title={say.photosOfThisPlug}
            />
          </section>
        );
      })}
      <div className="flex flex-wrap gap-1.5">
        {Object.entries(NAMES).map(([place, name]) => (
          <button
            key={place}
            type="button"
            className="btn"
            disabled={pairs.length >= MOST["Setup.plug_pairs"] || !functions.data}
            onClick={() => set([...pairs, start(place)])}
          >
            {say.add(name.charAt(0).toLowerCase() + name.slice(1))}
          </button>
        ))}
      </div>
      <div className="flex flex-wrap items-end gap-1.5">
        {kept.length > 0 && (
          <label>
            <span className="block text-small text-ink2">{say.fromTheRack}</span>
            <select
              className="input !w-auto"
              value=""
              disabled={pairs.length >= MOST["Setup.plug_pairs"]}
              onChange={(e) => {
                const part = kept.find((one) => String(one.id) === e.target.value);
                if (part) set([...pairs, part.document as Doc]);
              }}
            >
              <option value="">{say.chooseAKeptPlug}</option>
              {kept.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.label}
                </option>
              ))}
            </select>
          </label>
        )}
        <FilePick
          label={say.tableOfPlugColours}
          accept=".csv,.txt,text/csv"
          busy={readFile.isPending}
          quiet
          onFile={readFile.mutate}
        >
          {readFile.isPending ? say.reading : say.readACsvOf}
        </FilePick>
        {pairs.length > 0 && (
          <button type="button" className="btn quiet" onClick={() => asTable.mutate()}>
            {say.saveTheColoursAs}
          </button>
        )}
      </div>
      <Trouble error={readFile.error ?? asTable.error ?? functions.error} />
    </div>
  );
}
