/** What was entered and nobody has acknowledged: stored here before it is sent, sent in its order, and kept until it is settled. */
import { Failed, newKey, sendParcel } from "../api/client";
import { keeperKey } from "./drafts";

export interface Parcel {
  /** The same key each time it is sent, so that it is made once. */
  key: string;
  method: "POST" | "PUT";
  url: string;
  body: unknown;
  /** What it is, as one reads it. */
  words: string;
  at: string;
  /** It was sent in vain: from then on it is shown. */
  waits?: boolean;
  /** Why the server will not have it; it waits for somebody to decide. */
  refused?: string;
}

/** Stands for an answer that is still to come: it is kept here and sent when there is a connection. */
export const KEPT = Symbol("kept");

const RETRY_MS = 5000;
/** Not settled by these: signed out, too many tries, a server that failed; and 0, nobody answered. */
const LATER = (status: number) => status === 0 || status >= 500 || [401, 403, 408, 429].includes(status);

type Waiting = { resolve: (answer: unknown) => void; reject: (problem: unknown) => void };
const waiting = new Map<string, Waiting>();
const listeners = new Set<() => void>();
let running: Promise<void> | null = null;
let again = false;
let life = 0;
let timer: ReturnType<typeof setTimeout> | undefined;
let seen: { text: string; parcels: Parcel[] } = { text: "", parcels: [] };
/** Called with what was settled, so that the page fetches what it changed. */
let settled: () => void = () => {};

const place = () => keeperKey("out");

/** All that waits, the oldest first. The same array until something changes. */
export function parcels(): Parcel[] {
  const text = localStorage.getItem(place()) ?? "[]";
  if (text === seen.text) return seen.parcels;
  try {
    seen = { text, parcels: JSON.parse(text) };
  } catch {
    seen = { text, parcels: [] };
  }
  return seen.parcels;
}

function store(list: Parcel[]): void {
  if (list.length) localStorage.setItem(place(), JSON.stringify(list));
  else localStorage.removeItem(place());
  for (const tell of listeners) tell();
}

const without = (key: string) => store(parcels().filter((one) => one.key !== key));

export function subscribe(tell: () => void): () => void {
  listeners.add(tell);
  return () => listeners.delete(tell);
}

export function whenSettled(tell: () => void): void {
  settled = tell;
}

/** Stores a parcel, sends it after those before it, and brings the answer; KEPT where nobody answered. Throws what the server refuses. */
export function sendOrKeep<T>(what: Omit<Parcel, "key" | "at" | "refused">): Promise<T | typeof KEPT> {
  const one: Parcel = { ...what, key: newKey(), at: new Date().toISOString() };
  store([...parcels(), one]);
  return new Promise((resolve, reject) => {
    waiting.set(one.key, { resolve: resolve as (answer: unknown) => void, reject });
    void sendAll();
  });
}

/** Sends what waits, one after the other. */
export function sendAll(): Promise<void> {
  again = true;
  running ??= untilNothingNew();
  return running;
}

async function untilNothingNew(): Promise<void> {
  const mine = life;
  // Asked for while the last one was out: once more.
  while (again && mine === life) {
    again = false;
    await run(mine);
  }
  if (mine === life) running = null;
}

/** As after a reload: nobody waits for an answer any more, what is stored stays. */
export function startOver(): void {
  life += 1;
  clearTimeout(timer);
  waiting.clear();
  running = null;
  again = false;
}

async function run(mine: number): Promise<void> {
  clearTimeout(timer);
  let changed = false;
  while (mine === life) {
    const one = parcels().find((parcel) => !parcel.refused);
    if (!one) break;
    const asked = waiting.get(one.key);
    try {
      const answer = await sendParcel(one);
      without(one.key);
      changed = true;
      asked?.resolve(answer);
    } catch (problem) {
      const status = problem instanceof Failed ? problem.status : 0;
      if (LATER(status)) {
        for (const { resolve } of waiting.values()) resolve(KEPT);
        waiting.clear();
        store(parcels().map((parcel) => ({ ...parcel, waits: true })));
        timer = setTimeout(() => void sendAll(), RETRY_MS);
        break;
      }
      // Whoever entered it is looking at the form, which still has it.
      if (asked) without(one.key);
      else refuse(one.key, (problem as Failed).message);
      asked?.reject(problem);
    }
    waiting.delete(one.key);
  }
  if (changed) settled();
}

const refuse = (key: string, why: string) => store(parcels().map((one) => (one.key === key ? { ...one, refused: why } : one)));

export function tryAgain(key: string): void {
  store(parcels().map(({ refused, ...one }) => (one.key === key ? one : { ...one, ...(refused ? { refused } : {}) })));
  void sendAll();
}

export const discard = without;
