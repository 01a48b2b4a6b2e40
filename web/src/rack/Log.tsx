/** The log of a part: readings by hand and those that came by themselves, notes, the newest first. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type PartEntry, type RackPart, unwrap } from "../api/client";
import { useBinned } from "../bin/Undo";
import { rackKey } from "../lib/parts";
import { shortDay } from "../texts/locale";
import { log as say } from "../texts/rack";
import { fromShown, parseNumber, plainNumber, toShown } from "../texts/units";
import { Segmented } from "../ui/Field";
import { Alert, Trouble } from "../ui/Trouble";

/** Readings one can write down, with their unit on the screen. */
const READINGS = { rested: "V", capacity: "Ah", resistance: "mΩ", charged: "Ah" } as const;
type Reading = keyof typeof READINGS;
const isReading = (kind: string): kind is Reading => kind in READINGS;

function words(entry: PartEntry): string {
  if (!isReading(entry.kind)) return entry.text;
  const unit = READINGS[entry.kind];
  const number = `${plainNumber(toShown(entry.value ?? 0, unit))} ${unit}`;
  const half = entry.half == null ? "" : ` ± ${plainNumber(toShown(entry.half, unit))}`;
  return [`${number}${half}`, entry.text].filter(Boolean).join(", ");
}

function Write({ part, garageId, done }: { part: RackPart; garageId: number; done: () => void }) {
  const kinds = part.kind === "packs" ? (["rested", "capacity", "resistance", "charged", "note"] as const) : (["note"] as const);
  const [kind, setKind] = useState<string>(kinds[0]);
  const [number, setNumber] = useState("");
  const [half, setHalf] = useState("");
  const [text, setText] = useState("");
  const [when, setWhen] = useState("");
  const value = parseNumber(number);
  const wide = parseNumber(half);
  const bad = isReading(kind) && number.trim() !== "" && !(value !== undefined && value > 0);
  const write = useMutation({
    mutationFn: () => {
      return unwrap(
        client.POST("/api/garages/{garage_id}/rack/{part_id}/log", {
          params: { path: { garage_id: garageId, part_id: part.id } },
          body: {
            kind: kind as PartEntry["kind"],
            value: value === undefined || !isReading(kind) ? null : fromShown(value, READINGS[kind]),
            half: wide === undefined || !isReading(kind) ? null : fromShown(wide, READINGS[kind]),
            text,
            when: when ? new Date(`${when}T12:00`).toISOString() : null,
          },
        }),
      );
    },
    onSuccess: () => {
      setNumber("");
      setHalf("");
      setText("");
      done();
    },
  });
  return (
    <form
      className="my-3 grid gap-2 rounded-xl border border-line bg-paper p-3"
      onSubmit={(e) => {
        e.preventDefault();
        write.mutate();
      }}
    >
      {kinds.length > 1 && (
        <div className="max-w-full overflow-x-auto [&_button]:whitespace-nowrap [&_fieldset]:w-max [&_fieldset]:max-w-none">
          <Segmented
            label={say.what}
            value={kind}
            options={kinds.map((one) => [one, say.names[one]] as const)}
            onChange={setKind}
          />
        </div>
      )}
      <p className="text-small text-ink2">{say.how[kind as keyof typeof say.how]}</p>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(140px,1fr))] items-end gap-2">
        {isReading(kind) && (
          <>
            <label className="block">
              <span className="mb-1 block text-small font-bold text-ink2">{say.reading(READINGS[kind])}</span>
              <input
                className="input"
                inputMode="decimal"
                value={number}
                aria-invalid={bad || undefined}
                onChange={(e) => setNumber(e.target.value)}
              />
            </label>
            <label className="block">
              <span className="mb-1 block text-small font-bold text-ink2">{say.plusMinus}</span>
              <input
                className="input"
                inputMode="decimal"
                placeholder={say.asUsual}
                value={half}
                onChange={(e) => setHalf(e.target.value)}
              />
            </label>
          </>
        )}
        <label className="block">
          <span className="mb-1 block text-small font-bold text-ink2">{say.day}</span>
          <input type="date" className="input" value={when} onChange={(e) => setWhen(e.target.value)} />
        </label>
        <label className="block min-w-0">
          <span className="mb-1 block text-small font-bold text-ink2">{say.note}</span>
          <input className="input" value={text} maxLength={300} onChange={(e) => setText(e.target.value)} />
        </label>
      </div>
      {bad && <Alert className="">{say.aNumberAbove}</Alert>}
      <Trouble error={write.error} className="" />
      <div>
        <button
          type="submit"
          className="btn go"
          disabled={write.isPending || bad || (isReading(kind) ? value === undefined : !text.trim())}
        >
          {say.write}
        </button>
      </div>
    </form>
  );
}

export function Log({ part, garageId }: { part: RackPart; garageId: number }) {
  const queryClient = useQueryClient();
  const binned = useBinned();
  const [writing, setWriting] = useState(false);
  const [most, setMost] = useState(20);
  const key = [...rackKey(garageId), part.id, "log", most];
  const log = useQuery({
    queryKey: key,
    queryFn: () =>
      unwrap(
        client.GET("/api/garages/{garage_id}/rack/{part_id}/log", {
          params: { path: { garage_id: garageId, part_id: part.id }, query: { limit: most } },
        }),
      ),
    placeholderData: (old) => old,
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey: rackKey(garageId) });
  const remove = useMutation({
    mutationFn: (entry: PartEntry) =>
      unwrap(
        client.DELETE("/api/garages/{garage_id}/rack/{part_id}/log/{entry_id}", {
          params: { path: { garage_id: garageId, part_id: part.id, entry_id: entry.id } },
        }),
      ),
    onSuccess: (_data, entry) => {
      binned({ garage: garageId, kind: "line", id: entry.id, name: say.names[entry.kind] });
      return refresh();
    },
  });
  return (
    <section aria-label={say.log}>
      <div className="flex items-center gap-3">
        <h2 className="flex-1 text-[18px]">{say.log}</h2>
        <button type="button" className="btn" aria-expanded={writing} onClick={() => setWriting(!writing)}>
          {writing ? say.close : part.kind === "packs" ? say.addAReading : say.addANote}
        </button>
      </div>
      {writing && (
        <Write
          part={part}
          garageId={garageId}
          done={() => {
            setWriting(false);
            refresh();
          }}
        />
      )}
      {log.data?.length === 0 && !writing && <p className="text-ink2">{part.kind === "packs" ? say.nothingYet : say.noNotes}</p>}
      <ul>
        {log.data?.map((entry) => (
          <li
            key={entry.id}
            className="grid grid-cols-[64px_92px_minmax(0,1fr)_auto_auto] items-center gap-x-3 border-b border-line py-1 max-desk:grid-cols-[56px_minmax(0,1fr)_auto]"
          >
            <span className="text-ink2">{shortDay(entry.when)}</span>
            <b className="max-desk:hidden">{say.names[entry.kind]}</b>
            <span className="min-w-0">
              <b className="desk:hidden">{say.names[entry.kind]} </b>
              {words(entry)}
            </span>
            <span className="text-small text-ink3 max-desk:hidden">{say.from[entry.source]}</span>
            <button
              type="button"
              className="btn quiet !min-h-8 !px-2"
              aria-label={say.remove(say.names[entry.kind], shortDay(entry.when))}
              onClick={() => remove.mutate(entry)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {log.data && log.data.length === most && (
        <button type="button" className="btn mt-2" onClick={() => setMost(Math.min(most * 3, 200))}>
          {say.more}
        </button>
      )}
    </section>
  );
}
