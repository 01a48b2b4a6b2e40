/** Which colour is which: what one sees on either half of a plug, paired by what it is for. */

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useId } from "react";
import { client, type Hookup, unwrap } from "../../api/client";
import { choices, MOST } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { saveAs } from "../../lib/saveAs";
import { CheckField, Segmented, SelectField, TextField, useForm } from "../../ui/Field";
import { FilePick } from "../../ui/FilePick";
import { Glyph } from "../../ui/Glyph";
import { Trouble } from "../../ui/Trouble";

type Crosswalk = Hookup["plugs"][number];
type Half = "controller" | "part";

const NAMES: Record<string, string> = {
  throttle: "Throttle",
  brake: "Brake lever",
  key: "Key or lock",
  "foot switch": "Foot switch",
  "speed switch": "Speed switch",
  "reverse switch": "Reverse switch",
  "direction switch": "Forward and reverse switch",
  learning: "Learning plug",
  display: "Display",
  phases: "Motor phases",
  Halls: "Motor Halls",
  motor: "Motor, two leads",
  other: "Another plug",
};
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
  "white with red",
  "white with black",
];
const MATES = [
  ["", "not tried"],
  ["yes", "yes"],
  ["no", "no"],
] as const;

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
              aria-label={`${label}, colour of wire ${i + 1}`}
              placeholder="colour"
              value={String(w.colour ?? "")}
              maxLength={30}
              onChange={(e) => change(i, "colour", e.target.value)}
            />
            <select
              className="input"
              aria-label={`${label}, what wire ${i + 1} is for`}
              value={String(w.function ?? "")}
              onChange={(e) => change(i, "function", e.target.value)}
            >
              <option value="">unknown</option>
              {functions.map((f) => (
                <option key={f}>{f}</option>
              ))}
              <optgroup label="more">
                {extra.map((f) => (
                  <option key={f}>{f}</option>
                ))}
              </optgroup>
            </select>
            <button
              type="button"
              className="btn quiet !px-1"
              aria-label={`${label}, take wire ${i + 1} out`}
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
        Add a wire
      </button>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <div className="col-span-2">
          <TextField label="Family and size" pointer={`${plug}family`} />
        </div>
        <TextField label="Generation" pointer={`${plug}generation`} />
        <SelectField label="Contacts" pointer={`${plug}gender`} options={choices("PlugPair.gender", { "": "not looked" })} />
      </div>
    </fieldset>
  );
}

function Found({ found }: { found: Crosswalk }) {
  const sides: Record<Half, string> = { controller: "the controller's half", part: "the part's half" };
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
          <h4 className="text-small font-bold text-ink2">To find with the meter</h4>
          <ul className="list-disc pl-5">
            {found.to_find.map((one) => (
              <li key={one.half + one.function}>
                <b>{one.function}</b> on {sides[one.half]}
                {one.among.length > 1 ? `, one of ${one.among.filter(Boolean).join(", ")}` : ""}: {one.how}
              </li>
            ))}
          </ul>
        </div>
      )}
      {found.left_over.length > 0 && (
        <div>
          <h4 className="text-small font-bold text-ink2">Left over</h4>
          <ul className="list-disc pl-5">
            {found.left_over.map((one) => (
              <li key={one.half + one.colour}>
                <b>{one.colour}</b> on {sides[one.half]}
                {one.function ? `, ${one.function}` : ""}. {one.what}
              </li>
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
        Keep on the rack
      </button>
      {keep.isSuccess && <span role="status">Kept as “{label}”.</span>}
      <Trouble error={keep.error} />
    </>
  );
}

export function ColoursSection({ plan, garageId }: { plan: Hookup; garageId: number }) {
  const { doc, edit } = useForm();
  const garage = useQuery({
    queryKey: ["garage", garageId],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}", { params: { path: { garage_id: garageId } } })),
  });
  const kept = (garage.data?.rack ?? []).filter((part) => part.kind === "plug colours");
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
      <p>
        Colours differ from maker to maker. Enter what you see on either half, wire by wire, and what each is for as far as you
        know it. Plugs apart, packs out.
      </p>
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
                  aria-label={`Take the plug ${NAMES[place]} out`}
                  onClick={() => set(pairs.filter((_p, k) => k !== i))}
                >
                  Take out
                </button>
              </div>
            </div>
            <div className="mt-1 grid grid-cols-3 gap-4 max-wide:grid-cols-2 max-desk:grid-cols-1">
              <HalfWires
                label="Controller's half"
                pointer={`${at}/controller`}
                plug={`${at}/`}
                functions={functions.data?.[place] ?? []}
                extra={functions.data?.[""] ?? []}
              />
              <HalfWires
                label="Part's half"
                pointer={`${at}/part`}
                plug={`${at}/part_`}
                functions={functions.data?.[place] ?? []}
                extra={functions.data?.[""] ?? []}
              />
              <div className="max-wide:col-span-full">{found && <Found found={found} />}</div>
            </div>
            <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-2">
              <TextField label="Name" pointer={`${at}/label`} />
              {twoMotors && ["phases", "Halls", "motor"].includes(place) && (
                <SelectField label="Which motor" pointer={`${at}/side`} options={choices("PlugPair.side")} />
              )}
              <SelectField label="Halves joined" pointer={`${at}/joined`} options={choices("PlugPair.joined")} />
              <div>
                <p className="text-small text-ink2">Do they mate and lock?</p>
                <Segmented
                  label="Do they mate and lock?"
                  value={pair.mates === true ? "yes" : pair.mates === false ? "no" : ""}
                  options={MATES}
                  onChange={(v) => edit(`${at}/mates`, v === "" ? null : v === "yes")}
                />
              </div>
              <CheckField label="Twisted and taped before" pointer={`${at}/taped`} />
            </div>
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
            Add {name.charAt(0).toLowerCase() + name.slice(1)}
          </button>
        ))}
      </div>
      <div className="flex flex-wrap items-end gap-1.5">
        {kept.length > 0 && (
          <label>
            <span className="block text-small text-ink2">From the rack</span>
            <select
              className="input !w-auto"
              value=""
              disabled={pairs.length >= MOST["Setup.plug_pairs"]}
              onChange={(e) => {
                const part = kept.find((one) => String(one.id) === e.target.value);
                if (part) set([...pairs, part.document]);
              }}
            >
              <option value="">Choose a kept plug…</option>
              {kept.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.label}
                </option>
              ))}
            </select>
          </label>
        )}
        <FilePick
          label="Table of plug colours, CSV"
          accept=".csv,.txt,text/csv"
          busy={readFile.isPending}
          quiet
          onFile={readFile.mutate}
        >
          {readFile.isPending ? "Reading…" : "Read a CSV of colours"}
        </FilePick>
        {pairs.length > 0 && (
          <button type="button" className="btn quiet" onClick={() => asTable.mutate()}>
            Save the colours as CSV
          </button>
        )}
      </div>
      <Trouble error={readFile.error ?? asTable.error ?? functions.error} />
    </div>
  );
}
