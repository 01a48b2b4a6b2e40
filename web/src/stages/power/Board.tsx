/** Rows and packs one by one: drag a pack to another row or move it with the arrow keys, copy a row, set each pack's charge. */
import {
  DndContext,
  type DragEndEvent,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { type KeyboardEvent, type ReactNode, useState } from "react";
import type { Doc, Json } from "../../lib/pointer";
import {
  letter,
  MOST_ROWS,
  MOST_SERIES,
  moved,
  type Others,
  oneMorePack,
  oneMoreRow,
  type Row,
  type Spot,
  spotName,
  withoutRow,
  withoutUnit,
} from "../../lib/rows";
import { board as say } from "../../texts/power";

const number = (pack: Doc, name: string) => {
  const value = (pack[name] as Doc | null | undefined)?.value;
  return typeof value === "number" ? value : undefined;
};
const CHEMISTRY: Record<string, string> = { "li-ion": "li-ion", lfp: "LFP", lead: "lead", nickel: "nickel" };

export function Board({
  rows,
  chosen,
  choose,
  change,
  others,
}: {
  rows: Row[];
  others: Others;
  chosen: Spot;
  choose: (spot: Spot) => void;
  change: (rows: Row[]) => void;
}) {
  const [told, setTold] = useState("");
  const go = (from: Spot, to: { row: number; unit?: number }, words: string) => {
    const next = moved(rows, from, to);
    if (next === rows) return;
    change(next);
    const row = Math.min(to.row, next.length - 1);
    choose({ row, unit: Math.min(to.unit ?? (next[row]?.units.length ?? 1) - 1, (next[row]?.units.length ?? 1) - 1) });
    setTold(words);
  };
  const keys = (event: KeyboardEvent, spot: Spot) => {
    const name = spotName(rows, spot);
    const to = { ArrowLeft: spot.row - 1, ArrowRight: spot.row + 1 }[event.key];
    if (to !== undefined) go(spot, { row: to }, say.movedByCarrying(name, letter(Math.max(to, 0))));
    else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      const at = spot.unit + (event.key === "ArrowUp" ? 1 : -1);
      if (at >= 0 && at < (rows[spot.row]?.units.length ?? 0)) go(spot, { row: spot.row, unit: at }, say.movedInItsRow(name));
    } else if (event.key === "Delete") {
      change(withoutUnit(rows, spot));
      choose({ row: 0, unit: 0 });
    } else return;
    event.preventDefault();
  };
  // A finger that rests drags; one that moves at once scrolls the page.
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 180, tolerance: 8 } }),
  );
  const dropped = ({ active, over }: DragEndEvent) => {
    const spot = active.data.current as Spot | undefined;
    const row = over?.data.current?.row as number | undefined;
    if (spot && row !== undefined) go(spot, { row }, say.movedByKey(spotName(rows, spot), letter(row)));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={dropped} accessibility={SAID}>
      <div className="relative flex flex-wrap items-stretch gap-3">
        {rows.map((row, r) => (
          <Place
            key={r}
            row={r}
            name={`Row ${letter(r)}`}
            className="flex w-[148px] flex-col rounded-lg border-[1.5px] p-2"
            rests="border-line bg-paper"
          >
            <div className="mb-1 flex items-center justify-between">
              <b className="font-head text-[15px]">{say.row(letter(r))}</b>
              <span className="flex">
                <button
                  type="button"
                  className="btn quiet !min-h-8 !px-2 text-small"
                  disabled={rows.length >= MOST_ROWS}
                  onClick={() => change(oneMoreRow(rows, others, r))}
                  aria-label={say.copyRow(letter(r))}
                >
                  {say.copy}
                </button>
                {rows.length > 1 && (
                  <button
                    type="button"
                    className="btn quiet !min-h-8 min-w-8 !px-2"
                    onClick={() => {
                      change(withoutRow(rows, r));
                      choose({ row: 0, unit: 0 });
                    }}
                    aria-label={say.takeRowOut(letter(r))}
                  >
                    ×
                  </button>
                )}
              </span>
            </div>
            <div className="flex flex-1 flex-col-reverse justify-start gap-1.5">
              {row.units.map((pack, u) => {
                const spot = { row: r, unit: u };
                const here = chosen.row === r && chosen.unit === u;
                const charge = number(pack, "charge");
                const volts = number(pack, "resting_v");
                return (
                  <Dragged
                    key={u}
                    spot={spot}
                    name={spotName(rows, spot)}
                    className={`flex cursor-grab rounded-md border-[1.5px] ${here ? "border-focus bg-card outline-2 outline-focus" : "border-ink bg-leaftint"}`}
                  >
                    <span className="w-3 shrink-0 self-center text-center leading-[9px] text-ink3" aria-hidden="true">
                      ⋮
                    </span>
                    <button
                      type="button"
                      aria-pressed={here}
                      aria-label={say.packArrowKeysMove(spotName(rows, spot), String(pack.label))}
                      className="min-w-0 flex-1 py-1 pr-2 text-left"
                      onClick={() => choose(spot)}
                      onKeyDown={(e) => keys(e, spot)}
                    >
                      <span className="flex justify-between gap-1">
                        <b>{spotName(rows, spot)}</b>
                        <span className="text-small">
                          {say.ah(
                            number(pack, "capacity_ah"),
                            Number(pack.cells_in_series),
                            CHEMISTRY[String(pack.chemistry ?? "li-ion")],
                          )}
                        </span>
                      </span>
                      <span className="mt-1 block h-[6px] rounded bg-sunk" aria-hidden="true">
                        <span
                          className="block h-full rounded bg-leafdeep"
                          style={{
                            width: `${100 * (charge ?? 1)}%`,
                            opacity: charge === undefined && volts === undefined ? 0.35 : 1,
                          }}
                        />
                      </span>
                      <span className="block text-micro text-ink2">
                        {charge !== undefined
                          ? say.charged(charge)
                          : volts !== undefined
                            ? say.restsAtV(volts)
                            : say.countedAsFull}
                        {pack.age === "worn" || pack.age === "used" ? ` · ${String(pack.age)}` : ""}
                      </span>
                    </button>
                  </Dragged>
                );
              })}
            </div>
            {row.units.length < MOST_SERIES && (
              <button
                type="button"
                className="btn quiet mt-1 !min-h-8"
                onClick={() => change(oneMorePack(rows, others, r))}
                aria-label={say.oneMorePackIn(letter(r))}
              >
                {say.inSeries}
              </button>
            )}
          </Place>
        ))}
        {rows.length < MOST_ROWS && (
          <Place
            row={rows.length}
            className="grid w-[92px] place-items-center rounded-lg border-[1.5px] border-dashed p-2 text-center text-small text-ink2"
            rests="border-strong"
          >
            {say.dropHereForA}
          </Place>
        )}
        <p className="sr-only" aria-live="polite">
          {told}
        </p>
      </div>
    </DndContext>
  );
}

/** The keys' own words say what moved; the library's would say it again. */
const SAID = {
  announcements: {
    onDragStart: () => undefined,
    onDragOver: () => undefined,
    onDragEnd: () => undefined,
    onDragCancel: () => undefined,
  },
  screenReaderInstructions: { draggable: "" },
};

function Place({
  row,
  name,
  className,
  rests,
  children,
}: {
  row: number;
  name?: string;
  className: string;
  rests: string;
  children: ReactNode;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: `row ${row}`, data: { row } });
  return (
    <div
      ref={setNodeRef}
      {...(name ? { role: "group", "aria-label": name } : {})}
      className={`${className} ${isOver ? "border-focus bg-focustint" : rests}`}
    >
      {children}
    </div>
  );
}

/** A pack that mouse or finger carries; keys move the button within. */
function Dragged({ spot, name, className, children }: { spot: Spot; name: string; className: string; children: ReactNode }) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: `pack ${spot.row} ${spot.unit}`, data: spot });
  const carried = transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 1 } : {};
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      data-pack={name}
      style={{ position: "relative", ...carried }}
      className={`${className} ${isDragging ? "shadow-lg" : ""}`}
    >
      {children}
    </div>
  );
}

export const asBank = (bank: Json | undefined, rows: Row[]): Json => ({
  ...((bank as Doc | null) ?? {}),
  rows: rows,
});
