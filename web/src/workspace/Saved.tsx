/** Whether what was typed is saved, and the steps back and forth. */

import { Redo2, Undo2 } from "lucide-react";
import type { Draft } from "../lib/useDraft";
import { clock } from "../texts/locale";
import { saved as say } from "../texts/workspace";

/** Why the server did not save, in the few words there is room for. */
const WHY: Record<string, string> = say.why;

export function SavedLine({ save }: { save: Draft["save"] }) {
  const why = save.kind === "refused" ? WHY[save.error.code] : undefined;
  const words = {
    saved: [say.saved, save.kind === "saved" && save.at ? `${clock(save.at)}${save.joined ? say.both : ""}` : say.onThisComputer],
    saving: [say.saving, ""],
    waiting: [say.savingSoon, ""],
    invalid: [say.notSavedYet, say.aFieldNeedsMending],
    offline: [say.notSaved, say.noConnectionKeptHere],
    refused: [say.notSaved, say.keptHere(why)],
    conflict: [say.notSaved, say.changedElsewhere],
  }[save.kind];
  return (
    <span
      role="status"
      className={`block text-[11.5px] leading-[13px] whitespace-nowrap ${save.kind === "saved" ? "text-leaftext" : save.kind === "saving" || save.kind === "waiting" ? "text-ink3" : "text-hottext"}`}
      data-save={save.kind}
    >
      <b className="block">{words[0]}</b>
      {words[1] || "\u00a0"}
    </span>
  );
}

export function UndoRedo({ canUndo, canRedo, undo, redo }: Pick<Draft, "canUndo" | "canRedo" | "undo" | "redo">) {
  return (
    <span className="flex">
      <button type="button" className="btn quiet !px-2" disabled={!canUndo} onClick={undo} aria-label={say.undoKeyU}>
        <Undo2 size={17} aria-hidden="true" />
      </button>
      <button
        type="button"
        className="btn quiet !px-2 max-desk:hidden"
        disabled={!canRedo}
        onClick={redo}
        aria-label={say.redoKeyU}
      >
        <Redo2 size={17} aria-hidden="true" />
      </button>
    </span>
  );
}
