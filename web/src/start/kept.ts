/** What was entered so far, kept in this browser until the build is made. */
import type { Doc } from "../lib/pointer";

export const KEPT = "gecko-start";

/** A kind of pack and how many of it: one of the list or of the rack, by its id. */
export type ShelfEntry = { id: string; count: number };

type Kept = {
  family: string;
  doc: Doc;
  name: string;
  shelf: ShelfEntry[] | null;
  typed?: string[];
  bare?: boolean;
  /** The kit or part that goes in, by its id; 0 where none shall. */
  kit?: number;
  /** The key of the part somebody came with. */
  from?: string;
};

export function kept(): Kept | null {
  try {
    return JSON.parse(sessionStorage.getItem(KEPT) ?? "null");
  } catch {
    return null;
  }
}
