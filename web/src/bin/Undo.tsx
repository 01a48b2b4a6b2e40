/** What was just put into the bin, with the way back, for as long as one may still be startled. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from "react";
import { client, unwrap } from "../api/client";
import { undo as say } from "../texts/bin";
import { Trouble } from "../ui/Trouble";

export interface Binned {
  garage: number;
  kind: "build" | "setup" | "trial" | "entry" | "part" | "line" | "photo" | "rider";
  id: number;
  name: string;
}

const SHOWN_MS = 12_000;
const Told = createContext<(one: Binned) => void>(() => {});

/** Tells that something is in the bin now. */
export const useBinned = () => useContext(Told);

/** Brings something back out of the bin, and everything on screen up to date. */
export function useBringBack(then?: () => void) {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: ({ garage, kind, id }: Omit<Binned, "kind" | "name"> & { kind: string }) =>
      unwrap(
        client.POST("/api/garages/{garage_id}/bin/{kind}/{row_id}/back", {
          params: { path: { garage_id: garage, kind, row_id: id } },
        }),
      ),
    onSuccess: () => {
      then?.();
      return queryClient.invalidateQueries();
    },
  });
}

export function UndoProvider({ children }: { children: ReactNode }) {
  const [last, setLast] = useState<Binned | null>(null);
  const away = useCallback(() => setLast(null), []);
  return (
    <Told.Provider value={setLast}>
      {children}
      {last && <Bar key={`${last.kind} ${last.id}`} one={last} away={away} />}
    </Told.Provider>
  );
}

function Bar({ one, away }: { one: Binned; away: () => void }) {
  const back = useBringBack(away);
  const stays = back.isPending || back.isError;
  useEffect(() => {
    if (stays) return;
    const timer = setTimeout(away, SHOWN_MS);
    return () => clearTimeout(timer);
  }, [stays, away]);
  return (
    <div
      role="status"
      className="noprint fixed inset-x-3 bottom-24 z-40 mx-auto flex w-fit max-w-[92vw] flex-wrap items-center gap-3 rounded-lg border-2 border-ink bg-paper px-4 py-2 shadow-lg"
    >
      <span className="min-w-0 break-words">
        <span>{say.isInTheBin(one.name)}</span>
        <Trouble error={back.error} />
      </span>
      <button type="button" className="btn go" disabled={back.isPending} onClick={() => back.mutate(one)}>
        {say.bringItBack}
      </button>
      <button type="button" className="btn quiet" aria-label={say.close} onClick={away}>
        ×
      </button>
    </div>
  );
}
