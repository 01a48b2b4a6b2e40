/** A part while it is entered: its document at the place a setup has it, what is known of it, and what the server found wrong. */
import { useCallback, useMemo, useState } from "react";
import { Failed } from "../api/client";
import { useGarage } from "../lib/garage";
import { type Doc, type Json, read, write } from "../lib/pointer";
import { useHelp } from "../lib/useHelp";
import type { FormScope } from "../ui/Field";
import { SLOT } from "./kinds";

/** What is so of a part nobody said anything else of. */
const USUAL = { status: "on hand", state: "unknown", had: "unknown" };

/** A part put where fields look for it. */
const placed = (kind: string, { rack: _, ...document }: Doc, about: Doc): Doc =>
  write({ about: { ...USUAL, ...about } } as Doc, SLOT[kind] ?? `/${kind}`, document);

export interface PartForm {
  scope: FormScope;
  document: Doc;
  about: Doc;
  changed: boolean;
  replace: (kind: string, document: Doc, about: Doc) => void;
}

export function usePartForm(kind: string, document: Doc, about: Doc, error: unknown): PartForm {
  const help = useHelp();
  const currency = useGarage()?.units.money ?? "USD";
  const [doc, setDoc] = useState<Doc>(() => placed(kind, document, about));
  const [changed, setChanged] = useState(false);
  const slot = SLOT[kind] ?? `/${kind}`;
  const edit = useCallback(
    (pointer: string, value: Json) => {
      setChanged(true);
      setDoc((now) => {
        const next = write(now, pointer, value);
        // A price is in the garage's own money until somebody says otherwise.
        const priced = pointer === "/about/price/amount" && !read(next, "/about/price/currency");
        return priced ? write(next, "/about/price/currency", currency) : next;
      });
    },
    [currency],
  );
  const problems = useMemo(
    () =>
      (error instanceof Failed ? (error.error.problems ?? []) : []).map((one) => ({
        ...one,
        path: one.path.startsWith("/about") ? one.path : slot + one.path,
      })),
    [error, slot],
  );
  const replace = useCallback((next: string, part: Doc, told: Doc) => {
    setDoc(placed(next, part, told));
    setChanged(false);
  }, []);
  const scope = useMemo(() => ({ doc, edit, problems, help, assumed: {} }), [doc, edit, problems, help]);
  return {
    scope,
    document: (read(doc, slot) as Doc | null) ?? {},
    about: (read(doc, "/about") as Doc | null) ?? {},
    changed,
    replace,
  };
}
