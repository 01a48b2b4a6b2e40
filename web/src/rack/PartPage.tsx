/** A part of one's own: what its label says, what happened to it, what was measured on it, and which setups hold it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, type RackPart, unwrap } from "../api/client";
import { useBinned } from "../bin/Undo";
import { Header } from "../frame/Header";
import { Shortcuts } from "../frame/Shortcuts";
import { useGarage } from "../lib/garage";
import { nameOf, rackKey, useRack } from "../lib/parts";
import type { Doc } from "../lib/pointer";
import { PhotoStrip } from "../photos/PhotoStrip";
import { amountOf, day, decimals } from "../texts/locale";
import { partPage as say } from "../texts/rack";
import { FormProvider } from "../ui/Field";
import { Trouble } from "../ui/Trouble";
import { AboutFields } from "./AboutFields";
import { Crumbs } from "./Crumbs";
import { Happened } from "./Happened";
import { kindName } from "./kinds";
import { Life } from "./Life";
import { Log } from "./Log";
import { PartFields } from "./PartFields";
import { Partner } from "./Partner";
import { Sticker } from "./Sticker";
import { useKeepPart } from "./useKeepPart";
import { usePartForm } from "./usePartForm";

type About = { bought?: string | null; price?: { amount: number; currency: string } | null };
function Label({ part, garageId }: { part: RackPart; garageId: number }) {
  const currency = useGarage()?.units.money ?? "USD";
  const keep = useKeepPart(garageId, part);
  const form = usePartForm(part.kind, part.document as Doc, part.about as Doc, keep.error);
  const [label, setLabel] = useState(part.label);
  const [letter, setLetter] = useState(part.letter);
  const [alone, setAlone] = useState<number[]>([]);
  const uses = useQuery({
    queryKey: [...rackKey(garageId), part.id, "uses"],
    queryFn: () =>
      unwrap(
        client.GET("/api/garages/{garage_id}/rack/{part_id}/uses", {
          params: { path: { garage_id: garageId, part_id: part.id } },
        }),
      ),
  });
  const changed = form.changed || label !== part.label || letter !== part.letter;
  const follow = (uses.data ?? []).map((one) => one.setup).filter((id) => !alone.includes(id));
  return (
    <FormProvider value={form.scope}>
      <section className="grid gap-3" aria-label={say.whatItIs}>
        <div className="grid grid-cols-[minmax(0,1fr)_96px] gap-3">
          <label className="block">
            <span className="mb-1 block text-small font-bold text-ink2">{say.name}</span>
            <input className="input" value={label} maxLength={80} onChange={(e) => setLabel(e.target.value)} />
          </label>
          {part.single && (
            <label className="block">
              <span className="mb-1 block text-small font-bold text-ink2">{say.sticker}</span>
              <input className="input" value={letter} maxLength={4} onChange={(e) => setLetter(e.target.value)} />
            </label>
          )}
        </div>
        <PartFields kind={part.kind} partId={part.id} />
      </section>
      <section className="mt-5 grid gap-3 border-t border-line pt-4" aria-label={say.thing}>
        <h2 className="text-[15px]">{say.thing}</h2>
        <AboutFields single={part.single} currency={currency} />
      </section>
      <section className="mt-5 border-t border-line pt-4" aria-label={say.whereItIsUsed}>
        <h2 className="mb-1 text-[15px]">{say.whereItIsUsed}</h2>
        {uses.data?.length === 0 && <p className="text-ink2">{say.inNoSetup}</p>}
        {(uses.data?.length ?? 0) > 0 && changed && <p className="mb-1 text-ink2">{say.changeThereToo}</p>}
        <ul className="grid gap-0.5">
          {uses.data?.map((one) => (
            <li key={one.setup} className="flex min-h-9 items-center gap-2">
              {changed && (
                <input
                  type="checkbox"
                  className="size-5 accent-[var(--leaf-deep)]"
                  aria-label={say.changeIn(one.build_name, one.setup_name)}
                  checked={!alone.includes(one.setup)}
                  onChange={() =>
                    setAlone(alone.includes(one.setup) ? alone.filter((id) => id !== one.setup) : [...alone, one.setup])
                  }
                />
              )}
              <Link to={`/builds/${one.build}/setups/${one.setup}/power`} className="linkish">
                {one.build_name}: {one.setup_name}
              </Link>
              {one.in_use && <span className="text-small text-ink2">{say.inUseNow}</span>}
            </li>
          ))}
        </ul>
      </section>
      <Trouble error={keep.error} className="mt-3" />
      {changed && (
        <div className="sticky bottom-0 z-10 mt-4 flex flex-wrap items-center gap-3 border-t-[1.5px] border-ink bg-paper py-3">
          <button
            type="button"
            className="btn go min-h-11"
            disabled={keep.isPending}
            onClick={() => keep.mutate({ document: form.document, about: form.about, label, letter, follow })}
          >
            {say.save(follow.length)}
          </button>
          <button
            type="button"
            className="btn"
            onClick={() => {
              form.replace(part.kind, part.document as Doc, part.about as Doc);
              setLabel(part.label);
              setLetter(part.letter);
              keep.reset();
            }}
          >
            {say.asItWas}
          </button>
        </div>
      )}
    </FormProvider>
  );
}

/** What ends a part: off the rack, into the bin; or back into a plan. */
function Ways({ part, garageId }: { part: RackPart; garageId: number }) {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const binned = useBinned();
  const keep = useKeepPart(garageId, part);
  const retired = (part.about as { state?: string }).state === "retired";
  const remove = useMutation({
    mutationFn: () =>
      unwrap(
        client.DELETE("/api/garages/{garage_id}/rack/{part_id}", {
          params: { path: { garage_id: garageId, part_id: part.id } },
        }),
      ),
    onSuccess: async () => {
      binned({ garage: garageId, kind: "part", id: part.id, name: nameOf(part) });
      await queryClient.invalidateQueries({ queryKey: ["garage"] });
      navigate("/rack");
    },
  });
  const begins = ["packs", "motors", "controllers", "gearboxes", "wheels", "kits"].includes(part.kind) && part.out == null;
  return (
    <div className="grid gap-2">
      {begins && (
        <Link to={`/start?part=${part.key}`} className="btn go min-h-11 justify-center">
          {say.startWithIt}
        </Link>
      )}
      {part.single && (
        <button
          type="button"
          className="btn min-h-11"
          disabled={keep.isPending}
          onClick={() => keep.mutate({ about: { ...(part.about as Doc), state: retired ? "unknown" : "retired" } })}
        >
          {retired ? say.backIntoUse : say.retireIt}
        </button>
      )}
      <button type="button" className="btn quiet min-h-11" disabled={remove.isPending} onClick={() => remove.mutate()}>
        {say.takeItOff}
      </button>
      <Trouble error={keep.error ?? remove.error} className="" />
    </div>
  );
}

export function PartPage() {
  const { partId = "" } = useParams();
  const garage = useGarage();
  const rack = useRack(garage?.id);
  const part = rack?.find((one) => String(one.id) === partId);
  const life = useQuery({
    queryKey: [...rackKey(garage?.id), Number(partId), "life"],
    queryFn: () =>
      unwrap(
        client.GET("/api/garages/{garage_id}/rack/{part_id}/life", {
          params: { path: { garage_id: garage?.id ?? 0, part_id: Number(partId) } },
        }),
      ),
    enabled: part?.kind === "packs",
  });
  const about = (part?.about ?? {}) as About;
  const like = (rack ?? []).filter((one) => one.single && one.kind === part?.kind && one.label === part?.label);
  const tone = part?.out ? "border-hot" : life.data?.tone === "fine" ? "border-leaf" : life.data ? "border-amber" : "border-line";
  return (
    <Shortcuts actions={{}}>
      <div className="flex min-h-full flex-col">
        <div className="border-b-[1.5px] border-ink [&>header]:h-[52px]">
          <Header crumb={<Crumbs name={part ? decimals(nameOf(part)) : "…"} />} />
        </div>
        {rack && !part && (
          <p role="alert" className="p-6">
            {say.notThere}
          </p>
        )}
        {part && garage && (
          <>
            <div className="flex flex-wrap items-center gap-x-8 gap-y-3 border-b border-line bg-card px-5 py-4 max-desk:px-4">
              <div className="flex min-w-0 items-center gap-3">
                {part.single && <Sticker letter={part.letter} out={part.out != null} large />}
                <div className="min-w-0">
                  <h1 className="text-[24px] leading-7">{decimals(nameOf(part))}</h1>
                  <p className="text-small text-ink2">
                    {[
                      kindName(part.kind),
                      about.bought ? say.bought(day(about.bought)) : "",
                      about.price ? amountOf(about.price.amount, about.price.currency) : "",
                    ]
                      .filter(Boolean)
                      .join(" · ")}
                  </p>
                </div>
              </div>
              {(part.out || life.data) && (
                <div className={`min-w-0 flex-1 basis-80 border-l-4 pl-3 ${tone}`} role="status">
                  <p className="font-head text-[16px] font-bold">
                    {part.out ? say.isOut(nameOf(part), part.out.title) : life.data?.title}
                  </p>
                  <p className="text-ink2">{part.out ? `${part.out.because} ${part.out.do}` : decimals(life.data?.says ?? "")}</p>
                </div>
              )}
              {like.length > 1 && (
                <nav aria-label={say.othersLikeIt} className="flex overflow-x-auto rounded-lg border border-strong">
                  {like.map((one) => (
                    <Link
                      key={one.id}
                      to={`/rack/${one.id}`}
                      aria-current={one.id === part.id ? "page" : undefined}
                      className={`grid min-h-10 min-w-10 place-items-center px-2.5 font-head font-bold ${one.id === part.id ? "bg-ink text-paper" : ""} ${one.out ? "line-through" : ""}`}
                    >
                      {one.letter}
                    </Link>
                  ))}
                </nav>
              )}
            </div>
            <main className="grid flex-1 grid-cols-[minmax(0,1fr)_330px] content-start bg-card max-wide:grid-cols-[minmax(0,1fr)]">
              {part.single && (
                <div className="min-w-0 p-5 max-desk:p-4">
                  {part.kind === "packs" && life.data && <Life life={life.data} />}
                  <Log key={`log ${part.id}`} part={part} garageId={garage.id} />
                </div>
              )}
              <aside
                className="col-start-2 row-span-2 row-start-1 grid content-start gap-5 border-l border-line bg-paper p-5 max-wide:col-start-1 max-wide:row-span-1 max-wide:row-start-auto max-wide:border-t max-wide:border-l-0 max-desk:p-4"
                aria-label={say.whatBecomesOfIt}
              >
                {part.single && <Happened part={part} garageId={garage.id} />}
                {part.kind === "packs" && <Partner part={part} garageId={garage.id} rack={rack ?? []} />}
                <PhotoStrip key={`photos ${part.id}`} garageId={garage.id} shows={{ part: part.id }} title={say.photos} />
                <Ways part={part} garageId={garage.id} />
              </aside>
              <div className={`min-w-0 p-5 max-desk:p-4 ${part.single ? "border-t-[1.5px] border-ink" : ""}`}>
                <h2 className="mb-2 text-[18px]">{say.label}</h2>
                <Label
                  key={`${part.id} ${JSON.stringify([part.document, part.about, part.label])}`}
                  part={part}
                  garageId={garage.id}
                />
              </div>
            </main>
          </>
        )}
      </div>
    </Shortcuts>
  );
}
