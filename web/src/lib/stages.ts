/** The stages in the order they are worked through; what a finding belongs to. */
import type { Finding } from "../api/client";

export type StageName = Finding["stage"];

const ORDER: Record<StageName, number> = { survey: 1, power: 2, protect: 3, drive: 4, hookup: 5, prove: 6, care: 7 };

export const STAGE_NAMES = (Object.keys(ORDER) as StageName[]).sort((a, b) => ORDER[a] - ORDER[b]);
