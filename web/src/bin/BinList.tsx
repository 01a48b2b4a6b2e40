/** The bin of the garage: what was deleted in the last thirty days, to bring back or to be rid of. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import { usePages } from "../lib/usePages";
import { binList as say } from "../texts/bin";
import { More } from "../ui/More";
import { Trouble } from "../ui/Trouble";
import { useBringBack } from "./Undo";

const KINDS: Record<string, string> = say.kinds;
const PAGE = 50;

export function BinList({ garageId }: { garageId: number }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-5" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="font-head text-[15px] font-bold">{say.bin}</summary>
      {open && <Inside garageId={garageId} />}
    </details>
  );
}

function Inside({ garageId }: { garageId: number }) {
  const queryClient = useQueryClient();
  const there = usePages(
    ["bin", garageId],
    PAGE,
    (skip, limit) =>
      unwrap(client.GET("/api/garages/{garage_id}/bin", { params: { path: { garage_id: garageId }, query: { skip, limit } } })),
    (one) => KIND_IDS.indexOf(one.kind) + KIND_IDS.length * one.id,
  );
  const back = useBringBack();
  const away = useMutation({
    mutationFn: ({ kind, id }: { kind: string; id: number }) =>
      unwrap(
        client.DELETE("/api/garages/{garage_id}/bin/{kind}/{row_id}", {
          params: { path: { garage_id: garageId, kind, row_id: id } },
        }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["bin"] }),
  });
  const rows = there.pages?.flat();
  return (
    <>
      <p className="mt-1 text-small text-ink2">{say.whatWasDeletedStays}</p>
      <Trouble error={back.error ?? away.error} />
      {rows?.length === 0 && <p className="mt-1 text-ink2">{say.empty}</p>}
      <ul>
        {rows?.map((one) => (
          <li key={`${one.kind} ${one.id}`} className="flex flex-wrap items-center gap-x-3 border-b border-line py-1.5">
            <span className="min-w-0 flex-1">
              <span className="break-words">{one.name}</span>{" "}
              <span className="block text-small text-ink3">
                {say.until(KINDS[one.kind] ?? one.kind, one.within, one.by, one.until)}
              </span>
            </span>
            <button
              type="button"
              className="text-small underline underline-offset-2"
              aria-label={say.bringNamedBack(one.name)}
              disabled={back.isPending}
              onClick={() => back.mutate({ garage: garageId, kind: one.kind, id: one.id })}
            >
              {say.bringBack}
            </button>
            <button
              type="button"
              className="text-small underline underline-offset-2"
              aria-label={say.deleteForGood(one.name)}
              onClick={() => away.mutate(one)}
            >
              {say.forGood}
            </button>
          </li>
        ))}
      </ul>
      <More of={there} words={say.older} />
    </>
  );
}

const KIND_IDS = Object.keys(KINDS);
