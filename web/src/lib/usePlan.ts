/** Everything on screen about a draft: evaluation, ranges, checked fixes. All of it is the server's. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { client, type Evaluation, Failed, type FindingFixes, type Problem, type Ranges, unwrap } from "../api/client";
import type { Doc } from "./pointer";
import { hold } from "./underway";

/** A value that follows after a pause, so that slower answers wait for the end of typing. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    // An object put together anew with the same parts is the same: else each settling would draw the page and begin the next one.
    const release = hold();
    const timer = setTimeout(() => {
      setSettled((now) => (alike(now, value) ? now : value));
      release();
    }, ms);
    return () => {
      clearTimeout(timer);
      release();
    };
  }, [value, ms]);
  return settled;
}

/** Whether two values are the same, or objects of the same parts. */
function alike(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true;
  if (typeof one !== "object" || typeof other !== "object" || one === null || other === null) return false;
  const [mine, theirs] = [Object.entries(one), new Map(Object.entries(other))];
  return mine.length === theirs.size && mine.every(([key, part]) => theirs.has(key) && Object.is(part, theirs.get(key)));
}

/** The last answer there was: a wrong value on screen must not take away what was computed before it. */
function useLast<T>(answer: T | undefined): T | undefined {
  const last = useRef(answer);
  if (answer !== undefined) last.current = answer;
  return last.current;
}

export interface Plan {
  evaluation: Evaluation | undefined;
  ranges: Ranges | undefined;
  fixes: FindingFixes[];
  problems: Problem[];
}

const UNKNOWN = { top_speed_m_s: null, run_time_s: null, nominal_v: null };
const FOREVER = { staleTime: Number.POSITIVE_INFINITY, retry: false, placeholderData: keepPreviousData } as const;

export function usePlan(doc: Doc, buildId: number | undefined, isBaseline: boolean): Plan {
  const draft = (setup: Doc) => ({ setup, build_id: buildId ?? null, is_baseline: isBaseline, baseline: null });
  const key = [buildId, isBaseline] as const;
  const evaluation = useQuery({
    queryKey: ["evaluation", ...key, doc],
    queryFn: ({ signal }) => unwrap(client.POST("/api/evaluate", { body: draft(doc), signal })),
    ...FOREVER,
  });
  const settled = useSettled(doc, 250);
  const enabled = !evaluation.isError;
  const ranges = useQuery({
    queryKey: ["ranges", ...key, settled],
    queryFn: ({ signal }) => unwrap(client.POST("/api/ranges", { body: draft(settled), signal })),
    enabled,
    ...FOREVER,
  });
  const fixes = useQuery({
    queryKey: ["fixes", ...key, settled],
    queryFn: ({ signal }) => unwrap(client.POST("/api/fixes", { body: draft(settled), signal })),
    enabled,
    ...FOREVER,
  });
  // What a fix costs is told of these numbers; while newer ones are awaited its price is left out.
  const old = fixes.isPlaceholderData || !alike(settled, doc);
  const offered = useLast(fixes.data);
  const failure = evaluation.error instanceof Failed ? evaluation.error.error : null;
  return {
    evaluation: useLast(evaluation.data),
    ranges: useLast(ranges.data),
    fixes: useMemo(
      () =>
        old
          ? (offered ?? []).map((one) => ({ ...one, fixes: one.fixes.map((fix) => ({ ...fix, price: UNKNOWN })) }))
          : (offered ?? []),
      [old, offered],
    ),
    problems: useMemo(
      () =>
        failure ? (failure.problems?.length ? failure.problems : [{ path: failure.field ?? "", message: failure.message }]) : [],
      [failure],
    ),
  };
}
