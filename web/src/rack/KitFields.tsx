/** A kit or a donor: its parts, its loose leads, what is printed on the box. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Fragment, type ReactNode, useState } from "react";
import { client, unwrap } from "../api/client";
import { choices, MOST } from "../lib/choices";
import { useGarage } from "../lib/garage";
import { useShipped } from "../lib/parts";
import { type Doc, read } from "../lib/pointer";
import { Grid } from "../stages/Heading";
import { decimals } from "../texts/locale";
import { kitFields as say } from "../texts/rack";
import { parseNumber } from "../texts/units";
import { Dialog } from "../ui/Dialog";
import { CheckField, FormProvider, ManyField, NumberField, SelectField, TextField, useForm } from "../ui/Field";
import { PartOptions } from "../ui/PickPart";
import { Trouble } from "../ui/Trouble";
import { BLANK, KINDS, kindName } from "./kinds";
import { usePartForm } from "./usePartForm";

type Content = { kind: string; label: string; document: Doc; count?: number; taken?: boolean };

/** A part that lies in the kit, by what its label says. given: one that is in it already, to be changed. */
function OnePart({
  given,
  fields,
  onKeep,
  close,
}: {
  given: Content | undefined;
  fields: (kind: string) => ReactNode;
  onKeep: (content: Content) => void;
  close: () => void;
}) {
  const shipped = useShipped();
  const [kind, setKind] = useState(given?.kind ?? "motors");
  const [from, setFrom] = useState("");
  const [name, setName] = useState(given?.label ?? "");
  const [count, setCount] = useState(String(given?.count ?? 1));
  const form = usePartForm(kind, given?.document ?? (BLANK.motors as Doc), {}, undefined);
  const entries = (shipped?.[kind] ?? []).map((one) => ({ ...one, part: one.part as Doc }));
  const label = name.trim() || entries.find((one) => one.id === from)?.label || say.one(kindName(kind));
  const start = (next: string, id: string) => {
    setKind(next);
    setFrom(id);
    const picked = shipped?.[next]?.find((one) => one.id === id);
    form.replace(next, structuredClone((picked?.part ?? BLANK[next] ?? {}) as Doc), {});
  };
  const many = parseNumber(count);
  return (
    <Dialog open onOpenChange={close} title={given ? say.changeIt(decimals(given.label)) : say.addAPart}>
      <div className="grid gap-3">
        <Grid min={150}>
          <label className="block">
            <span className="mb-1 block text-small font-bold text-ink2">{say.kind}</span>
            <select className="input" value={kind} disabled={given !== undefined} onChange={(e) => start(e.target.value, "")}>
              {KINDS.filter((one) => one !== "kits").map((one) => (
                <option key={one} value={one}>
                  {kindName(one)}
                </option>
              ))}
            </select>
          </label>
          {entries.length > 0 && (
            <label className="block">
              <span className="mb-1 block text-small font-bold text-ink2">{say.like}</span>
              <select className="input" value={from} onChange={(e) => start(kind, e.target.value)}>
                <option value="">{say.fromNothing}</option>
                <PartOptions parts={entries} />
              </select>
            </label>
          )}
          <label className="block">
            <span className="mb-1 block text-small font-bold text-ink2">{say.calls}</span>
            <input
              className="input"
              value={name}
              maxLength={80}
              placeholder={decimals(label)}
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <label className="block">
            <span className="mb-1 block text-small font-bold text-ink2">{say.howMany}</span>
            <input className="input" inputMode="numeric" value={count} onChange={(e) => setCount(e.target.value)} />
          </label>
        </Grid>
        <FormProvider value={form.scope}>
          <Fragment key={`${kind} ${from}`}>{fields(kind)}</Fragment>
        </FormProvider>
        <button
          type="button"
          className="btn go justify-self-start"
          disabled={many === undefined || !Number.isInteger(many) || many < 1 || many > 40}
          onClick={() => {
            onKeep({ kind, label, document: form.document, count: many ?? 1 });
            close();
          }}
        >
          {given ? say.keepIt : say.putIn}
        </button>
      </div>
    </Dialog>
  );
}

/** Plugs of the kit that are mated already: they stay so when it goes into a machine. */
function Pairs() {
  const { doc, edit } = useForm();
  const pairs = (read(doc, "/kit/pairs") as Doc[] | null | undefined) ?? [];
  const set = (next: Doc[]) => edit("/kit/pairs", next);
  return (
    <section aria-label={say.matedPlugs}>
      <h3 className="mb-1 text-[15px]">{say.matedPlugs}</h3>
      {pairs.length === 0 && <p className="text-ink2">{say.noPlugYet}</p>}
      {pairs.map((pair, i) => (
        <div key={i} className="flex flex-wrap items-end gap-2 border-b border-line py-2">
          <div className="min-w-0 flex-1">
            <Grid min={140}>
              <SelectField label={say.plugOf} pointer={`/kit/pairs/${i}/place`} options={choices("PlugPair.place")} />
              <TextField label={say.plugFamily} pointer={`/kit/pairs/${i}/family`} />
              <TextField label={say.plugName} pointer={`/kit/pairs/${i}/label`} />
            </Grid>
          </div>
          <button
            type="button"
            className="btn quiet !min-h-9 !px-2"
            aria-label={say.strike(String(pair.label || pair.place || ""))}
            onClick={() => set(pairs.filter((_pair, k) => k !== i))}
          >
            ×
          </button>
        </div>
      ))}
      <button
        type="button"
        className="btn mt-2"
        disabled={pairs.length >= MOST["Kit.pairs"]}
        onClick={() => set([...pairs, { place: "throttle", mates: true }])}
      >
        {say.addAPlug}
      </button>
    </section>
  );
}

/** partId: of a kit that is on the rack already. fields: those of a part of a kind. */
export function KitFields({ partId, fields }: { partId?: number | undefined; fields: (kind: string) => ReactNode }) {
  const { doc, edit } = useForm();
  const garage = useGarage();
  const queryClient = useQueryClient();
  // Its place in the list while a part is changed, the list's length while one is added.
  const [open, setOpen] = useState<number>();
  const [touched, setTouched] = useState(false);
  const contents = ((read(doc, "/kit/contents") as Content[] | null | undefined) ?? []) as Content[];
  const set = (next: Content[]) => {
    setTouched(true);
    edit("/kit/contents", next as never);
  };
  const takeOut = useMutation({
    mutationFn: (number: number) =>
      unwrap(
        client.POST("/api/garages/{garage_id}/rack/{part_id}/take-out", {
          params: { path: { garage_id: garage?.id ?? 0, part_id: partId ?? 0 } },
          body: { number },
        }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["garage"] }),
  });
  return (
    <div className="grid gap-4">
      <CheckField label={say.donor} pointer="/kit/donor" />
      <section aria-label={say.itsParts}>
        <h3 className="mb-1 text-[15px]">{say.itsParts}</h3>
        {contents.length === 0 && <p className="text-ink2">{say.noneYet}</p>}
        <ul>
          {contents.map((one, n) => (
            <li key={`${n} ${one.label}`} className="flex min-h-11 flex-wrap items-center gap-x-3 border-b border-line py-1">
              <span className={`min-w-0 flex-1 ${one.taken ? "text-ink3 line-through" : ""}`}>
                {(one.count ?? 1) > 1 && <b>{one.count} × </b>}
                {one.taken ? (
                  decimals(one.label)
                ) : (
                  <button
                    type="button"
                    className="linkish min-h-6 text-left font-semibold"
                    aria-label={say.changeIt(decimals(one.label))}
                    onClick={() => setOpen(n)}
                  >
                    {decimals(one.label)}
                  </button>
                )}{" "}
                <span className="text-small text-ink2">{kindName(one.kind)}</span>
              </span>
              {one.taken ? (
                <span className="text-small text-ink2">{say.takenOut}</span>
              ) : (
                partId !== undefined && (
                  <button
                    type="button"
                    className="btn"
                    disabled={takeOut.isPending || touched}
                    title={touched ? say.saveFirst : undefined}
                    onClick={() => takeOut.mutate(n)}
                  >
                    {say.takeOut}
                  </button>
                )
              )}
              <button
                type="button"
                className="btn quiet !min-h-9 !px-2"
                aria-label={say.strike(one.label)}
                onClick={() => set(contents.filter((_one, k) => k !== n))}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
        <Trouble error={takeOut.error} className="mt-1" />
        <button type="button" className="btn mt-2" disabled={contents.length >= 40} onClick={() => setOpen(contents.length)}>
          {say.addAPart}
        </button>
      </section>
      <Pairs />
      <ManyField label={say.leads} pointer="/kit/leads" options={choices("Kit.leads")} />
      <ManyField label={say.does} pointer="/kit/does" options={choices("Kit.does")} />
      <Grid min={170}>
        <SelectField label={say.direction} pointer="/kit/direction" options={choices("Kit.direction", { none: say.none })} />
      </Grid>
      <section aria-label={say.whatIsPrinted}>
        <h3 className="mb-1 text-[15px]">{say.whatIsPrinted}</h3>
        <Grid min={140}>
          <NumberField label={say.speed} pointer="/kit/claims/speed_m_s" kind="speed" plain />
          <NumberField label={say.distance} pointer="/kit/claims/distance_m" kind="way" plain />
          <NumberField label={say.power} pointer="/kit/claims/power_w" unit="W" plain />
        </Grid>
      </section>
      {open !== undefined && (
        <OnePart
          given={contents[open]}
          fields={fields}
          onKeep={(one) => set([...contents.slice(0, open), one, ...contents.slice(open + 1)])}
          close={() => setOpen(undefined)}
        />
      )}
    </div>
  );
}
