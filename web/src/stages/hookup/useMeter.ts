/** What the meter should show between two terminals, in the state one says the machine is in. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import type { Doc } from "../../lib/pointer";

export type Situation = Record<string, boolean | number | string | number[]>;

/** All in and switched on, throttle at rest. */
export const ALL_ON: Situation = {
  packs: true,
  rows_out: [],
  row_fuses: true,
  main_fuse: true,
  aux_fuses: true,
  cut_off: true,
  key: true,
  throttle: 0,
};

export function useMeter(doc: Doc, red: string, black: string, situation: Situation, enabled = true) {
  return useQuery({
    queryKey: ["meter", doc, red, black, situation],
    queryFn: () =>
      unwrap(client.POST("/api/hookup/meter", { body: { setup: doc as never, red, black, situation: situation as never } })),
    placeholderData: keepPreviousData,
    enabled,
    retry: false,
  });
}
