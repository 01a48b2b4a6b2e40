/** What a stage is to the workspace. Each stage's folder says it in its own `stage.ts`; `workspace/stages.ts` lists them. */

import type { ComponentType } from "react";
import type { Build, Finding, Patch, SetupRow } from "../api/client";
import type { StageName } from "../lib/stages";
import type { Draft } from "../lib/useDraft";
import type { Plan } from "../lib/usePlan";
import { openOf } from "../lib/useStanding";
import { stage as say } from "../texts/stages";
import type { Mark } from "../ui/Glyph";

/** What a stage's panel is given. */
export interface StageProps {
  build: Build;
  row: SetupRow;
  draft: Draft;
  plan: Plan;
  place: string | undefined;
  apply: (patch: Patch, label: string) => void;
}

/** What is known of a setup when the tape of stages is marked. */
export interface Known {
  /** Findings of this stage, notes left out. */
  mine: Finding[];
  row: SetupRow;
  /** It may be ridden. */
  ride: boolean;
  /** Questions of the survey nobody has an answer to yet. */
  unasked: number;
}

export interface StageMark {
  mark: Mark;
  words: string;
}

export interface Stage {
  name: StageName;
  /** Fetched when it is opened first. */
  Panel: ComponentType<StageProps>;
  mark: (known: Known) => StageMark;
}

/** A stage of the plan: its stops, else what is open to be looked at, else its cautions. */
export function planMark({ mine, row }: Known, when: { open?: number; done?: string } = {}): StageMark {
  const { stops, looks } = openOf(mine, row);
  if (stops) return { mark: "stop", words: say.stops(stops) };
  const open = Math.max(looks, when.open ?? 0);
  if (open) return { mark: "open", words: say.toLookAt(open) };
  if (mine.length) return { mark: "caution", words: say.open(mine.length) };
  return { mark: "done", words: when.done ?? say.done };
}

/** A stage of steps to tick: how many of them are done. Steps of the way back are no progress. */
export function tickMark({ row }: Known, ofStage: (step: string) => boolean, mark: Mark): StageMark {
  const done = row.ticks.filter((t) => !t.step.startsWith("back.") && ofStage(t.step)).length;
  return done ? { mark, words: say.checked(done) } : { mark: "open", words: say.notStarted };
}
