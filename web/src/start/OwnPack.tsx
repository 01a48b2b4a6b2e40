/** A pack that is not in the list: by what its label says. */
import { useState } from "react";
import type { Doc } from "../lib/pointer";
import { ownPack as say } from "../texts/start";
import { parseNumber } from "../texts/units";

const KINDS = [
  ["tool", say.lithiumToolPackIts, { chemistry: "li-ion", guard_in_tool: true, cell_kind: "power" }],
  ["board", say.lithiumPackWithIts, { chemistry: "li-ion", guard_in_tool: false, cell_kind: "energy", board: true }],
  ["lfp", say.lfpPackWithIts, { chemistry: "lfp", guard_in_tool: false, board: true }],
  ["lead", say.leadBlock, { chemistry: "lead", guard_in_tool: false }],
  ["nickel", say.nickelPack, { chemistry: "nickel", guard_in_tool: false }],
] as const;

export function OwnPack({ onAdd }: { onAdd: (own: { label: string; part: Doc; count: number }) => void }) {
  const [kind, setKind] = useState<string>("tool");
  const [cells, setCells] = useState("");
  const [ah, setAh] = useState("");
  const [many, setMany] = useState("1");
  const count = parseNumber(cells);
  const pieces = parseNumber(many);
  const capacity = parseNumber(ah);
  const good =
    count !== undefined && Number.isInteger(count) && count >= 1 && count <= 28 && capacity !== undefined && capacity > 0;
  const whole = pieces !== undefined && Number.isInteger(pieces) && pieces >= 1 && pieces <= 12;
  const bad = (cells.trim() !== "" || ah.trim() !== "") && !good;
  const add = () => {
    const [, , part] = KINDS.find(([k]) => k === kind) ?? KINDS[0];
    const label = say.cellAh(count, kind, capacity);
    onAdd({
      label,
      count: pieces ?? 1,
      part: { label, ...part, cells_in_series: count ?? 1, capacity_ah: { value: capacity ?? 1, basis: "nameplate" } },
    });
    setCells("");
    setAh("");
    setMany("1");
  };
  return (
    <details className="rounded-lg border border-line px-3 py-2">
      <summary className="text-small font-bold">{say.notInTheList}</summary>
      <form
        className="mt-2 grid grid-cols-2 items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (good && whole) add();
        }}
      >
        <label className="col-span-2">
          <span className="mb-1 block text-small font-bold text-ink2">{say.kindOfPack}</span>
          <select className="input" value={kind} onChange={(e) => setKind(e.target.value)}>
            {KINDS.map(([k, words]) => (
              <option key={k} value={k}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="mb-1 block text-small font-bold text-ink2">{say.cellsInARow}</span>
          <input className="input" inputMode="numeric" value={cells} onChange={(e) => setCells(e.target.value)} placeholder="5" />
        </label>
        <label>
          <span className="mb-1 block text-small font-bold text-ink2">{say.ampHours}</span>
          <input className="input" inputMode="decimal" value={ah} onChange={(e) => setAh(e.target.value)} placeholder="6" />
        </label>
        <label>
          <span className="mb-1 block text-small font-bold text-ink2">{say.howMany}</span>
          <input className="input" inputMode="numeric" value={many} onChange={(e) => setMany(e.target.value)} />
        </label>
        <p className="col-span-2 text-small text-ink2">{say.aLithiumCellIs}</p>
        {(bad || !whole) && (
          <p role="alert" className="col-span-2 text-small text-hottext">
            {bad ? say.enterWholeCells1 : say.enterHowMany}
          </p>
        )}
        <button type="submit" className="btn col-span-2" disabled={!good || !whole}>
          {say.putItOnThe}
        </button>
      </form>
    </details>
  );
}
