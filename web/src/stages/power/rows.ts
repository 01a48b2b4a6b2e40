/** The rows of the bank in the document, and what the steppers make of them. */
import { type Doc, type Json, read } from "../../lib/pointer";

export type Row = { units: Doc[]; fuse?: Json; lead?: Json };

export const MOST_ROWS = 8;

export const MOST_SERIES = 10;

export function rowsOf(doc: Doc): Row[] {
  return (read(doc, "/bank/rows") as unknown as Row[] | undefined) ?? [];
}

/** A bank of rows × series alike packs, keeping each row's fuse and each pack's own resting volts where they were. */
export function resized(rows: Row[], unit: Doc, count: number, series: number): Json {
  return Array.from({ length: count }, (_, r) => {
    const old = rows[r];
    return {
      units: Array.from({ length: series }, (_, u) => {
        const resting = old?.units[u]?.resting_v;
        return { ...unit, resting_v: resting ?? null };
      }),
      fuse: old?.fuse ?? rows[0]?.fuse ?? null,
      lead: old?.lead ?? rows[0]?.lead ?? null,
    };
  }) as unknown as Json;
}
