import { expect, test } from "vitest";
import { choices, MOST, valuesOf } from "./choices";

test("a field's choices come in its own order, with other words where these say more", () => {
  expect(choices("Fuse.side", { positive: "plus lead", unknown: "not known" })).toEqual([
    ["positive", "plus lead"],
    ["negative", "negative"],
    ["unknown", "not known"],
  ]);
  expect(choices("Lead.awg").at(0)).toEqual(["18", "18"]);
});

test("what is not offered here is left out by its name", () => {
  expect(choices("Pack.age", {}, ["unknown"]).map(([value]) => value)).not.toContain("unknown");
});

test("values and limits are the document's", () => {
  expect(valuesOf("Pack.chemistry")).toEqual(["li-ion", "lfp", "lead", "nickel"]);
  expect(MOST["Bank.rows"]).toBeGreaterThan(1);
});
