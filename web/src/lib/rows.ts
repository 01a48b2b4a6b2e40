/** The rows of the bank in the document, and what steppers, drags and keys make of them. */

import type { Pack } from "../api/client";
import { MOST } from "./choices";
import { type Doc, type Json, read } from "./pointer";

export type Row = { units: Pack[]; fuse?: Json; lead?: Json; link?: Json; plugs?: Json };
export type Spot = { row: number; unit: number };

export const MOST_ROWS = MOST["Bank.rows"];
export const MOST_SERIES = MOST["Row.units"];

export function rowsOf(doc: Doc): Row[] {
  return read(doc, "/bank/rows") ?? [];
}

export const letter = (row: number) => String.fromCharCode(65 + row);

/** A pack by its place: A, B, or A1, A2 where a row has several. */
export const spotName = (rows: Row[], { row, unit }: Spot) =>
  `${letter(row)}${(rows[row]?.units.length ?? 0) > 1 ? unit + 1 : ""}`;

/** Packs the core says are one more of each that is there, row by row. */
export type Others = readonly (readonly Pack[])[];

/** One more of the pack at a place; while nothing is computed of a pack that is new there, of the last one known. */
const other = (others: Others, { row, unit }: Spot): Pack | undefined => {
  const packs = others[Math.min(row, others.length - 1)];
  return packs?.[Math.min(unit, packs.length - 1)];
};

/** Every pack another: a bank of rows × series of these packs in their order, each row with the fuse, lead and plugs it had. */
export function allOf(rows: Row[], packs: readonly Pack[], count: number, series: number): Row[] {
  return Array.from({ length: count }, (_, r) => ({
    ...(rows[r] ?? rows[0] ?? {}),
    units: packs.slice(r * series, (r + 1) * series),
  }));
}

/** A row more, like the one at a place, behind it; its packs are new ones. */
export function oneMoreRow(rows: Row[], others: Others, like: number): Row[] {
  const row = rows[like];
  if (!row || rows.length >= MOST_ROWS) return rows;
  const units = row.units.map((_, u) => other(others, { row: like, unit: u }));
  if (units.some((unit) => unit === undefined)) return rows;
  const more: Row = { ...structuredClone(row), units: units as Pack[] };
  return [...rows.slice(0, like + 1), more, ...rows.slice(like + 1)];
}

/** One more pack at the end of a row, of the kind of its last one. */
export function oneMorePack(rows: Row[], others: Others, row: number): Row[] {
  const more = other(others, { row, unit: Number.POSITIVE_INFINITY });
  return rows.map((r, i) => (i === row && more && r.units.length < MOST_SERIES ? { ...r, units: [...r.units, more] } : r));
}

/** As many rows, and as many packs in each, as a stepper says. What is there stays as it is; the last ones go first. */
export function stepped(rows: Row[], others: Others, count: number, series: number): Row[] {
  let next = rows.slice(0, count).map((r) => ({ ...r, units: r.units.slice(0, series) }));
  for (let r = 0; r < next.length; r++)
    for (let had = -1; next[r]!.units.length < series && next[r]!.units.length > had; ) {
      had = next[r]!.units.length;
      next = oneMorePack(next, others, r);
    }
  for (let had = -1; next.length < count && next.length > had; ) {
    had = next.length;
    next = oneMoreRow(next, others, next.length - 1);
  }
  return next;
}

/** Rows without those that lost their last pack; never none at all. */
const kept = (rows: Row[], before: Row[]) => {
  const left = rows.filter((r) => r.units.length > 0);
  return left.length ? left : before;
};

/** A pack taken from one place and put into another row, at a place in it or at its end; a row number past the last makes a new row. */
export function moved(rows: Row[], from: Spot, to: { row: number; unit?: number }): Row[] {
  const pack = rows[from.row]?.units[from.unit];
  if (!pack || to.row < 0 || to.row > rows.length || (to.row === rows.length && rows.length >= MOST_ROWS)) return rows;
  const without = rows.map((r, i) => (i === from.row ? { ...r, units: r.units.filter((_, u) => u !== from.unit) } : r));
  if (to.row === rows.length) return kept([...without, { ...rows[from.row], units: [pack] }], rows);
  const target = without[to.row] as Row;
  if (to.row !== from.row && target.units.length >= MOST_SERIES) return rows;
  const at = Math.min(to.unit ?? target.units.length, target.units.length);
  const units = [...target.units.slice(0, at), pack, ...target.units.slice(at)];
  return kept(
    without.map((r, i) => (i === to.row ? { ...r, units } : r)),
    rows,
  );
}

export const withoutRow = (rows: Row[], row: number): Row[] => (rows.length > 1 ? rows.filter((_, r) => r !== row) : rows);

export const withoutUnit = (rows: Row[], { row, unit }: Spot): Row[] =>
  kept(
    rows.map((r, i) => (i === row ? { ...r, units: r.units.filter((_, u) => u !== unit) } : r)),
    rows,
  );
