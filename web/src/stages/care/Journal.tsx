/** The build's journal: what happened, and writing it down. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { FormEvent } from "react";
import { client, type JournalEntry, unwrap } from "../../api/client";
import { useBinned } from "../../bin/Undo";
import { sendOrKeep } from "../../lib/outbox";
import { useKept } from "../../lib/useKept";
import { usePages } from "../../lib/usePages";
import { PhotosOf } from "../../photos/PhotosOf";
import { journal as say } from "../../texts/care";
import { shortDay } from "../../texts/locale";
import { More } from "../../ui/More";
import { Trouble } from "../../ui/Trouble";
import { Block } from "../Heading";
import type { StageProps } from "../stage";

const KINDS = ["note", "repair", "change", "crash", "charge", "upkeep"] as const;

export function Journal({ build, row }: StageProps) {
  const queryClient = useQueryClient();
  const binned = useBinned();
  const [kind, setKind] = useKept<(typeof KINDS)[number]>(`journal ${build.id} kind`, "note");
  const [text, setText] = useKept(`journal ${build.id} text`, "");
  const list = usePages(
    ["journal", build.id],
    100,
    (skip, limit) =>
      unwrap(client.GET("/api/builds/{build_id}/journal", { params: { path: { build_id: build.id }, query: { skip, limit } } })),
    (entry) => entry.id,
  );
  const entries = list.pages?.flat();
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["journal", build.id] });
  const add = useMutation({
    mutationFn: () =>
      sendOrKeep<JournalEntry>({
        method: "POST",
        url: `/api/builds/${build.id}/journal`,
        body: { kind, text, setup_id: row.id, when: new Date().toISOString() },
        words: say.journalOf(build.name, text.slice(0, 60)),
      }),
    onSuccess: () => {
      setText("");
      refresh();
    },
  });
  const remove = useMutation({
    mutationFn: ({ id }: JournalEntry) =>
      unwrap(
        client.DELETE("/api/builds/{build_id}/journal/{entry_id}", { params: { path: { build_id: build.id, entry_id: id } } }),
      ),
    onSuccess: (_data, { id, text }) => {
      binned({ garage: build.garage_id, kind: "entry", id, name: `“${text.length > 40 ? `${text.slice(0, 40)}…` : text}”` });
      return refresh();
    },
  });
  return (
    <Block title={say.journal} line={say.repairsChangesCrashesAnd}>
      <form
        className="grid gap-2"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <textarea
          className="input min-h-16 py-2"
          aria-label={say.whatHappened}
          placeholder={say.whatHappenedAsked}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <div className="flex gap-2">
          <select
            className="input flex-1"
            aria-label={say.kindOfEntry}
            value={kind}
            onChange={(e) => setKind(e.target.value as typeof kind)}
          >
            {KINDS.map((k) => (
              <option key={k}>{k}</option>
            ))}
          </select>
          <button type="submit" className="btn go" disabled={add.isPending}>
            {say.writeItDown}
          </button>
        </div>
        <Trouble error={add.error} otherwise={say.thatDidNotWork} className="" />
      </form>
      <ul className="mt-3">
        {entries?.map((e) => (
          <li key={e.id} className="flex gap-3 border-b border-line py-1.5">
            <span className="w-16 flex-none text-small text-ink3">{shortDay(e.when)}</span>
            <span className="min-w-0 flex-1">
              <b className="capitalize">{e.kind}</b> {e.text}
              <PhotosOf garageId={build.garage_id} shows={{ build: build.id, entry: e.id }} title={say.photosOfThisEntry} />
            </span>
            {e.kind !== "overruled" && (
              <button
                type="button"
                className="btn quiet !min-h-7 !px-1"
                aria-label={say.deleteThisEntry}
                onClick={() => remove.mutate(e)}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ul>
      <More of={list} words={say.showOlderEntries} />
      {entries?.length === 0 && <p className="mt-2 text-ink2">{say.nothingWrittenYet}</p>}
    </Block>
  );
}
