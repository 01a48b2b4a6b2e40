/** The rack: every part of one's own, found by typing, by kind. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { client, type RackPart, unwrap } from "../api/client";
import { useBinned } from "../bin/Undo";
import { Header } from "../frame/Header";
import { Shortcuts } from "../frame/Shortcuts";
import { useGarage } from "../lib/garage";
import { nameOf, useRack } from "../lib/parts";
import { useSettings } from "../lib/settings";
import { decimals, shortDay } from "../texts/locale";
import { rackPage as say } from "../texts/rack";
import { Segmented } from "../ui/Field";
import { FilePick } from "../ui/FilePick";
import { Glyph } from "../ui/Glyph";
import { Trouble } from "../ui/Trouble";
import { Crumbs } from "./Crumbs";
import { EVERY_KIND, kindName } from "./kinds";
import { lengthOf } from "./lengthOf";
import { Sticker } from "./Sticker";

/** So many are shown before one asks for more: a rack may hold thousands. */
const PAGE = 120;

type About = { status?: string; expected?: string | null; whose?: string; price?: { amount: number; currency: string } | null };

/** Where a part stands, in few words; nothing for one that lies there and is in order. */
function standing(part: RackPart): string {
  const about = part.about as About;
  if (part.out) return say.out(part.out.title);
  if (about.status === "ordered") return about.expected ? say.orderedFor(shortDay(about.expected)) : say.ordered;
  if (about.status === "borrowed") return about.whose ? say.borrowedFrom(about.whose) : say.borrowed;
  return about.status === "wanted" ? say.wanted : "";
}

export function useChangeCount(garageId: number) {
  const queryClient = useQueryClient();
  const binned = useBinned();
  return useMutation({
    mutationFn: ({ part, quantity }: { part: RackPart; quantity: number }) => {
      const path = { garage_id: garageId, part_id: part.id };
      return quantity > 0
        ? unwrap(
            client.PUT("/api/garages/{garage_id}/rack/{part_id}", {
              params: { path },
              body: { kind: part.kind, label: part.label, document: part.document, quantity, about: part.about, follow: [] },
            }),
          )
        : unwrap(client.DELETE("/api/garages/{garage_id}/rack/{part_id}", { params: { path } }));
    },
    onSuccess: (_data, { part, quantity }) => {
      if (quantity <= 0) binned({ garage: garageId, kind: "part", id: part.id, name: nameOf(part) });
      return queryClient.invalidateQueries({ queryKey: ["garage"] });
    },
  });
}

function Row({ part, garageId }: { part: RackPart; garageId: number }) {
  const change = useChangeCount(garageId);
  const words = standing(part);
  const left = lengthOf(part, useSettings().units);
  return (
    <li className="flex min-h-11 items-center gap-3 border-b border-line py-1">
      {part.single ? <Sticker letter={part.letter} out={part.out != null} /> : <span className="w-8 flex-none" />}
      <span className="min-w-0 flex-1">
        <Link to={`/rack/${part.id}`} className="block truncate font-semibold underline-offset-3 hover:underline">
          {decimals(part.label)}
        </Link>
        {left && <span className="block text-small text-ink2">{say.left(left)}</span>}
        {words && (
          <span className={`block text-small ${part.out ? "font-semibold text-hottext" : "text-ink2"}`}>
            <Glyph mark={part.out ? "stop" : "note"} size={12} quiet /> {words}
          </span>
        )}
      </span>
      {!part.single && (
        <span className="flex items-center gap-1">
          <button
            type="button"
            className="btn !min-h-9 !px-2.5"
            aria-label={say.oneLess(part.label)}
            onClick={() => change.mutate({ part, quantity: part.quantity - 1 })}
          >
            −
          </button>
          <b className="w-7 text-center">{part.quantity}</b>
          <button
            type="button"
            className="btn !min-h-9 !px-2.5"
            aria-label={say.oneMore(part.label)}
            onClick={() => change.mutate({ part, quantity: part.quantity + 1 })}
          >
            +
          </button>
        </span>
      )}
    </li>
  );
}

export function RackPage() {
  const garage = useGarage();
  const rack = useRack(garage?.id);
  const [typed, setTyped] = useState("");
  const [kind, setKind] = useState("");
  const [most, setMost] = useState(PAGE);
  const found = useMemo(() => {
    const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
    return (rack ?? []).filter((part) => {
      const text = `${nameOf(part)} ${kindName(part.kind)} ${standing(part)}`.toLowerCase();
      return (!kind || part.kind === kind) && words.every((word) => text.includes(word));
    });
  }, [rack, typed, kind]);
  const queryClient = useQueryClient();
  const readIn = useMutation({
    mutationFn: async (file: File) =>
      unwrap(
        client.POST("/api/garages/{garage_id}/rack/table", {
          params: { path: { garage_id: garage?.id ?? 0 } },
          body: { text: await file.text() },
        }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["garage"] }),
  });
  const kinds = EVERY_KIND.filter((one) => rack?.some((part) => part.kind === one));
  const shown = found.slice(0, most);
  return (
    <Shortcuts actions={{}}>
      <div className="flex min-h-full flex-col">
        <div className="border-b-[1.5px] border-ink [&>header]:h-[52px]">
          <Header crumb={<Crumbs />} />
        </div>
        <main className="mx-auto grid w-full max-w-[1080px] grid-cols-[minmax(0,1fr)] content-start gap-4 p-5 max-desk:p-4">
          <div className="flex flex-wrap items-end gap-3">
            <h1 className="flex-1 text-[32px]">{say.rack}</h1>
            {garage && (
              <>
                <FilePick
                  label={say.readATable}
                  accept=".csv,text/csv"
                  busy={readIn.isPending}
                  onFile={(file) => readIn.mutate(file)}
                >
                  {say.readATable}
                </FilePick>
                <a className="btn" href={`/api/garages/${garage.id}/rack.csv`} download>
                  {say.asATable}
                </a>
              </>
            )}
            <Link to="/rack/new" className="btn go">
              {say.addAPart}
            </Link>
          </div>
          <div className="flex flex-wrap items-center gap-3">
            <input
              type="search"
              className="input max-w-80"
              aria-label={say.find}
              placeholder={say.find}
              value={typed}
              onChange={(e) => {
                setTyped(e.target.value);
                setMost(PAGE);
              }}
            />
            <div className="w-full min-w-0 overflow-x-auto [&_button]:whitespace-nowrap [&_fieldset]:w-max [&_fieldset]:max-w-none">
              <Segmented
                label={say.kindOfPart}
                value={kind}
                options={[["", say.all], ...kinds.map((one) => [one, kindName(one)] as const)]}
                onChange={setKind}
              />
            </div>
          </div>
          {readIn.data && (
            <p role="status" className="border-l-4 border-leaf pl-3">
              {say.cameIn(readIn.data.length)}
            </p>
          )}
          <Trouble error={readIn.error} className="" />
          {!rack && <p role="status">{say.opening}</p>}
          {rack?.length === 0 && (
            <div className="grid max-w-[56ch] gap-2 py-6">
              <h2 className="text-[21px]">{say.nothingHereYet}</h2>
              <p className="text-ink2">{say.whatYouOwnIs}</p>
            </div>
          )}
          {rack && rack.length > 0 && found.length === 0 && <p className="text-ink2">{say.nothingFound}</p>}
          {kinds
            .filter((one) => shown.some((part) => part.kind === one))
            .map((one) => (
              <section key={one} aria-label={kindName(one)}>
                <h2 className="border-b-[1.5px] border-ink pb-1 text-[15px]">{kindName(one)}</h2>
                <ul>
                  {shown
                    .filter((part) => part.kind === one)
                    .map((part) => (
                      <Row key={part.id} part={part} garageId={garage?.id ?? 0} />
                    ))}
                </ul>
              </section>
            ))}
          {found.length > shown.length && (
            <button type="button" className="btn justify-self-center" onClick={() => setMost(most + PAGE)}>
              {say.more(found.length - shown.length)}
            </button>
          )}
        </main>
      </div>
    </Shortcuts>
  );
}
