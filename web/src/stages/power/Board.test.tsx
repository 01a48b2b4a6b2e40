import { act, fireEvent, screen } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Pack } from "../../api/client";
import {
  allOf,
  moved,
  type Others,
  oneMorePack,
  oneMoreRow,
  type Row,
  spotName,
  stepped,
  withoutRow,
  withoutUnit,
} from "../../lib/rows";
import { show } from "../../testing/render";
import { Board } from "./Board";

const pack = (label: string, more: Partial<Pack> = {}): Pack => ({
  label,
  chemistry: "li-ion",
  cells_in_series: 5,
  capacity_ah: { value: 4, basis: "nameplate" },
  ...more,
});
const row = (...units: Pack[]): Row => ({ units, fuse: { rating_a: 20 }, lead: null, link: { awg: 12 }, plugs: [] });
const labels = (rows: Row[]) => rows.map((r) => r.units.map((u) => u.label));

test("a pack goes to the end of another row, to a place in it, or makes a row of its own", () => {
  const rows = [row(pack("a"), pack("b")), row(pack("c"))];
  expect(labels(moved(rows, { row: 0, unit: 0 }, { row: 1 }))).toEqual([["b"], ["c", "a"]]);
  expect(labels(moved(rows, { row: 0, unit: 1 }, { row: 1, unit: 0 }))).toEqual([["a"], ["b", "c"]]);
  expect(labels(moved(rows, { row: 0, unit: 0 }, { row: 0, unit: 1 }))).toEqual([["b", "a"]].concat([["c"]]));
  const own = moved(rows, { row: 0, unit: 1 }, { row: 2 });
  expect(labels(own)).toEqual([["a"], ["c"], ["b"]]);
  expect(own[2]?.fuse).toEqual({ rating_a: 20 });
});

test("a row that lost its last pack goes, and nothing leaves the board", () => {
  const rows = [row(pack("a")), row(pack("c"))];
  expect(labels(moved(rows, { row: 0, unit: 0 }, { row: 1 }))).toEqual([["c", "a"]]);
  expect(moved(rows, { row: 0, unit: 0 }, { row: -1 })).toBe(rows);
  expect(moved(rows, { row: 0, unit: 3 }, { row: 1 })).toBe(rows);
  expect(labels(withoutUnit([row(pack("a"))], { row: 0, unit: 0 }))).toEqual([["a"]]);
});

/** What the core would say: the same kind without what is of the moment. */
const othersOf = (rows: Row[]): Others => rows.map((r) => r.units.map((u) => ({ ...u, charge: null, resting_v: null })));

test("one more row is like the one it stands behind, with new packs; rows end at eight, packs in a row at ten", () => {
  const one = [row(pack("a", { charge: { value: 0.4 } }))];
  const two = oneMoreRow(one, othersOf(one), 0);
  expect(two.map((r) => [r.units[0]?.label, r.units[0]?.charge, r.link])).toEqual([
    ["a", { value: 0.4 }, { awg: 12 }],
    ["a", null, { awg: 12 }],
  ]);
  const eight = Array.from({ length: 8 }, () => row(pack("a")));
  expect(oneMoreRow(eight, othersOf(eight), 0)).toBe(eight);
  const ten = [row(...Array.from({ length: 10 }, () => pack("a"))), row(pack("b"))];
  expect(oneMorePack(ten, othersOf(ten), 0)[0]?.units.length).toBe(10);
  expect(moved(ten, { row: 1, unit: 0 }, { row: 0 })).toBe(ten);
  expect(withoutRow([row(pack("a"))], 0).length).toBe(1);
  expect([spotName(ten, { row: 0, unit: 2 }), spotName(ten, { row: 1, unit: 0 })]).toEqual(["A3", "B"]);
});

test("unlike packs stay what they are when a stepper adds more, and when it takes some away", () => {
  const rows = [
    row(pack("seven", { cells_in_series: 7, resting_v: { value: 27.9, basis: "measured" } })),
    row(pack("ten", { cells_in_series: 10, resistance_ohm: { value: 0.04, basis: "measured" }, age: "worn" })),
  ];
  const grown = stepped(rows, othersOf(rows), 3, 2);
  expect(labels(grown)).toEqual([
    ["seven", "seven"],
    ["ten", "ten"],
    ["ten", "ten"],
  ]);
  expect([grown[0]?.units[0], grown[1]?.units[0]]).toEqual([rows[0]?.units[0], rows[1]?.units[0]]);
  expect(grown[0]?.units[1]?.resting_v).toBeNull();
  expect(stepped(grown, othersOf(rows), 2, 1)).toEqual(rows);
});

test("before the core has answered nothing is added", () => {
  const rows = [row(pack("a"))];
  expect(stepped(rows, [], 3, 2)).toEqual(rows);
  expect(oneMoreRow(rows, [], 0)).toBe(rows);
});

test("another pack for all keeps leads and plugs, and takes no volts over from what was there", () => {
  const all = allOf(
    [row(pack("a", { resting_v: { value: 27.9 } }))],
    Array.from({ length: 4 }, () => pack("new")),
    2,
    2,
  );
  expect(all.map((r) => [r.units.map((u) => [u.label, u.resting_v]), r.link])).toEqual(
    Array.from({ length: 2 }, () => [Array.from({ length: 2 }, () => ["new", undefined]), { awg: 12 }]),
  );
});

function board(rows: Row[]) {
  const change = vi.fn();
  const choose = vi.fn();
  return {
    change,
    choose,
    ...show(<Board rows={rows} chosen={{ row: 0, unit: 0 }} choose={choose} change={change} others={othersOf(rows)} />),
  };
}
const said = (change: ReturnType<typeof vi.fn>) => labels(change.mock.calls.at(-1)?.[0] as Row[]);

test("arrow keys move a pack, and it is said aloud", async () => {
  const { user, change, choose } = board([row(pack("a"), pack("b")), row(pack("c"))]);
  screen.getByRole("button", { name: /^Pack A2: b/ }).focus();
  await user.keyboard("{ArrowRight}");
  expect(said(change)).toEqual([["a"], ["c", "b"]]);
  expect(choose).toHaveBeenLastCalledWith({ row: 1, unit: 1 });
  expect(screen.getByText("A2 moved to row B")).toBeDefined();
  await user.keyboard("{ArrowDown}");
  expect(said(change)).toEqual([["b", "a"], ["c"]]);
  await user.keyboard("{ArrowRight}{Delete}");
  expect(said(change)).toEqual([["a"], ["c"]]);
});

test("dragging a pack onto a row or onto the empty place", async () => {
  const { change } = board([row(pack("a"), pack("b")), row(pack("c"))]);
  // Places side by side, a hundred wide each: row A, row B, the empty one. Nothing is laid out here.
  const places = ["Row A", "Row B", "drop here"];
  const laidOut = vi.spyOn(Element.prototype, "getBoundingClientRect").mockImplementation(function (this: Element) {
    const name = this.getAttribute("aria-label") ?? this.textContent ?? "";
    const at = Math.max(
      places.findIndex((place) => name.startsWith(place)),
      0,
    );
    return new DOMRect(100 * at, 0, 90, 90);
  });
  const drag = async (name: RegExp, place: number) => {
    fireEvent.mouseDown(screen.getByRole("button", { name }), { clientX: 10, clientY: 10 });
    for (const x of [30, 100 * place + 40, 100 * place + 45]) {
      await act(async () => {
        fireEvent.mouseMove(document, { clientX: x, clientY: 10 });
      });
    }
    await act(async () => {
      fireEvent.mouseUp(document);
    });
  };
  await drag(/^Pack A1/, 1);
  expect(said(change)).toEqual([["b"], ["c", "a"]]);
  await drag(/^Pack A2/, 2);
  expect(said(change)).toEqual([["a"], ["c"], ["b"]]);
  laidOut.mockRestore();
});

test("a card tells charge, volts of the moment and age", async () => {
  const { user, change } = board([
    row(pack("a", { charge: { value: 0.4, basis: "measured" }, age: "worn" })),
    row(pack("c", { resting_v: { value: 19.8, basis: "measured" } })),
    row(pack("d")),
  ]);
  expect(screen.getByText("40 % charged · worn")).toBeDefined();
  expect(screen.getByText("rests at 19.8 V")).toBeDefined();
  expect(screen.getByText("counted as full")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Copy row B" }));
  expect(said(change)).toEqual([["a"], ["c"], ["c"], ["d"]]);
  await user.click(screen.getByRole("button", { name: "Take row A out" }));
  expect(said(change)).toEqual([["c"], ["d"]]);
  await user.click(screen.getByRole("button", { name: "One more pack in row C" }));
  expect(said(change)).toEqual([["a"], ["c"], ["d", "d"]]);
});
