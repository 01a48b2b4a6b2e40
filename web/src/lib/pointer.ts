/** Reading and changing a Setup document by JSON Pointer, without touching the old one. */
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

type Operation = { op?: string; path?: string; from?: string; value?: Json };

/** Apply the JSON Patch of a checked fix (RFC 6902: add, replace, remove, move, copy). */
export function applyPatch(doc: Doc, patch: Operation[]): Doc {
  const copy = structuredClone(doc);
  const at = (pointer: string): [Json, string] => {
    const way = steps(pointer).map((step) => step.replaceAll("~1", "/").replaceAll("~0", "~"));
    const last = way.pop() ?? "";
    return [way.length ? (read(copy, `/${way.join("/")}`) as Json) : copy, last];
  };
  const take = (pointer: string): Json => {
    const [parent, key] = at(pointer);
    if (Array.isArray(parent)) return parent.splice(Number(key), 1)[0] ?? null;
    const object = parent as Doc;
    const value = object[key] ?? null;
    delete object[key];
    return value;
  };
  const put = (pointer: string, value: Json, replace: boolean) => {
    const [parent, key] = at(pointer);
    if (!Array.isArray(parent)) (parent as Doc)[key] = value;
    else if (replace) parent[Number(key)] = value;
    else parent.splice(key === "-" ? parent.length : Number(key), 0, value);
  };
  for (const { op, path = "", from = "", value = null } of patch) {
    if (op === "remove") take(path);
    else if (op === "move") put(path, take(from), false);
    else if (op === "copy") put(path, structuredClone(read(copy, from) ?? null), false);
    else put(path, value, op === "replace");
  }
  return copy;
}

export const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
