/** A goal: how fast, how long or how steep it shall be; what reaches it, with what it costs and what breaks first. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { memo, useState } from "react";
import { client, Failed, type Goal, unwrap } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { draftOf, type Of } from "../../lib/useDeepPlan";
import { useSettled } from "../../lib/usePlan";
import { goal as say } from "../../texts/drive";
import { duration, fromShown, parseNumber, plainNumber, sentence, type UnitChoice, unitOf, withUnit } from "../../texts/units";
import { Segmented } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import type { Change } from "../../ui/WhatIf";
import { TryButton } from "./TryButton";

export type Asked = { kind: "speed" | "time" | "hill"; value: number };

const KINDS = [
  ["speed", say.soFast],
  ["time", say.soLong],
  ["hill", say.upThatHill],
] as const;
const UNIT = { time: "min", hill: "%" } as const;

/** What a goal is in SI, and how it is written. */
const toSi = (kind: Asked["kind"], typed: number, units: UnitChoice) =>
  kind === "speed" ? fromShown(typed, unitOf("speed", units)) : kind === "time" ? 60 * typed : typed / 100;
export const goalWords = ({ kind, value }: Asked, units: UnitChoice) =>
  kind === "speed" ? withUnit(value, "speed", units) : kind === "time" ? duration(value) : `${plainNumber(100 * value, 1)} %`;

/** What somebody wants of the machine, typed. */
export const GoalForm = memo(function GoalForm({ onGoal, label }: { onGoal: (goal: Asked | undefined) => void; label: string }) {
  const { units } = useSettings();
  const [kind, setKind] = useState<Asked["kind"]>("speed");
  const [text, setText] = useState("");
  const put = (nextKind: Asked["kind"], nextText: string) => {
    setKind(nextKind);
    setText(nextText);
    const typed = parseNumber(nextText);
    onGoal(typed !== undefined && typed > 0 ? { kind: nextKind, value: toSi(nextKind, typed, units) } : undefined);
  };
  const bad = text.trim() !== "" && !((parseNumber(text) ?? 0) > 0);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Segmented label={say.whatKindOfGoal} value={kind} options={KINDS} onChange={(k) => put(k as Asked["kind"], text)} />
      <div className="relative w-32">
        <input
          className="input pr-12"
          inputMode="decimal"
          autoComplete="off"
          aria-label={label}
          aria-invalid={bad || undefined}
          value={text}
          placeholder={{ speed: "20", time: "60", hill: "15" }[kind]}
          onChange={(e) => put(kind, e.target.value)}
        />
        <span className="pointer-events-none absolute top-1/2 right-3 -translate-y-1/2 text-small text-ink3">
          {kind === "speed" ? unitOf("speed", units) : UNIT[kind]}
        </span>
      </div>
      {bad && (
        <p role="alert" className="text-small text-hottext">
          {say.enterANumberAbove}
        </p>
      )}
    </div>
  );
});

/** What reaches a goal, for a document; asked for a moment after the typing ends. */
export function useGoal(of: Of, goal: Asked | undefined): { found: Goal | undefined; busy: boolean; error: Error | null } {
  const asked = useSettled({ doc: of.doc, goal }, 500);
  const { data, isFetching, error, isPlaceholderData } = useQuery({
    queryKey: ["goal", of.buildId, of.isBaseline, asked],
    queryFn: ({ signal }) =>
      unwrap(
        client.POST("/api/drive/goal", {
          body: { ...draftOf({ ...of, doc: asked.doc }), ...(asked.goal ?? { kind: "speed", value: 1 }) },
          signal,
        }),
      ),
    enabled: asked.goal !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    placeholderData: keepPreviousData,
  });
  return { found: goal && !isPlaceholderData ? (data ?? undefined) : undefined, busy: isFetching, error };
}

/** What does not reach it alone, and why. */
function FallsShort({ kind, found }: { kind: Asked["kind"]; found: Goal }) {
  const { units } = useSettings();
  if (found.short.length === 0) return null;
  return (
    <details>
      <summary className="text-small text-ink2">{say.whatDoesNotReach}</summary>
      <ul className="mt-1 grid gap-1 text-small text-ink2">
        {found.short.map((one) => (
          <li key={one.label}>
            <b>{sentence(one.label, units)}</b>: {goalWords({ kind, value: one.value }, units)}
            {one.why && say.atMost(one.why)}.
          </li>
        ))}
      </ul>
    </details>
  );
}

function Ways({ found, tryOut }: { found: Goal; tryOut: (change: Change) => void }) {
  const { units } = useSettings();
  return (
    <ul className="grid gap-1.5" aria-label={say.whatReachesIt}>
      {found.ways.map((way) => (
        <li key={way.label} className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-2 border-t border-line pt-1.5">
          <div className="min-w-0">
            <p>
              <Glyph mark={way.stops.length ? "stop" : way.share > 0.85 ? "caution" : "fits"} size={13} quiet />{" "}
              <b>{sentence(way.label, units)}</b> <span className="text-ink3">{sentence(way.detail, units)}</span>
            </p>
            <p className="text-small text-ink2">
              {say.machineThen(
                way.top_speed_m_s,
                units,
                way.run_time_s,
                way.hill_grade,
                way.peak_a,
                way.winding_stop_s,
                way.warm_c,
                way.breaks_first.toLowerCase(),
                way.share,
              )}
            </p>
            <p className="text-small text-ink2">{say.costs(way.cost)}</p>
            {way.stops.length > 0 && (
              <p className="text-small text-hottext">{say.stopsItThen(way.stops.slice(0, 2).join("; "), units)}</p>
            )}
          </div>
          <TryButton label={way.label} doc={way.document} tryOut={tryOut} />
        </li>
      ))}
    </ul>
  );
}

export const GoalSection = memo(function GoalSection({ of, tryOut }: { of: Of; tryOut: (change: Change) => void }) {
  const { units } = useSettings();
  const [goal, setGoal] = useState<Asked>();
  const { found, busy, error } = useGoal(of, goal);
  return (
    <section className="grid content-start gap-2" aria-label={say.aGoal}>
      <h2 className="text-[15px]">{say.itShouldGo}</h2>
      <GoalForm onGoal={setGoal} label={say.goal} />
      {goal && !found && busy && <p role="status">{say.tryingWhatReachesIt}</p>}
      {error instanceof Failed && (
        <p role="alert" className="text-hottext">
          {error.error.message}
        </p>
      )}
      {goal && found && (
        <>
          <p role="status">{sentence(found.sentence, units)}</p>
          <Ways found={found} tryOut={tryOut} />
          <FallsShort kind={goal.kind} found={found} />
        </>
      )}
    </section>
  );
});
