/** What is not saved yet, kept in this browser: bound to the database, the account and the setup it belongs to. */
import type { Doc } from "./pointer";

export interface Kept {
  document: Doc;
  based_on: number;
  /** The document it was made from: what others save meanwhile is joined with it. */
  base?: Doc;
  /** What was sent and nobody acknowledged: it goes first, as it was. */
  sent?: Doc | null;
}

/** A draft that belongs to another database or account, or to nobody one knows. */
export interface Stray {
  key: string;
  text: string;
  name: string;
}

const START = "gecko-draft";
let keeper = "";

/** From here on drafts are those of this keeper: a database and an account, as the session names them. */
export function keepFor(whom: string): void {
  keeper = whom;
}

/** Where something else of this keeper is kept: what waits to be sent, what is typed into a form. */
export const keeperKey = (kind: "out" | "form" | "garage", name = "") => `gecko-${kind}:${keeper}${name && `:${name}`}`;

const keyOf = (setup: number) => `${START}:${keeper}:${setup}`;

/** The draft of a setup, if this keeper has one. */
export function draftOf(setup: number): Kept | null {
  try {
    return JSON.parse(localStorage.getItem(keyOf(setup)) ?? "null");
  } catch {
    return null;
  }
}

export function keepDraft(setup: number, draft: Kept): void {
  localStorage.setItem(keyOf(setup), JSON.stringify(draft));
}

export function dropDraft(setup: number): void {
  localStorage.removeItem(keyOf(setup));
}

/** Drafts of others: never applied, offered as files. */
export function strays(): Stray[] {
  const mine = `${START}:${keeper}:`;
  const named = (key: string) =>
    key.startsWith("gecko-out:") ? "unsent-entries.json" : `unsaved-setup-${key.split(/[-:]/).at(-1)}.json`;
  return Object.keys(localStorage)
    .filter(
      (key) => (key.startsWith(START) && !key.startsWith(mine)) || (key.startsWith("gecko-out:") && key !== keeperKey("out")),
    )
    .sort()
    .map((key) => ({ key, text: localStorage.getItem(key) ?? "", name: named(key) }));
}

export function forget(stray: Stray): void {
  localStorage.removeItem(stray.key);
}
