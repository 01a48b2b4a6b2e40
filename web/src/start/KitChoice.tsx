/** A kit of the rack to begin with, or the part somebody came with: every arrangement has it in, beside the machine as found. */
import { useState } from "react";
import type { RackPart } from "../api/client";
import { KitDialog } from "../kits/KitFit";
import { nameOf } from "../lib/parts";
import type { Doc } from "../lib/pointer";
import { decimals } from "../texts/locale";
import { kitChoice as say } from "../texts/start";

export function KitChoice({
  kits,
  chosen,
  onChoose,
  garageId,
  machine,
  bare,
}: {
  kits: RackPart[];
  chosen: RackPart | undefined;
  onChoose: (id: number | undefined) => void;
  garageId: number;
  /** With the packs that are to go in with it. */
  machine: Doc;
  bare: boolean;
}) {
  const [open, setOpen] = useState(false);
  if (kits.length === 0) return null;
  return (
    <div className="grid gap-1.5">
      <label className="block">
        <span className="mb-1 block text-small font-bold text-ink2">{say.aKitOfYours}</span>
        <select
          className="input"
          value={chosen?.id ?? ""}
          onChange={(e) => onChoose(e.target.value ? Number(e.target.value) : undefined)}
        >
          <option value="">{say.none}</option>
          {kits.map((one) => (
            <option key={one.id} value={one.id}>
              {decimals(nameOf(one))}
            </option>
          ))}
        </select>
      </label>
      {chosen && (
        <p className="border-l-4 border-leaf pl-3 text-small">
          {say.isInEach}{" "}
          {chosen.kind === "kits" && (
            <button type="button" className="linkish" onClick={() => setOpen(true)}>
              {say.whatItMakes}
            </button>
          )}
        </p>
      )}
      {chosen && open && (
        <KitDialog kit={chosen} garageId={garageId} setup={machine} bare={bare} buildId={null} close={() => setOpen(false)} />
      )}
    </div>
  );
}
