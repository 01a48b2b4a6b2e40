import { screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { expect, test } from "vitest";
import type { Evaluation } from "../api/client";
import { type Answers, buildOf, findingOf, madeUp, rowOf, saidOf, serve, show, stationOf } from "../testing/render";
import { BuildSheet } from "./BuildSheet";

const plate = (value: number) => ({ value, basis: "nameplate" });
const fuse = { kind: "blade", rating_a: 30, dc_volts_v: 32 };
const document = madeUp({
  main_fuse: fuse,
  main_lead: { awg: 12, length_m: plate(1) },
  plugs: [{ kind: "two-pole 60", poles: 4 }],
});
const stop = findingOf();
const evaluation = {
  findings: [stop],
  gaps: [],
  trail: [stationOf({ weak: true })],
  curves: {},
  baseline: null,
  outcome: { top_speed_m_s: 4.4704, run_time_s: 1800, hill_grade: 0.2, peak_a: 28, lowest_v: 21, motor_20min_c: 60, bases: {} },
} as unknown as Evaluation;
const reading = {
  kind: "volts",
  red_on: "A plus",
  black_on: "A minus",
  nodes: [],
  low: 19.6,
  high: 21.4,
  expected: 20.5,
  unit: "V",
  note: "",
};
const steps = [
  { id: "pack0", title: "Measure pack A", what: "On its own terminals.", blocks: [], caution: "", reading },
  { id: "first_power", title: "First power", what: "Hands clear.", blocks: [], caution: "Fuse out if anything turns.", reading },
];
const overrule = saidOf();

const each = { low: 3, high: 10, basis: "planning value" };
const need = { unit: "", needed: 1, on_machine: 0, on_rack: 0, ordered: 0, to_buy: 0, note: "", letters: [], each };
const parts = {
  needs: [
    { ...need, kind: "fuse", label: "30 A blade fuse", to_buy: 1 },
    { ...need, kind: "wire", label: "[[12|awg]] copper wire", unit: "m", needed: 2.2, on_rack: 1, to_buy: 1.2 },
    { ...need, kind: "guard", label: "Low-volt guard", on_rack: 1, note: "Set it to 30 V.", letters: ["B"] },
  ],
  to_buy: { currency: "EUR", low: 17.4, high: 48, unpriced: 0, planned: 2 },
  owned: { currency: "EUR", low: 25, high: null, unpriced: 1, planned: 0 },
};

function page(row = rowOf({ document }), more: Answers = {}, at = "/builds/2/setups/7/sheet") {
  const baseline = rowOf({
    id: 6,
    name: "As found",
    is_baseline: true,
    document: { plugs: [{ kind: "two-pole 60", poles: 2 }] },
  });
  serve({
    "GET /api/builds/2": () => ({ body: buildOf({ setups: [baseline, row] }) }),
    "GET /api/garages/1": () => ({
      body: {
        garage: {},
        builds: [],
        total: 0,
        riders: [],
      },
    }),
    "GET /api/setups/7/parts": () => ({ body: parts }),
    "POST /api/evaluate": () => ({ body: evaluation }),
    "POST /api/ranges": () => ({ body: { outcomes: { top_speed_m_s: { low: 4.02336, median: 4.4, high: 4.91744 } } } }),
    "POST /api/fixes": () => ({ body: [] }),
    "POST /api/hookup": () => ({ body: { plan: { steps }, holding: ["pack0"] } }),
    ...more,
  });
  return show(
    <Routes>
      <Route path="/builds/:buildId/setups/:setupId/sheet" element={<BuildSheet />} />
    </Routes>,
    at,
  );
}
const cells = async (text: string) => {
  const row = (await screen.findByText(text)).closest("tr") as HTMLElement;
  return within(row)
    .getAllByRole("cell")
    .map((c) => c.textContent);
};

test("the plan with its ranges and its weak link", async () => {
  page();
  expect(await screen.findByRole("heading", { name: "Puddle Hopper: Two packs" })).toBeDefined();
  await waitFor(() => expect(screen.getByText("likely 9.0–11.0")).toBeDefined());
  expect(screen.getByText("Leads (weak link)")).toBeDefined();
  expect(screen.getByText(/Planning figures, not a certificate/)).toBeDefined();
});

test("parts to buy as the core counts them: wire in feet, and what is to be set first", async () => {
  page();
  expect(await cells("30 A blade fuse")).toEqual(["30 A blade fuse", "1", "–", "–", "–", "1"]);
  // 2.2 m needed, 1 m on the rack: 1.2 m, in feet.
  expect(await cells("12 AWG copper wire")).toEqual(["12 AWG copper wire", "7.2 ft", "–", "3.3 ft", "–", "3.9 ft"]);
  expect(await cells("Low-volt guard")).toEqual(["Low-volt guard BSet it to 30 V.", "1", "–", "1", "–", "nothing"]);
  const costs = within(screen.getByLabelText("What it costs"));
  expect(costs.getByText("€17 to €48")).toBeDefined();
  expect(costs.getByText("€25 or more")).toBeDefined();
  expect(costs.getByText(/2 kinds of parts by planning values/)).toBeDefined();
  expect(screen.getByRole("link", { name: "As a table (CSV)" }).getAttribute("href")).toBe("/api/setups/7/parts.csv");
});

test("a stop that is open forbids power, an overruled one prints its reason", async () => {
  page();
  expect(await screen.findByText("Open: do not power up.")).toBeDefined();
});

test("an overruled stop prints its reason and day", async () => {
  page(rowOf({ document, overrules: [overrule] }));
  expect(await screen.findByText(/Overruled on 2 May 2026 by ada: “Bench only.”/)).toBeDefined();
  expect(screen.queryByText("Open: do not power up.")).toBeNull();
});

test("an overruled stop that no longer trips is still told", async () => {
  page(
    rowOf({
      document,
      overrules: [{ ...overrule, finding: "switch.dc@cut_off", title: "The cut-off cannot break this circuit" }],
    }),
  );
  expect(await screen.findByText(/The cut-off cannot break this circuit: was overruled/)).toBeDefined();
});

test("every step with its reading, what was read or a line to write on", async () => {
  page(
    rowOf({
      document,
      ticks: [{ step: "pack0", mark: "", measured: 20.4, measured_open: false, fits: true, excused: false, revision: 1 }],
    }),
  );
  const first = (await screen.findByText("Measure pack A.")).closest("li") as HTMLElement;
  expect(first.textContent).toContain("19.6 to 21.4 V");
  expect(within(first).getByText("20.4")).toBeDefined();
  const second = screen.getByText("First power.").closest("li") as HTMLElement;
  expect(second.textContent).toContain("________");
  expect(second.textContent).toContain("Fuse out if anything turns.");
});

test("a build that is not in the garage leads back", async () => {
  page(undefined, { "GET /api/builds/2": () => ({ status: 404, body: { code: "not_found", message: "no" } }) });
  expect((await screen.findByRole("alert")).textContent).toContain("not in your garage");
});
