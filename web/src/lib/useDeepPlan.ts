/** The plans of Power, Protect and Drive: asked for while their stage is open, a moment after the typing ends. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import {
  type Changes,
  type Chooser,
  client,
  type DrivePlan,
  type Evaluation,
  type PowerPlan,
  type ProtectPlan,
  unwrap,
} from "../api/client";
import type { Doc } from "./pointer";
import { useSettled } from "./usePlan";

export interface Of {
  doc: Doc;
  buildId: number;
  isBaseline: boolean;
}

const KEPT = { staleTime: Number.POSITIVE_INFINITY, retry: false, placeholderData: keepPreviousData } as const;
export const draftOf = ({ doc, buildId, isBaseline }: Of) => ({
  setup: doc,
  build_id: buildId,
  is_baseline: isBaseline,
  baseline: null,
});

export function usePowerPlan(of: Of): { plan: PowerPlan | undefined; busy: boolean; error: Error | null } {
  const doc = useSettled(of.doc, 300);
  const { data, isFetching, error } = useQuery({
    queryKey: ["power", of.buildId, of.isBaseline, doc],
    queryFn: ({ signal }) => unwrap(client.POST("/api/power", { body: draftOf({ ...of, doc }), signal })),
    ...KEPT,
  });
  return { plan: data, busy: isFetching, error };
}

export function useProtectPlan(of: Of, run: string): { plan: ProtectPlan | undefined; busy: boolean; error: Error | null } {
  const doc = useSettled(of.doc, 300);
  const { data, isFetching, error } = useQuery({
    queryKey: ["protect", of.buildId, of.isBaseline, run, doc],
    queryFn: ({ signal }) => unwrap(client.POST("/api/protect", { body: { ...draftOf({ ...of, doc }), run }, signal })),
    ...KEPT,
  });
  return { plan: data, busy: isFetching, error };
}

export function useDrivePlan(of: Of): { plan: DrivePlan | undefined; busy: boolean; error: Error | null } {
  const doc = useSettled(of.doc, 300);
  const { data, isFetching, error } = useQuery({
    queryKey: ["drive", of.buildId, of.isBaseline, doc],
    queryFn: ({ signal }) => unwrap(client.POST("/api/drive", { body: draftOf({ ...of, doc }), signal })),
    ...KEPT,
  });
  return { plan: data, busy: isFetching, error };
}

/** Every sprocket one can buy; asked for while its section is open. */
export function useSprockets(of: Of, enabled: boolean): { sprockets: Chooser["sprockets"] | undefined; error: Error | null } {
  const doc = useSettled(of.doc, 300);
  const { data, error } = useQuery({
    queryKey: ["sprockets", of.buildId, of.isBaseline, doc],
    queryFn: ({ signal }) => unwrap(client.POST("/api/drive/sprockets", { body: draftOf({ ...of, doc }), signal })),
    enabled,
    ...KEPT,
  });
  return { sprockets: data?.sprockets, error };
}

/** Every single change tried: a while after the typing ends, for it takes the longest. */
export function useDriveChanges(of: Of, enabled = true): { changes: Changes | undefined; busy: boolean; error: Error | null } {
  const doc = useSettled(of.doc, 1000);
  const { data, isFetching, error, isPlaceholderData } = useQuery({
    queryKey: ["drive changes", of.buildId, of.isBaseline, doc],
    queryFn: ({ signal }) => unwrap(client.POST("/api/drive/changes", { body: draftOf({ ...of, doc }), signal })),
    enabled,
    ...KEPT,
  });
  return { changes: isPlaceholderData || doc !== of.doc ? undefined : data, busy: isFetching, error };
}

/** The evaluation of another document of the same setup: what a change would bring. */
export function useWhatIf(of: Of, other: Doc | undefined): Evaluation | undefined {
  const { data } = useQuery({
    queryKey: ["evaluation", of.buildId, of.isBaseline, other],
    queryFn: ({ signal }) => unwrap(client.POST("/api/evaluate", { body: draftOf({ ...of, doc: other as Doc }), signal })),
    enabled: other !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return data;
}
