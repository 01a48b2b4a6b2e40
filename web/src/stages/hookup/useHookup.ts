/** The plan of the hookup for a draft, and which of the steps done no longer hold. All of it is the server's. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, type SetupRow, unwrap } from "../../api/client";
import type { Doc } from "../../lib/pointer";

export function useHookup(doc: Doc, buildId: number, row: SetupRow) {
  const done = row.ticks
    .map((t) => ({ step: t.step, mark: t.mark, measured: t.measured, measured_open: t.measured_open, excused: t.excused }))
    .sort((a, b) => a.step.localeCompare(b.step));
  return useQuery({
    queryKey: ["hookup", doc, buildId, row.is_baseline, done],
    queryFn: async () => {
      const answer = await unwrap(
        client.POST("/api/hookup", {
          body: { setup: doc, build_id: buildId, baseline: null, is_baseline: row.is_baseline, done },
        }),
      );
      const held = new Set(answer.holding);
      // Of those asked about: one ticked a moment ago is not lost because nobody has asked yet.
      return { plan: answer.plan, lost: new Set(done.map((one) => one.step).filter((step) => !held.has(step))) };
    },
    placeholderData: keepPreviousData,
    retry: false,
  });
}
