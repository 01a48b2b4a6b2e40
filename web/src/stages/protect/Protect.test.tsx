import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Choice, Evaluation, ProtectPlan, RunOut } from "../../api/client";
import { type Doc, read } from "../../lib/pointer";
import { draftOf, findingOf, formOf, planOf, serve, show, stageOf } from "../../testing/render";
import { Protect, withPair } from "./Protect";
import { placesOf } from "./RunFields";
import { depth } from "./RunTree";

const run = (more: Partial<RunOut>): RunOut => ({
  id: "main",
  kind: "main",
  name: "Main lead",
  path: "/main_lead",
  after: "",
  rows: [],
  size: { awg: 12, mm2: null, strands: 1 },
  length_m: 0.8,
  fuse: "30 A blade, 58 V",
  own_fuse: true,
  asked_a: 12,
  peak_a: 28,
  stands_a: 31.5,
  steady_c: 30,
  ten_minutes_c: 29,
  limit_c: 60,
  insulation_c: 105,
  drop_v: 0.1,
  loss_w: 1.2,
  short_a: 500,
  cold_short_a: 200,
  fails: [],
  best: null,
  thicker: { size: { awg: 10, mm2: null, strands: 1 }, steady_c: 27, saved_v: 0.04, speed_m_s: 0.001 },
  ...more,
});
const rowsRun = run({
  id: "row0",
  kind: "row",
  name: "Rows A and B",
  path: "/bank/rows/0/lead",
  rows: [0, 1],
  fuse: "20 A blade, 58 V",
  fails: ["wire"],
  best: "20 A blade, 58 V × [[10|awg]]",
});
const control = run({
  id: "controller",
  kind: "controller",
  name: "Controller lead",
  path: "/controller_lead",
  after: "main",
  own_fuse: false,
});
const pick = (rating: number, awg: number, fails: string[] = []) => ({
  kind: "blade",
  dc_volts_v: 58,
  rating_a: rating,
  breaking_a: 1000,
  size: { awg, mm2: null, strands: 1 },
  fails,
  numbers: {
    continuous_over_limit: 0.5,
    nuisance_sum: 0,
    derated_ampacity_a: 31,
    prospective_a: 500,
    i2t_over_withstand: 0.1,
    near_fault_a: 700,
    prospective_20_percent_coldest_a: 200,
    full_volts_over_fuse_volts: 0.7,
    drop_share_at_continuous_a: 0.01,
  },
});
const sizes = [18, 16, 14, 12, 10, 8, 6, 4, 2].map((awg) => ({ awg, mm2: null, strands: 1 }));
const curve = { x: [20, 100, 500], y: [100, 1, 0.05] };
const choiceOf = (id: string): Choice => ({
  run: id,
  school: "careful",
  sizes,
  ampacity_a: [14, 17, 24, 31, 42, 56, 84, 112, 147],
  rows: [
    { kind: "blade", dc_volts_v: 58, rating_a: 20, fails: sizes.map(() => []) },
    { kind: "blade", dc_volts_v: 58, rating_a: 30, fails: sizes.map(() => []) },
  ],
  chosen: pick(30, 12),
  best: pick(20, 10),
  blocking: [],
  continuous_a: 12,
  launch_peak_a: 28,
  launch_s: 1.4,
  curves: { best: { shortest: curve, longest: curve, wire: curve, withstand: curve } },
});
const plan: ProtectPlan = {
  runs: [rowsRun, run({}), control],
  joints: [
    {
      name: "Main fuse",
      kind: "fuse",
      place: "main",
      ohm: 0.0023,
      asked_a: 12,
      stands_a: 30,
      stands_v: 58,
      volts_v: 0.03,
      watts_w: 0.3,
      peak_v: 0.07,
    },
  ],
  nodes: [{ name: "At the controller", short_a: 499, cold_a: 90, fuse: "30 A blade, 58 V", opens_s: 0.006, cold_opens_s: null }],
  stretches: [{ name: "Packs to the main fuse", length_m: 0.5, most_m: 0.3 }],
  precharge: {
    capacitance_f: 0.0011,
    assumed: true,
    spark_a: 370,
    energy_j: 0.48,
    resistor_ohm: 68,
    peak_w: 13,
    rated_w: 3,
    seconds_s: 0.34,
  },
  choice: choiceOf("main"),
  demands: [
    { name: "A wheel that is blocked", pack_a: 18, motor_a: 42, lasts_s: 20, ends_by: "the winding is at its end" },
    { name: "A climb of 5 %, throttle open", pack_a: 15, motor_a: 15, lasts_s: null, ends_by: "nothing but empty packs" },
  ],
  all_best: {
    label: "Main lead: 20 A blade × [[10|awg]]",
    patch: [{ op: "replace", path: "/main_lead/awg", value: 10 }],
    price: { top_speed_m_s: 0, run_time_s: 0, nominal_v: 0 },
  },
};
const lead: Doc = { awg: 12, length_m: { value: 0.8, basis: "measured" } };
const doc: Doc = {
  bank: {
    rows: [
      { units: [{ label: "p" }], fuse: { rating_a: 20, side: "positive" }, lead: { awg: 14, length_m: { value: 0.2 } } },
      { units: [{ label: "p" }], fuse: { rating_a: 20, side: "positive" }, lead: { awg: 14, length_m: { value: 0.2 } } },
    ],
  },
  main_fuse: { kind: "blade", rating_a: 30, dc_volts_v: 58, holder_a: { value: 40 } },
  main_lead: lead,
  controller_lead: lead,
  plugs: [],
} as unknown as Doc;
const outcome = { top_speed_m_s: 6, run_time_s: 3000, peak_a: 28, lowest_v: 33, motor_20min_c: 80 };
const evaluation = (findings = [findingOf()]) =>
  ({ findings, gaps: [], trail: [], curves: {}, bank: null, outcome, choice: choiceOf("main") }) as unknown as Evaluation;

function page(at = "/") {
  const asked = serve({
    "POST /api/protect": ({ body }) => ({ body: { ...plan, choice: choiceOf(String(body.run)) } }),
    "POST /api/evaluate": () => ({ body: { ...evaluation([]), outcome: { ...outcome, top_speed_m_s: 6.2, lowest_v: 33.4 } } }),
  });
  const draft = draftOf(doc);
  const form = formOf(doc, { edit: draft.edit });
  return { draft, asked, ...show(form.wrap(<Protect {...stageOf({ draft, plan: planOf(evaluation()) })} />), at) };
}

test("the tree says each lead's fuse and wire, its amps and what fails", async () => {
  page();
  const tree = within(await screen.findByRole("list", { name: "Leads from the packs outward" }));
  const rows = tree.getByRole("button", { name: /Rows A and B/ });
  expect(rows.textContent).toContain("20 A blade, 58 V × 12 AWG");
  expect(rows.textContent).toContain("the wire is too hot before it opens");
  expect(tree.getByRole("button", { name: /Controller lead/ }).textContent).toContain("behind 30 A blade");
  expect([rowsRun, run({}), control].map((r) => depth(r, plan.runs ?? []))).toEqual([0, 1, 2]);
});

test("another lead opens its own table, and a lead behind a fuse is judged with that fuse alone", async () => {
  const { user, asked } = page();
  await user.click(await screen.findByRole("button", { name: /Rows A and B/ }));
  await waitFor(() => expect(asked.some((a) => a.body.run === "row0")).toBe(true));
  expect(await screen.findByText("Rows A and B: fuse and wire in numbers")).toBeDefined();
  await user.click(screen.getByRole("button", { name: /^behind|Controller lead/ }));
  await waitFor(() => expect(screen.queryByRole("button", { name: /^20 A × 12 AWG/ })).toBeNull());
  expect(screen.getByRole("button", { name: /^30 A × 12 AWG/ })).toBeDefined();
});

test("a choice is looked at first, then put in or left", async () => {
  const { user, draft } = page();
  await user.click(await screen.findByRole("button", { name: /^20 A × 10 AWG: fits/ }));
  const panel = within(await screen.findByRole("region", { name: "What this changes" }));
  await waitFor(() => expect(panel.getByText(/Top speed/).textContent).toContain("13.4 mph → 13.9 mph"));
  expect(panel.getByText(/Goes:/).textContent).toContain("There is no main fuse");
  expect(draft.replace).not.toHaveBeenCalled();
  await user.click(panel.getByRole("button", { name: "Leave it as it is" }));
  expect(screen.queryByRole("region", { name: "What this changes" })).toBeNull();
  await user.click(screen.getByRole("button", { name: /^20 A × 10 AWG: fits/ }));
  await user.click(await screen.findByRole("button", { name: "Put it in" }));
  const [put] = (draft.replace as unknown as { mock: { calls: [Doc, string][] } }).mock.calls.at(-1) ?? [];
  expect([read(put, "/main_fuse/rating_a"), read(put, "/main_lead/awg"), read(put, "/main_fuse/holder_a")]).toEqual([
    20,
    10,
    null,
  ]);
});

test("the best for every lead is looked at the same way", async () => {
  const { user, draft } = page();
  await user.click(await screen.findByRole("button", { name: "Best for every lead…" }));
  await user.click(await screen.findByRole("button", { name: "Put it in" }));
  expect(draft.replace).toHaveBeenCalledWith(
    expect.objectContaining({ main_lead: expect.objectContaining({ awg: 10 }) }),
    "Main lead: 20 A blade × 10 AWG",
  );
});

test("joints, shorts, bare stretches and the spark in plain numbers", async () => {
  page();
  expect(await screen.findByText("What each joint costs")).toBeDefined();
  expect(screen.getByRole("row", { name: /^Main fuse/ }).textContent).toContain("12 / 30 A, 58 V");
  const node = screen.getByRole("row", { name: /^At the controller/ });
  expect(node.textContent).toContain("499 A6 ms");
  expect(node.textContent).toContain("90 Anever");
  expect(screen.getByText(/Packs to the main fuse/).textContent).toContain("19.7 in without a fuse, at most 11.8 in");
  expect(screen.getByText(/Plugged in bare/).textContent).toContain("1100 µF (assumed) draw up to 370 A");
});

test("what is not there yet is one button away", async () => {
  const { user, draft } = page();
  await user.click(await screen.findByRole("button", { name: "Enter the motor lead" }));
  await user.click(screen.getByRole("button", { name: "Add an accessory" }));
  await user.click(screen.getByRole("button", { name: "Add a plug" }));
  expect((draft.edit as unknown as { mock: { calls: [string][] } }).mock.calls.map(([path]) => path)).toEqual([
    "/motor_lead",
    "/auxiliaries",
    "/plugs",
  ]);
});

test("like rows change together; a lead behind a fuse gets the wire, not the fuse", () => {
  const row = { kind: "blade", dc_volts_v: 58, rating_a: 15, fails: [] };
  const both = withPair(doc, rowsRun, row, { awg: 10 });
  expect([0, 1].map((r) => [read(both, `/bank/rows/${r}/fuse/rating_a`), read(both, `/bank/rows/${r}/lead/awg`)])).toEqual([
    [15, 10],
    [15, 10],
  ]);
  expect(read(both, "/bank/rows/1/fuse/side")).toBe("positive");
  const behind = withPair(doc, control, row, { awg: 8 });
  expect([read(behind, "/controller_lead/awg"), read(behind, "/main_fuse/rating_a")]).toEqual([8, 30]);
  expect(placesOf({ path: "/auxiliaries/1/lead", rows: [] })).toEqual([
    { lead: "/auxiliaries/1/lead", fuse: "/auxiliaries/1/fuse" },
  ]);
});

test("two like rows are edited as one", async () => {
  const { user, draft } = page();
  await user.click(await screen.findByRole("button", { name: /Rows A and B/ }));
  await user.selectOptions(await screen.findByLabelText("Wire"), "8 AWG");
  const [path, bank] =
    (draft.edit as unknown as { mock: { calls: [string, { rows: { lead: Doc }[] }][] } }).mock.calls.at(-1) ?? [];
  expect(path).toBe("/bank");
  expect(bank?.rows.map((r) => r.lead.awg)).toEqual([8, 8]);
});

test("the plot's pair can be looked at as well, and a row has its own plugs", async () => {
  const { user, draft } = page();
  await user.click(await screen.findByRole("button", { name: "What would 20 A × 10 AWG change?" }));
  expect(await screen.findByRole("region", { name: "What this changes" })).toBeDefined();
  await user.click(screen.getByRole("button", { name: /Rows A and B/ }));
  await user.click(await screen.findByRole("button", { name: "A plug in each row" }));
  const [path, bank] =
    (draft.edit as unknown as { mock: { calls: [string, { rows: { plugs: Doc[] }[] }][] } }).mock.calls.at(-1) ?? [];
  expect([path, bank?.rows.map((r) => r.plugs.length)]).toEqual(["/bank", [1, 1]]);
});

test("a lead can be linked to, and the trail's row fuses lead to the rows", async () => {
  const { asked, unmount } = page("/?run=row0");
  expect(await screen.findByText("Rows A and B: fuse and wire in numbers")).toBeDefined();
  expect(asked.find((a) => a.path === "/api/protect")?.body.run).toBe("row0");
  unmount();
  serve({ "POST /api/protect": () => ({ body: { ...plan, choice: choiceOf("row0") } }) });
  const form = formOf(doc);
  show(form.wrap(<Protect {...stageOf({ draft: draftOf(doc), plan: planOf(evaluation()), place: "row_fuses" })} />));
  expect(await screen.findByText("Rows A and B: fuse and wire in numbers")).toBeDefined();
});
