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
const needs = needsOf(doc, (size) => (size.mm2 == null ? `${size.awg} AWG` : `${size.mm2} mm²`));
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

test("every lead, plug and accessory is on the list, doubled wires twice", () => {
  const more = needsOf(
    {
      bank: { rows: [{ units: [pack], link: { awg: 12, length_m: plate(0.1) }, plugs: [{ kind: "bullet 4", poles: 2 }] }] },
      controller_lead: { awg: 12, mm2: 4, length_m: plate(0.5), strands: 2 },
      motor_lead: { awg: 10, length_m: plate(0.5) },
      auxiliaries: [
        {
          label: "lamps",
          fuse: { kind: "blade", rating_a: 5, dc_volts_v: 32 },
          lead: { awg: 16, length_m: plate(1) },
          converter: { output_v: plate(12), output_a: plate(5), input_max_v: plate(60) },
        },
      ],
    } as unknown as Doc,
    (size) => (size.mm2 == null ? `${size.awg} AWG` : `${size.mm2} mm²`),
  );
  const counted = Object.fromEntries(more.map((n) => [n.label, Number(n.count.toFixed(2))]));
  expect(counted).toEqual({
    "5-cell pack": 1,
    "12 AWG copper wire": 0.22,
    "bullet 4 plug, pair": 1,
    "4 mm² copper wire": 2.2,
    "10 AWG copper wire": 1.1,
    "5 A blade fuse, 32 V DC or more, with holder": 1,
    "16 AWG copper wire": 2.2,
    "Converter to 12 V, 5 A, up to 60 V in": 1,
  });
});
