/** Several parts beside the one in a slot, before it is exchanged: what is lost, what changes, what the checks say. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type SubstituteOut, unwrap } from "../../api/client";
import { type Offered, useParts } from "../../lib/parts";
import { type Doc, read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import type { Of } from "../../lib/useDeepPlan";
import { instead as say } from "../../texts/drive";
import { decimals } from "../../texts/locale";
import { duration, plainNumber, withUnit } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { PartOptions } from "../../ui/PickPart";
import { Trouble } from "../../ui/Trouble";

const MOST = 4;
const SLOTS = [
  ["controller", "controllers", say.controller],
  ["motor", "motors", say.motor],
  ["throttle", "throttles", say.throttle],
  ["drivetrain", "gearboxes", say.gearing],
  ["wheel", "wheels", say.wheel],
] as const;
type Slot = (typeof SLOTS)[number][0];

/** A value as the document holds it: a number with its unit, or a word. */
const shown = (value: string | number | null | undefined, unit: string) =>
  value == null ? say.notSaid : typeof value === "number" ? `${plainNumber(value)} ${unit}`.trim() : value;

function Column({ one, onTake }: { one: SubstituteOut; onTake: () => void }) {
  const { units } = useSettings();
  return (
    <li className="grid min-w-56 flex-1 content-start gap-2 border-l border-line pl-3 first:border-l-0 first:pl-0">
      <b className="font-head text-[15px]">{decimals(one.name)}</b>
      <p>
        <Glyph mark={one.fits ? "fits" : "stop"} size={12} /> {one.fits ? say.fits : say.doesNotFit}
      </p>
      {one.stops.length > 0 && (
        <ul className="list-disc pl-4 text-small text-hottext" aria-label={say.stops}>
          {one.stops.map((title) => (
            <li key={title}>{title}</li>
          ))}
        </ul>
      )}
      {one.cleared.length > 0 && <p className="text-small">{say.cleared(one.cleared)}</p>}
      <p>
        {one.top_speed_m_s == null ? "?" : withUnit(one.top_speed_m_s, "speed", units)},{" "}
        {one.run_time_s == null ? "?" : duration(one.run_time_s)}
      </p>
      {one.lost.length > 0 && (
        <p className="border-l-4 border-amber pl-2 text-small">
          <b>{say.lost}</b> {one.lost.join(", ")}
        </p>
      )}
      {one.gained.length > 0 && (
        <p className="border-l-4 border-leaf pl-2 text-small">
          <b>{say.gained}</b> {one.gained.join(", ")}
        </p>
      )}
      {one.changes.length > 0 && (
        <dl className="grid gap-0.5 text-small" aria-label={say.changes}>
          {one.changes.map((change) => (
            <div key={change.field}>
              <dt className="text-ink2">{decimals(change.what)}</dt>
              <dd>
                {shown(change.before, change.unit)} → <b>{shown(change.after, change.unit)}</b>
              </dd>
            </div>
          ))}
        </dl>
      )}
      <button type="button" className="btn justify-self-start" onClick={onTake}>
        {say.take}
      </button>
    </li>
  );
}

export function Instead({ of, onTake }: { of: Of; onTake: (setup: Doc, name: string) => void }) {
  const parts = useParts();
  const [slot, setSlot] = useState<Slot>("controller");
  const [ids, setIds] = useState<string[]>([]);
  const kind = SLOTS.find(([one]) => one === slot)?.[1] ?? "controllers";
  const offered: Offered[] = (parts[kind] ?? []).filter((one) => !ids.includes(one.id));
  const chosen = ids.flatMap((id) => (parts[kind] ?? []).filter((one) => one.id === id));
  const found = useQuery({
    queryKey: ["instead", slot, ids, of.doc, of.buildId, of.isBaseline],
    queryFn: () =>
      unwrap(
        client.POST("/api/instead", {
          body: {
            setup: of.doc as never,
            build_id: of.buildId,
            is_baseline: of.isBaseline,
            slot,
            candidates: chosen.map((one) => ({ name: one.label, part: one.part as never })),
          },
        }),
      ),
    enabled: chosen.length > 0,
    placeholderData: (old) => old,
    retry: false,
  });
  const there = read(of.doc, `/${slot}`) != null;
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <label className="block">
          <span className="mb-1 block text-small font-bold text-ink2">{say.insteadOf}</span>
          <select
            className="input"
            value={slot}
            onChange={(e) => {
              setSlot(e.target.value as Slot);
              setIds([]);
            }}
          >
            {SLOTS.map(([one, , words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label className="block min-w-60">
          <span className="mb-1 block text-small font-bold text-ink2">{say.compareWith}</span>
          <select
            className="input"
            value=""
            disabled={ids.length >= MOST || offered.length === 0}
            onChange={(e) => e.target.value && setIds([...ids, e.target.value])}
          >
            <option value="">{offered.length ? say.choose(MOST) : say.noneToChoose}</option>
            <PartOptions parts={offered} />
          </select>
        </label>
        {ids.length > 0 && (
          <button type="button" className="btn quiet" onClick={() => setIds([])}>
            {say.startOver}
          </button>
        )}
      </div>
      <Trouble error={found.error} className="" />
      {ids.length === 0 && <p className="text-ink2">{there ? say.nothingIsChanged : say.nothingThereYet}</p>}
      {found.isFetching && !found.data && <p role="status">{say.working}</p>}
      {ids.length > 0 && found.data && (
        <ul className="flex gap-3 overflow-x-auto" aria-label={say.sideBySide}>
          {found.data.candidates.map((one) => (
            <Column
              key={one.name}
              one={one}
              onTake={() => {
                setIds([]);
                onTake(one.setup as unknown as Doc, one.name);
              }}
            />
          ))}
        </ul>
      )}
    </div>
  );
}
