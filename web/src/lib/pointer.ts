/** Reading and changing a Setup document by JSON Pointer, without touching the old one. */
import { applyPatch as apply, type Operation } from "fast-json-patch";
import type { Patch, Setup } from "../api/client";

export type Json = undefined | null | boolean | number | string | Json[] | { [key: string]: Json };
export type Doc = { [key: string]: Json };

const steps = (pointer: string) => pointer.split("/").filter((step) => step !== "");

/** One step down in a type: an item of a list, a field of a part; never where there is none. */
type Step<T, K extends string> =
  NonNullable<T> extends readonly (infer Item)[] ? Item : K extends keyof NonNullable<T> ? NonNullable<T>[K] : never;
type At<T, P extends string> = P extends `/${infer K}/${infer Rest}`
  ? At<Step<T, K>, `/${Rest}`>
  : P extends `/${infer K}`
    ? Step<T, K>
    : never;

/** What stands at a place of a setup; of a place nobody knows before it runs, whatever JSON is. */
type Found<P extends string> = string extends P
  ? Json | undefined
  : [At<Setup, P>] extends [never]
    ? Json | undefined
    : At<Setup, P> | undefined;

export function read<const P extends string>(doc: Json | undefined, pointer: P): Found<P>;
export function read(doc: Json | undefined, pointer: string): Json | undefined {
  let place: Json | undefined = doc;
  for (const step of steps(pointer)) {
    if (place === null || typeof place !== "object") return undefined;
    place = Array.isArray(place) ? place[Number(step)] : place[step];
  }
  return place;
}

export function write<T extends Json>(doc: T, pointer: string, value: Json): T {
  const way = steps(pointer);
  const change = (place: Json, at: number): Json => {
    const step = way[at];
    if (step === undefined) return value;
    if (Array.isArray(place)) return place.map((item, i) => (i === Number(step) ? change(item, at + 1) : item));
    const object = place !== null && typeof place === "object" ? place : {};
    return { ...object, [step]: change(object[step] ?? null, at + 1) };
  };
  return change(doc, 0) as T;
}

/** The document with the JSON Patch of a checked fix applied (RFC 6902); the old one stays what it was. */
export const applyPatch = (doc: Doc, patch: Patch): Doc => apply(doc, patch as Operation[], false, false).newDocument;

export const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
