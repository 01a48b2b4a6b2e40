/** Parts a setup needs, and which of them lie on the rack already. */
import type { RackPart } from "../api/client";
import { type Doc, type Json, read } from "../lib/pointer";
import { plainNumber, sameSize, type WireSize } from "../lib/units";

export interface Need {
  kind: string;
  label: string;
  count: number;
  unit: "" | "m";
  /** Whether a part on the rack serves this need. */
  serves: (part: RackPart) => number;
}

/** Whether a part's figure is known to reach what the setup asks for; nothing asked is always reached. */
const atLeast = (part: Record<string, unknown>, name: string, doc: Doc, place: string) =>
  (figure(part as Doc, name) ?? 0) >= (figure(doc, place + name) ?? 0);

const figure = (doc: Json | undefined, pointer: string) => read(doc, `${pointer}/value`) as number | undefined;

/** Parts the setup needs. Lengths are both ways, with a tenth to spare. */
export function needsOf(doc: Doc, wireName: (size: WireSize) => string): Need[] {
  const needs: Need[] = [];
  const add = (kind: string, label: string, count: number, serves: Need["serves"], unit: Need["unit"] = "") => {
    const old = needs.find((n) => n.kind === kind && n.label === label);
    if (old) old.count += count;
    else needs.push({ kind, label, count, serves, unit });
  };
  const same = (kind: string, test: (d: Record<string, unknown>) => boolean) => (p: RackPart) =>
    p.kind === kind && test(p.document) ? p.quantity : 0;
  const fuse = (f: Json | undefined) => {
    if (!f) return;
    const rating = read(f, "/rating_a") as number;
    const volts = read(f, "/dc_volts_v") as number;
    const kind = String(read(f, "/kind"));
    add(
      "fuse",
      `${plainNumber(rating)} A ${kind} fuse, ${plainNumber(volts)} V DC or more, with holder`,
      1,
      same("fuses", (d) => d.rating_a === rating && d.kind === kind && Number(d.dc_volts_v) >= volts),
    );
  };
  const run = (lead: Json | undefined) => {
    const length = figure(lead, "/length_m");
    if (!lead || length === undefined) return;
    const size = lead as unknown as WireSize;
    const one: WireSize = { awg: size.awg, mm2: size.mm2 ?? null };
    add(
      "wire",
      `${wireName(one)} copper wire`,
      2 * length * (size.strands ?? 1) * 1.1,
      (p) =>
        p.kind === "wires" && sameSize(one, p.document as unknown as WireSize) ? Number(p.document.metres ?? 0) * p.quantity : 0,
      "m",
    );
  };
  const plugs = (list: Json | undefined) => {
    for (const plug of (list as Doc[] | null | undefined) ?? [])
      add(
        "plug",
        `${plug.kind} plug, pair`,
        Math.max(Math.round(Number(plug.poles ?? 2) / 2), 1),
        same("plugs", (d) => d.kind === plug.kind),
      );
  };
  for (const row of (read(doc, "/bank/rows") as Json[]) ?? []) {
    for (const unit of (read(row, "/units") as Doc[]) ?? [])
      add(
        "pack",
        String(unit.label),
        1,
        same(
          "packs",
          (d) =>
            d.cells_in_series === unit.cells_in_series &&
            d.chemistry === unit.chemistry &&
            figure(d as Doc, "/capacity_ah") === figure(unit, "/capacity_ah"),
        ),
      );
    fuse(read(row, "/fuse"));
    for (const lead of ["/lead", "/link"]) run(read(row, lead));
    plugs(read(row, "/plugs"));
  }
  fuse(read(doc, "/main_fuse"));
  for (const lead of ["/main_lead", "/controller_lead", "/motor_lead"]) run(read(doc, lead));
  plugs(read(doc, "/plugs"));
  for (const branch of (read(doc, "/auxiliaries") as Doc[]) ?? []) {
    fuse(branch.fuse ?? null);
    run(branch.lead ?? null);
    if (branch.converter)
      add(
        "converter",
        `Converter to ${plainNumber(figure(branch, "/converter/output_v") ?? 0)} V, ${plainNumber(figure(branch, "/converter/output_a") ?? 0)} A, up to ${plainNumber(figure(branch, "/converter/input_max_v") ?? 0)} V in`,
        1,
        () => 0,
      );
  }
  if (read(doc, "/cut_off"))
    add(
      "cut-off",
      `Cut-off (${read(doc, "/cut_off/kind")})${figure(doc, "/cut_off/rating_a") ? `, ${figure(doc, "/cut_off/rating_a")} A` : ""}${figure(doc, "/cut_off/dc_volts_v") ? `, ${figure(doc, "/cut_off/dc_volts_v")} V DC` : ""}`,
      1,
      same("switches", (d) => atLeast(d, "/rating_a", doc, "/cut_off") && atLeast(d, "/dc_volts_v", doc, "/cut_off")),
    );
  if (read(doc, "/guard/kind") === "module")
    add(
      "guard",
      `Low-volt guard, set to ${figure(doc, "/guard/volts_v")} V`,
      1,
      same("guards", (d) => atLeast(d, "/rating_a", doc, "/guard")),
    );
  const kind = read(doc, "/controller/kind");
  if (kind && kind !== "none")
    add(
      "controller",
      `${kind === "knob module" ? "Knob module" : `${kind} controller`}, ${figure(doc, "/controller/nominal_v") ?? "?"} V, ${figure(doc, "/controller/battery_limit_a") ?? "?"} A`,
      1,
      same("controllers", (d) => d.kind === kind && figure(d as Doc, "/nominal_v") === figure(doc, "/controller/nominal_v")),
    );
  for (const c of (read(doc, "/chargers") as Doc[]) ?? [])
    add(
      "charger",
      String(c.label),
      1,
      same("chargers", (d) => d.chemistry === c.chemistry && figure(d as Doc, "/end_v") === figure(c, "/end_v")),
    );
  return needs;
}
