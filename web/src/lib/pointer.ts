/** Reading and changing a Setup document by JSON Pointer, without touching the old one. */
import { applyPatch as apply, type Operation } from "fast-json-patch";
import type { Patch } from "../api/client";

export type Json = null | boolean | number | string | Json[] | { [key: string]: Json };
export type Doc = { [key: string]: Json };

const steps = (pointer: string) => pointer.split("/").filter((step) => step !== "");

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
