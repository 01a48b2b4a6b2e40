/** A setup being edited: undo, autosave, locking, and never a lost edit. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { type ApiError, client, Failed, type SetupRow, unwrap } from "../api/client";
import { draftOf, dropDraft, keepDraft } from "./drafts";
import { type Doc, type Json, same, write } from "./pointer";

const SAVE_AFTER_MS = 700;
const RETRY_AFTER_MS = 5000;

export type SaveState =
  | { kind: "saved"; at: Date | null }
  | { kind: "saving" }
  | { kind: "waiting" }
  | { kind: "invalid"; error: ApiError }
  | { kind: "offline" }
  | { kind: "refused"; error: ApiError }
  | { kind: "conflict"; theirs: Doc; version: number };

export interface Draft {
  doc: Doc;
  save: SaveState;
  edit: (pointer: string, value: Json) => void;
  replace: (doc: Doc, label?: string) => void;
  undo: () => void;
  redo: () => void;
  /** The version on the server this one builds on. */
  version: number;
  canUndo: boolean;
  canRedo: boolean;
  keepMine: () => void;
  takeTheirs: () => void;
}

export function useDraft(row: SetupRow): Draft {
  const queryClient = useQueryClient();
  const kept = useRef(draftOf(row.id));
  const [doc, setDoc] = useState<Doc>(() => kept.current?.document ?? (row.document as Doc));
  const [past, setPast] = useState<Doc[]>([]);
  const [future, setFuture] = useState<Doc[]>([]);
  const [save, setSave] = useState<SaveState>({ kind: kept.current ? "waiting" : "saved", at: null });
  const version = useRef(kept.current?.based_on ?? row.version);
  const stored = useRef<Doc>(row.document as Doc);
  const label = useRef("");
  const current = useRef(doc);
  current.current = doc;
  const busy = useRef(false);
  const [again, setAgain] = useState(0);

  const change = useCallback((next: Doc, why = "") => {
    if (same(next, current.current)) return;
    setPast((list) => [...list.slice(-99), current.current]);
    setFuture([]);
    setDoc(next);
    label.current = why;
    setSave((now) => (now.kind === "conflict" ? now : { kind: "waiting" }));
  }, []);

  const push = useCallback(async () => {
    if (busy.current) return;
    const document = current.current;
    busy.current = true;
    setSave({ kind: "saving" });
    try {
      const saved = await unwrap(
        client.PUT("/api/setups/{setup_id}", {
          params: { path: { setup_id: row.id } },
          body: { document, based_on: version.current, label: label.current },
        }),
      );
      version.current = saved.version;
      stored.current = document;
      label.current = "";
      if (same(document, current.current)) {
        dropDraft(row.id);
        setSave({ kind: "saved", at: new Date() });
      } else setSave({ kind: "waiting" });
      queryClient.invalidateQueries({ queryKey: ["build"] });
      queryClient.invalidateQueries({ queryKey: ["garage"] });
    } catch (problem) {
      if (problem instanceof Failed && problem.status === 409) {
        setSave({ kind: "conflict", theirs: problem.error.theirs as Doc, version: problem.error.version ?? 0 });
      } else if (problem instanceof Failed && problem.status === 422) {
        setSave({ kind: "invalid", error: problem.error });
      } else {
        const told = problem instanceof Failed && problem.status > 0;
        setSave(told ? { kind: "refused", error: problem.error } : { kind: "offline" });
        setTimeout(() => setAgain((n) => n + 1), RETRY_AFTER_MS);
      }
    } finally {
      busy.current = false;
    }
  }, [queryClient, row.id]);

  // Keep what is not saved yet in this browser, and save it a moment after the last key.
  // biome-ignore lint/correctness/useExhaustiveDependencies: `again` retries after a lost connection
  useEffect(() => {
    if (same(doc, stored.current)) {
      dropDraft(row.id);
      setSave((now) => (now.kind === "conflict" ? now : { kind: "saved", at: now.kind === "saved" ? now.at : null }));
      return;
    }
    keepDraft(row.id, { document: doc, based_on: version.current });
    if (save.kind === "conflict") return;
    const timer = setTimeout(push, SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [doc, row.id, push, again, save.kind === "conflict"]);

  const step = useCallback((from: Doc[], setFrom: (l: Doc[]) => void, setTo: (f: (l: Doc[]) => Doc[]) => void) => {
    const next = from.at(-1);
    if (!next) return;
    setFrom(from.slice(0, -1));
    setTo((list) => [...list, current.current]);
    setDoc(next);
    setSave((now) => (now.kind === "conflict" ? now : { kind: "waiting" }));
  }, []);

  return {
    doc,
    save,
    edit: useCallback((pointer, value) => change(write(current.current, pointer, value)), [change]),
    replace: change,
    undo: () => step(past, setPast, setFuture),
    redo: () => step(future, setFuture, setPast),
    version: version.current,
    canUndo: past.length > 0,
    canRedo: future.length > 0,
    keepMine: () => {
      if (save.kind !== "conflict") return;
      version.current = save.version;
      label.current = "kept mine";
      setSave({ kind: "waiting" });
      setAgain((n) => n + 1);
    },
    takeTheirs: () => {
      if (save.kind !== "conflict") return;
      version.current = save.version;
      stored.current = save.theirs;
      setPast((list) => [...list, current.current]);
      setDoc(save.theirs);
      setSave({ kind: "saved", at: null });
    },
  };
}
