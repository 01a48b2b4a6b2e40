import { expect, test } from "vitest";
import type { RackPart } from "../api/client";
import type { Doc } from "../lib/pointer";
import { needsOf } from "./needs";

const plate = (value: number) => ({ value, basis: "nameplate" });
const pack = { label: "5-cell pack", chemistry: "li-ion", cells_in_series: 5, capacity_ah: plate(5) };
const fuse = { kind: "blade", rating_a: 20, dc_volts_v: 32 };
const doc: Doc = {
  bank: {
    rows: [
      { units: [pack], fuse, lead: { awg: 12, length_m: plate(0.25) } },
      { units: [pack], fuse, lead: { awg: 12, length_m: plate(0.25) } },
    ],
  },
  main_fuse: { kind: "blade", rating_a: 30, dc_volts_v: 32 },
  main_lead: { awg: 12, length_m: plate(1) },
  plugs: [{ kind: "two-pole 60", poles: 4 }],
  cut_off: { kind: "switch", rating_a: plate(60) },
  guard: { kind: "module", volts_v: plate(15.5), rating_a: plate(60) },
  controller: { kind: "brushed", nominal_v: plate(18), battery_limit_a: plate(20) },
  chargers: [{ label: "dock", chemistry: "li-ion", end_v: plate(21) }],
};
const part = (kind: string, document: Record<string, unknown>, quantity = 1): RackPart => ({
  id: 1,
  kind,
  label: "",
  document,
  quantity,
});
const needs = needsOf(doc, (awg) => `${awg} AWG`);
const need = (kind: string, words = "") => {
  const found = needs.find((n) => n.kind === kind && n.label.includes(words));
  if (!found) throw new Error(`no ${kind} ${words}`);
  return found;
};

test("alike parts are counted together", () => {
  expect(need("pack").count).toBe(2);
  expect(need("fuse", "20 A").count).toBe(2);
  expect(need("fuse", "30 A").count).toBe(1);
  expect(need("plug").count).toBe(2);
});

test("wire is both ways with a tenth to spare, runs of one gauge together", () => {
  expect(need("wire").count).toBeCloseTo(2 * (0.25 + 0.25 + 1) * 1.1, 9);
  expect(need("wire").unit).toBe("m");
});

test("the rack serves what fits and nothing else", () => {
  expect(need("pack").serves(part("packs", { ...pack }, 3))).toBe(3);
  expect(need("pack").serves(part("packs", { ...pack, capacity_ah: plate(4) }))).toBe(0);
  expect(need("fuse", "30 A").serves(part("fuses", { kind: "blade", rating_a: 30, dc_volts_v: 58 }))).toBe(1);
  expect(need("fuse", "30 A").serves(part("fuses", { kind: "blade", rating_a: 30, dc_volts_v: 24 }))).toBe(0);
  expect(need("wire").serves(part("wires", { awg: 12, metres: 4 }, 2))).toBe(8);
  expect(need("wire").serves(part("wires", { awg: 14, metres: 4 }))).toBe(0);
  expect(need("guard").serves(part("guards", { rating_a: plate(40) }))).toBe(0);
  expect(need("guard").serves(part("guards", { rating_a: plate(80) }))).toBe(1);
  expect(need("cut-off").serves(part("switches", { rating_a: plate(60), dc_volts_v: plate(60) }))).toBe(1);
  expect(need("cut-off").serves(part("switches", { rating_a: plate(20), dc_volts_v: plate(60) }))).toBe(0);
  expect(need("cut-off").serves(part("switches", { kind: "switch" }))).toBe(0);
  expect(need("controller").serves(part("controllers", { kind: "brushed", nominal_v: plate(18) }))).toBe(1);
  expect(need("controller").serves(part("controllers", { kind: "brushless", nominal_v: plate(18) }))).toBe(0);
  expect(need("charger").serves(part("chargers", { chemistry: "lead", end_v: plate(21) }))).toBe(0);
});

test("an empty setup needs nothing", () => {
  expect(needsOf({}, String)).toEqual([]);
});
