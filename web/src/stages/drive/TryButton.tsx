/** Shows what a change would do before it is kept. */
import type { Doc } from "../../lib/pointer";
import { tryButton as say } from "../../texts/drive";
import type { Change } from "../../ui/WhatIf";

export function TryButton({ label, doc, tryOut }: { label: string; doc: Doc; tryOut: (change: Change) => void }) {
  return (
    <button type="button" className="btn !min-h-7 !px-2" onClick={() => tryOut({ label, doc })}>
      {say.try}
    </button>
  );
}
