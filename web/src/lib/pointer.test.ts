import { expect, test } from "vitest";
import { applyPatch, read, write } from "./pointer";

const doc = { bank: { rows: [{ units: [{ v: 1 }] }] }, list: [1, 2] };

test("reads what is there and nothing else", () => {
  expect(read(doc, "/bank/rows/0/units/0/v")).toBe(1);
  expect(read(doc, "/bank/none/deep")).toBeUndefined();
});

test("writes without touching the old document, making what lacks", () => {
  const changed = write(doc, "/bank/rows/0/units/0/v", 2);
  expect(read(changed, "/bank/rows/0/units/0/v")).toBe(2);
  expect(read(doc, "/bank/rows/0/units/0/v")).toBe(1);
  expect(read(write({ a: null }, "/a/b/c", 3), "/a/b/c")).toBe(3);
});

test("applies every operation of a patch", () => {
  const changed = applyPatch(doc, [
    { op: "add", path: "/list/1", value: 9 },
    { op: "remove", path: "/bank" },
    { op: "copy", from: "/list", path: "/other" },
    { op: "replace", path: "/list/0", value: 7 },
    { op: "move", from: "/other", path: "/moved" },
  ]);
  expect(changed).toEqual({ list: [7, 9, 2], moved: [1, 9, 2] });
});
