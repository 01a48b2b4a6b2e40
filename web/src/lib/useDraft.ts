/** A setup being edited: undo, autosave, locking, and never a lost edit. */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { type ApiError, type Build, type Clash, client, Failed, type SetupRow, unwrap } from "../api/client";
import { draftOf, dropDraft, keepDraft } from "./drafts";
import { type Doc, type Json, same, write } from "./pointer";

const SAVE_AFTER_MS = 700;
const RETRY_AFTER_MS = 5000;

export type SaveState =
  | { kind: "saved"; at: Date | null; joined?: boolean }
  | { kind: "saving" }
  | { kind: "waiting" }
  | { kind: "invalid"; error: ApiError }
  | { kind: "offline" }
  | { kind: "refused"; error: ApiError }
  | { kind: "conflict"; theirs: Doc; version: number; asked: Clash[]; why: string };

/** Which side is taken, by the path of the field; "" for everything. */
export type Answers = Record<string, "mine" | "theirs">;

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
  /** Says what is taken where both changed a field. */
  settle: (answers: Answers) => void;
}

export function useDraft(row: SetupRow): Draft {
  const queryClient = useQueryClient();
  const kept = useRef(draftOf(row.id));
  const [doc, setDoc] = useState<Doc>(() => kept.current?.document ?? row.document);
  const [past, setPast] = useState<Doc[]>([]);
  const [future, setFuture] = useState<Doc[]>([]);
  const [save, setSave] = useState<SaveState>({ kind: kept.current ? "waiting" : "saved", at: null });
  const version = useRef(kept.current?.based_on ?? row.version);
  const stored = useRef<Doc>(kept.current?.base ?? row.document);
  /** Sent and not acknowledged: it may have been saved all the same, so that it is sent again as it was, before anything newer. */
  const unanswered = useRef<Doc | null>(kept.current?.sent ?? null);
  const hasBase = useRef(kept.current === null || kept.current.base !== undefined);
  const answers = useRef<{ answers: Answers; answers_to: number } | null>(null);
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

  const keep = useCallback(() => {
    const base = hasBase.current ? { base: stored.current, sent: unanswered.current } : {};
    keepDraft(row.id, { document: current.current, based_on: version.current, ...base });
  }, [row.id]);

  const push = useCallback(async () => {
    if (busy.current) return;
    const document = unanswered.current ?? current.current;
    // Taken in from others a moment ago: there is nothing to send any more.
    if (unanswered.current === null && answers.current === null && same(document, stored.current)) return;
    busy.current = true;
    unanswered.current = document;
    keep();
    setSave({ kind: "saving" });
    try {
      const saved = await unwrap(
        client.PUT("/api/setups/{setup_id}", {
          params: { path: { setup_id: row.id } },
          body: {
            document,
            based_on: version.current,
            label: label.current,
            base: hasBase.current ? stored.current : null,
            answers: answers.current?.answers ?? {},
            answers_to: answers.current?.answers_to ?? null,
          },
        }),
      );
      unanswered.current = null;
      label.current = "";
      const done = same(document, current.current);
      if (saved.joined && done) {
        const theirs = saved.document;
        // One undo away where somebody chose. Otherwise undo must not take out what others put in, which nobody here has seen.
        setPast(answers.current ? (list) => [...list, document] : []);
        setFuture([]);
        current.current = theirs;
        stored.current = theirs;
        setDoc(theirs);
      } else stored.current = document;
      hasBase.current = true;
      answers.current = null;
      // Typed on meanwhile: what is typed builds on what was sent, and is joined with the others' once more.
      if (done || !saved.joined) version.current = saved.version;
      if (done) {
        dropDraft(row.id);
        setSave({ kind: "saved", at: new Date(), joined: saved.joined });
      } else {
        setSave({ kind: "waiting" });
        setAgain((n) => n + 1);
      }
      // The answer is the setup as it stands now; nothing else of its build has changed. The garage is asked when it is shown.
      const { joined: _, ...now } = saved;
      queryClient.setQueriesData<Build>({ queryKey: ["build"] }, (build) =>
        build?.setups ? { ...build, setups: build.setups.map((one) => (one.id === now.id ? now : one)) } : build,
      );
      queryClient.invalidateQueries({ queryKey: ["garage"], refetchType: "none" });
    } catch (problem) {
      if (problem instanceof Failed && problem.status === 409) {
        const { theirs, version: at = 0, asked = [], message } = problem.error;
        unanswered.current = null;
        answers.current = null;
        keep();
        setSave({ kind: "conflict", theirs: theirs as Doc, version: at, asked, why: message });
      } else if (problem instanceof Failed && problem.status === 422) {
        unanswered.current = null;
        keep();
        // Mended while it was on its way: what is wrong with the older one is wrong no longer, and the newer one is yet to be sent.
        if (same(document, current.current)) setSave({ kind: "invalid", error: problem.error });
        else {
          setSave({ kind: "waiting" });
          setAgain((n) => n + 1);
        }
      } else {
        const told = problem instanceof Failed && problem.status > 0;
        setSave(told ? { kind: "refused", error: problem.error } : { kind: "offline" });
        // A viewer may try what he likes here; it is never saved, so that trying again would only be noise.
        if (!(told && problem.error.code === "viewer")) setTimeout(() => setAgain((n) => n + 1), RETRY_AFTER_MS);
      }
    } finally {
      busy.current = false;
    }
  }, [queryClient, row.id, keep]);

  // Keep what is not saved yet in this browser, and save it a moment after the last key.
  // biome-ignore lint/correctness/useExhaustiveDependencies: `again` retries after a lost connection
  useEffect(() => {
    if (same(doc, stored.current) && unanswered.current === null) {
      dropDraft(row.id);
      setSave((now) => (now.kind === "conflict" || now.kind === "saved" ? now : { kind: "saved", at: null }));
      return;
    }
    keep();
    if (save.kind === "conflict") return;
    const timer = setTimeout(push, SAVE_AFTER_MS);
    return () => clearTimeout(timer);
  }, [doc, row.id, push, keep, again, save.kind === "conflict"]);

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
    settle: (chosen) => {
      if (save.kind !== "conflict") return;
      answers.current = { answers: chosen, answers_to: save.version };
      push();
    },
  };
}
