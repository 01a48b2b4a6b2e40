/** Keeping a part as it is now. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, type RackPart, unwrap } from "../api/client";
import type { Doc } from "../lib/pointer";

type Change = { document?: Doc; about?: Doc; label?: string; letter?: string; follow?: number[] };

/** Keeps a part as it is now; what is not named stays what it was. */
export function useKeepPart(garageId: number, part: RackPart) {
  const queryClient = useQueryClient();
  return useMutation({
    mutationFn: ({ document, about, label, letter, follow }: Change) =>
      unwrap(
        client.PUT("/api/garages/{garage_id}/rack/{part_id}", {
          params: { path: { garage_id: garageId, part_id: part.id } },
          body: {
            kind: part.kind,
            label: label ?? part.label,
            document: (document ?? part.document) as never,
            quantity: part.quantity,
            about: (about ?? part.about) as never,
            letter: letter ?? null,
            follow: follow ?? [],
          },
        }),
      ),
    // Setups may have followed, and every plan hears what happened to a part.
    onSuccess: () => queryClient.invalidateQueries(),
  });
}
