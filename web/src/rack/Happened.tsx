/** What happened to a part: each mishap says what a yes means before it is said, and what brings the part back. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type RackPart, unwrap } from "../api/client";
import type { Doc } from "../lib/pointer";
import { shortDay } from "../texts/locale";
import { happened as say } from "../texts/rack";
import { Segmented } from "../ui/Field";
import { Trouble } from "../ui/Trouble";
import { useKeepPart } from "./useKeepPart";

type Mishap = { what: string; when?: string | null; cleared?: boolean; seen?: string };

const YES_NO = [
  ["yes", say.yes],
  ["no", say.no],
] as const;

const today = () => {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
};

function Cleared({ clears, onSeen }: { clears: string; onSeen: (seen: string) => void }) {
  const [seen, setSeen] = useState("");
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <button type="button" className="btn mt-1.5" onClick={() => setAsked(true)}>
        {say.lookedAt}
      </button>
    );
  return (
    <form
      className="mt-1.5 grid gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        onSeen(seen.trim());
      }}
    >
      <p className="text-small font-semibold">{clears}</p>
      <label className="block">
        <span className="mb-1 block text-small text-ink2">{say.whatDidYouSee}</span>
        <input className="input" value={seen} maxLength={200} onChange={(e) => setSeen(e.target.value)} />
      </label>
      <button type="submit" className="btn go" disabled={!seen.trim()}>
        {say.itIsSo}
      </button>
    </form>
  );
}

export function Happened({ part, garageId }: { part: RackPart; garageId: number }) {
  const keep = useKeepPart(garageId, part);
  const meanings = useQuery({
    queryKey: ["mishaps", part.kind],
    queryFn: () => unwrap(client.GET("/api/mishaps/{kind}", { params: { path: { kind: part.kind } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const about = part.about as Doc;
  const all = (about.happened ?? []) as unknown as Mishap[];
  const set = (next: Mishap[]) => keep.mutate({ about: { ...about, happened: next as never } });
  return (
    <section aria-label={say.whatHappened}>
      <h2 className="text-[18px]">{say.whatHappened}</h2>
      <p className="mb-2 text-small text-ink2">{say.oneYesCanTake}</p>
      <ul>
        {meanings.data?.map((one) => {
          const there = all.find((m) => m.what === one.what);
          const others = all.filter((m) => m.what !== one.what);
          const back = Boolean(there?.cleared && one.clears);
          return (
            <li
              key={one.what}
              className={`border-b border-line py-2.5 ${there ? (back ? "-mx-2 rounded-md bg-leaftint px-2" : "-mx-2 rounded-md bg-hottint px-2") : ""}`}
            >
              <div className="flex items-center justify-between gap-2">
                <b className="font-head text-[14.5px]">{say.names[one.what]}</b>
                <Segmented
                  label={say.names[one.what]}
                  value={there ? "yes" : "no"}
                  options={YES_NO}
                  onChange={(v) => {
                    if ((v === "yes") === Boolean(there)) return;
                    set(v === "yes" ? [...others, { what: one.what, when: today() }] : others);
                  }}
                />
              </div>
              <p className="text-small text-ink2">
                {there ? (
                  <>
                    {there.when ? `${shortDay(there.when)}. ` : ""}
                    {back ? say.backIn(there.seen ?? "") : `${one.may} ${one.do}`}
                  </>
                ) : (
                  say.ifYes(one.do)
                )}
              </p>
              {there && !back && one.clears && (
                <Cleared clears={one.clears} onSeen={(seen) => set([...others, { ...there, cleared: true, seen }])} />
              )}
            </li>
          );
        })}
      </ul>
      <Trouble error={keep.error} className="mt-2" />
    </section>
  );
}
