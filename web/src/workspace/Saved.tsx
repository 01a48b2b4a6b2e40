/** Whether what was typed is saved, and the steps back and forth. */

import { Redo2, Undo2 } from "lucide-react";
import type { Draft } from "../lib/useDraft";

/** Why the server did not save, in the few words there is room for. */
const WHY: Record<string, string> = {
  signed_out: "signed out",
  locked_database: "busy",
  disk_full: "its disk is full",
  read_only: "it may not write",
  not_found: "gone on the server",
  viewer: "you look only",
};

export function SavedLine({ save }: { save: Draft["save"] }) {
  const words = {
    saved: [
      "Saved",
      save.kind === "saved" && save.at
        ? `${save.at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}${save.joined ? ", both" : ""}`
        : "on this computer",
    ],
    saving: ["Saving…", ""],
    waiting: ["Saving soon", ""],
    invalid: ["Not saved yet", "a field needs mending"],
    offline: ["Not saved", "no connection, kept here"],
    refused: ["Not saved", `${save.kind === "refused" ? (WHY[save.error.code] ?? "the server failed") : ""}, kept here`],
    conflict: ["Not saved", "changed elsewhere"],
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
      <button type="button" className="btn quiet !px-2" disabled={!canUndo} onClick={undo} aria-label="Undo (key u)">
        <Undo2 size={17} aria-hidden="true" />
      </button>
      <button
        type="button"
        className="btn quiet !px-2 max-desk:hidden"
        disabled={!canRedo}
        onClick={redo}
        aria-label="Redo (key U)"
      >
        <Redo2 size={17} aria-hidden="true" />
      </button>
    </span>
  );
}
