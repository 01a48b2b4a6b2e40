/** A pack that is not in the list: by what its label says. */
import { useState } from "react";
import type { Doc } from "../lib/pointer";
import { parseNumber } from "../lib/units";

const KINDS = [
  ["tool", "lithium tool pack (its tool guards it)", { chemistry: "li-ion", guard_in_tool: true, cell_kind: "power" }],
  ["board", "lithium pack with its own board", { chemistry: "li-ion", guard_in_tool: false, cell_kind: "energy", board: true }],
  ["lfp", "LFP pack with its own board", { chemistry: "lfp", guard_in_tool: false, board: true }],
  ["lead", "lead block", { chemistry: "lead", guard_in_tool: false }],
] as const;

export function OwnPack({ onAdd }: { onAdd: (own: { label: string; part: Doc }) => void }) {
  const [kind, setKind] = useState<string>("tool");
  const [cells, setCells] = useState("");
  const [ah, setAh] = useState("");
  const count = parseNumber(cells);
  const capacity = parseNumber(ah);
  const good =
    count !== undefined && Number.isInteger(count) && count >= 1 && count <= 28 && capacity !== undefined && capacity > 0;
  const bad = (cells.trim() !== "" || ah.trim() !== "") && !good;
  const add = () => {
    const [, , part] = KINDS.find(([k]) => k === kind) ?? KINDS[0];
    const label = `${count}-cell ${kind === "lead" ? "lead block" : kind === "lfp" ? "LFP pack" : kind === "tool" ? "tool pack" : "pack"}, ${capacity} Ah`;
    onAdd({
      label,
      part: { label, ...part, cells_in_series: count ?? 1, capacity_ah: { value: capacity ?? 1, basis: "nameplate" } },
    });
    setCells("");
    setAh("");
  };
  return (
    <details className="rounded-lg border border-line px-3 py-2">
      <summary className="text-small font-bold">Not in the list? Enter what its label says</summary>
      <form
        className="mt-2 grid grid-cols-2 items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (good) add();
        }}
      >
        <label className="col-span-2">
          <span className="mb-1 block text-small font-bold text-ink2">Kind of pack</span>
          <select className="input" value={kind} onChange={(e) => setKind(e.target.value)}>
            {KINDS.map(([k, words]) => (
              <option key={k} value={k}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="mb-1 block text-small font-bold text-ink2">Cells in a row</span>
          <input className="input" inputMode="numeric" value={cells} onChange={(e) => setCells(e.target.value)} placeholder="5" />
        </label>
        <label>
          <span className="mb-1 block text-small font-bold text-ink2">Amp-hours</span>
          <input className="input" inputMode="decimal" value={ah} onChange={(e) => setAh(e.target.value)} placeholder="6" />
        </label>
        <p className="col-span-2 text-small text-ink2">
          A lithium cell is 3.6 V in the middle: 18 V or “20 V max” are five, 36 V or “40 V max” ten, 48 V thirteen, 60 V
          seventeen. LFP 3.2 V, lead 2 V a cell.
        </p>
        {bad && (
          <p role="alert" className="col-span-2 text-small text-hottext">
            Enter whole cells, 1 to 28, and amp-hours above zero.
          </p>
        )}
        <button type="submit" className="btn col-span-2" disabled={!good}>
          Put it on the shelf
        </button>
      </form>
    </details>
  );
}
