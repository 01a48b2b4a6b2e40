/** A part for the rack: made from one that ships or from nothing, with what its label says. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { SINGLE } from "../api/choices";
import { client, unwrap } from "../api/client";
import { Header } from "../frame/Header";
import { Shortcuts } from "../frame/Shortcuts";
import { useGarage } from "../lib/garage";
import { rackKey, useShipped } from "../lib/parts";
import type { Doc } from "../lib/pointer";
import { decimals } from "../texts/locale";
import { newPart as say } from "../texts/rack";
import { parseNumber } from "../texts/units";
import { FormProvider } from "../ui/Field";
import { PartOptions } from "../ui/PickPart";
import { Alert, Trouble } from "../ui/Trouble";
import { AboutFields } from "./AboutFields";
import { Crumbs } from "./Crumbs";
import { BLANK, KINDS, kindName } from "./kinds";
import { PartFields } from "./PartFields";
import { usePartForm } from "./usePartForm";

export function NewPart() {
  const garage = useGarage();
  const shipped = useShipped();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const [kind, setKind] = useState("packs");
  const [from, setFrom] = useState("");
  const [name, setName] = useState("");
  const [count, setCount] = useState("1");
  const quantity = parseNumber(count);
  const single = SINGLE.includes(kind);
  const bad = quantity === undefined || !Number.isInteger(quantity) || quantity < 1;
  const entries = (shipped?.[kind] ?? []).map((one) => ({ ...one, part: one.part as Doc }));
  const add = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/garages/{garage_id}/rack", {
          params: { path: { garage_id: garage?.id ?? 0 } },
          body: {
            kind,
            label: name.trim() || label,
            document: form.document as never,
            quantity: quantity ?? 1,
            about: form.about as never,
          },
        }),
      ),
    onSuccess: async (made) => {
      await queryClient.invalidateQueries({ queryKey: rackKey(garage?.id) });
      navigate(made.length === 1 ? `/rack/${made[0]?.id}` : "/rack");
    },
  });
  const form = usePartForm(kind, BLANK.packs as Doc, {}, add.error);
  const label = entries.find((one) => one.id === from)?.label ?? say.own(kindName(kind));
  const start = (next: string, id: string) => {
    setKind(next);
    setFrom(id);
    add.reset();
    const picked = shipped?.[next]?.find((one) => one.id === id);
    form.replace(next, structuredClone((picked?.part ?? BLANK[next] ?? {}) as Doc), form.about);
  };
  return (
    <Shortcuts actions={{}}>
      <div className="flex min-h-full flex-col">
        <div className="border-b-[1.5px] border-ink [&>header]:h-[52px]">
          <Header crumb={<Crumbs name={say.aNewPart} />} />
        </div>
        <main className="mx-auto grid w-full grid-cols-[minmax(0,1fr)] max-w-[1080px] gap-5 p-5 max-desk:p-4">
          <div>
            <h1 className="text-[32px]">{say.aNewPart}</h1>
            <p className="text-ink2">{say.whatItsLabelSays}</p>
          </div>
          <section className="grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] items-end gap-3" aria-label={say.whatItIs}>
            <label className="block">
              <span className="mb-1 block text-small font-bold text-ink2">{say.kind}</span>
              <select className="input" value={kind} onChange={(e) => start(e.target.value, "")}>
                {KINDS.map((one) => (
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
              <input
                className="input"
                inputMode="numeric"
                value={count}
                onChange={(e) => setCount(e.target.value)}
                aria-invalid={bad || undefined}
              />
            </label>
          </section>
          {single && <p className="text-small text-ink2">{say.eachGetsASticker}</p>}
          {bad && <Alert className="">{say.enterAWholeNumber}</Alert>}
          <FormProvider value={form.scope}>
            <section className="grid gap-3 border-t border-strong pt-4" aria-label={say.label}>
              <h2 className="text-[15px]">{say.label}</h2>
              <PartFields key={`${kind} ${from}`} kind={kind} />
            </section>
            <section className="grid gap-3 border-t border-strong pt-4" aria-label={say.thing}>
              <h2 className="text-[15px]">{say.thing}</h2>
              <AboutFields single={single} currency={garage?.units.money ?? "USD"} />
            </section>
          </FormProvider>
          <Trouble error={add.error} className="" />
          <div>
            <button
              type="button"
              className="btn go min-h-12"
              disabled={add.isPending || bad || !garage}
              onClick={() => add.mutate()}
            >
              {say.putItOnThe}
            </button>
          </div>
        </main>
      </div>
    </Shortcuts>
  );
}
