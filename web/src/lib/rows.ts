/** The rows of the bank in the document, and what steppers, drags and keys make of them. */
import { type Doc, type Json, read } from "./pointer";

export type Row = { units: Doc[]; fuse?: Json; lead?: Json; link?: Json; plugs?: Json };
export type Spot = { row: number; unit: number };

export const MOST_ROWS = 8;

export const MOST_SERIES = 10;

export function rowsOf(doc: Doc): Row[] {
  return (read(doc, "/bank/rows") as unknown as Row[] | undefined) ?? [];
}

export const letter = (row: number) => String.fromCharCode(65 + row);

/** A pack by its place: A, B, or A1, A2 where a row has several. */
export const spotName = (rows: Row[], { row, unit }: Spot) =>
  `${letter(row)}${(rows[row]?.units.length ?? 0) > 1 ? unit + 1 : ""}`;

/** A bank of rows × series alike packs, keeping each row's fuse and leads and each pack's own charge and volts where they were. */
export function resized(rows: Row[], unit: Doc, count: number, series: number): Row[] {
  return Array.from({ length: count }, (_, r) => {
    const old = rows[r];
    return {
      ...(old ?? rows[0] ?? {}),
      units: Array.from({ length: series }, (_, u) => ({
        ...unit,
        resting_v: old?.units[u]?.resting_v ?? null,
        charge: old?.units[u]?.charge ?? null,
      })),
      fuse: old?.fuse ?? rows[0]?.fuse ?? null,
      lead: old?.lead ?? rows[0]?.lead ?? null,
    };
  });
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
  if (to.row === rows.length) return kept([...without, { ...(rows[from.row] as Row), units: [pack] }], rows);
  const target = without[to.row] as Row;
  if (to.row !== from.row && target.units.length >= MOST_SERIES) return rows;
  const at = Math.min(to.unit ?? target.units.length, target.units.length);
  const units = [...target.units.slice(0, at), pack, ...target.units.slice(at)];
  return kept(
    without.map((r, i) => (i === to.row ? { ...r, units } : r)),
    rows,
  );
}

export const copied = (rows: Row[], row: number): Row[] =>
  rows.length < MOST_ROWS && rows[row]
    ? [...rows.slice(0, row + 1), structuredClone(rows[row] as Row), ...rows.slice(row + 1)]
    : rows;

export const withoutRow = (rows: Row[], row: number): Row[] => (rows.length > 1 ? rows.filter((_, r) => r !== row) : rows);

export const added = (rows: Row[], row: number, unit: Doc): Row[] =>
  rows.map((r, i) => (i === row && r.units.length < MOST_SERIES ? { ...r, units: [...r.units, unit] } : r));

export const withoutUnit = (rows: Row[], { row, unit }: Spot): Row[] =>
  kept(
    rows.map((r, i) => (i === row ? { ...r, units: r.units.filter((_, u) => u !== unit) } : r)),
    rows,
  );
