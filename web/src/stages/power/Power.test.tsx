import { screen, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Evaluation } from "../../api/client";
import { type Doc, read } from "../../lib/pointer";
import { type Row, rowsOf } from "../../lib/rows";
import { draftOf, formOf, planOf, serve, show, stageOf } from "../../testing/render";
import { BenchDrawing } from "./BenchDrawing";
import { Power } from "./Power";

const figure = (value: number) => ({ value, basis: "nameplate" });
const pack = (more: Doc = {}): Doc => ({
  label: "5-cell pack",
  chemistry: "li-ion",
  cells_in_series: 5,
  capacity_ah: figure(5),
  resting_v: null,
  ...more,
});
const bank = (...rows: Doc[][]) =>
  ({ bank: { rows: rows.map((units) => ({ units, fuse: null, lead: null })) } }) as unknown as Doc;
const evaluation = {
  bank: {
    nominal_v: 36,
    full_v: 42,
    empty_v: 30,
    rest_full_v: 42,
    guard_v: 30.9,
    capacity_ah: 10,
    energy_wh: 360,
    resistance_ohm: 0.06,
    peak_10s_a: null,
    rows: 2,
    units_v: [
      [18, 18],
      [18, 18],
    ],
  },
  findings: [],
  gaps: [],
  trail: [],
  curves: {},
  outcome: null,
} as unknown as Evaluation;

function page(doc: Doc, answered = true) {
  const another = rowsOf(doc).map((r) => r.units);
  const told = {
    ...evaluation,
    bank: { ...evaluation.bank, alike: new Set(another.flat().map((u) => u.label)).size < 2, another },
  } as Evaluation;
  serve({
    "POST /api/power": () => ({ body: { emptying: [], joining: [], occupancies: [], cold: [], set_points: [], meter: [] } }),
    "GET /api/parts": () => ({
      body: {
        packs: [
          {
            id: "ten",
            label: "10-cell pack, 9 Ah",
            group: "Garden packs",
            part: pack({ label: "10-cell pack", cells_in_series: 10 }),
          },
        ],
      },
    }),
  });
  const draft = draftOf(doc);
  const form = formOf(doc, { edit: draft.edit });
  return {
    draft,
    ...show(form.wrap(<Power {...stageOf({ draft, plan: planOf((answered ? told : undefined) as Evaluation) })} />)),
  };
}
const changed = (draft: ReturnType<typeof draftOf>) =>
  (draft.edit as unknown as { mock: { calls: [string, { rows: { units: Doc[] }[] }][] } }).mock.calls.at(-1)?.[1].rows ?? [];

test("rows and packs in a row grow by their steppers", async () => {
  const { user, draft } = page(bank([pack(), pack()], [pack(), pack()]));
  const [wide, long] = screen.getAllByRole("button", { name: /: one more$/ });
  await user.click(wide as HTMLElement);
  expect(changed(draft).map((r) => r.units.length)).toEqual([2, 2, 2]);
  await user.click(long as HTMLElement);
  expect(changed(draft).map((r) => r.units.length)).toEqual([3, 3]);
});

test("on the bench every pack has its own volts", () => {
  const rows = [{ units: [pack({ cells_in_series: 7 }), pack({ cells_in_series: 5 })], fuse: null }] as unknown as Row[];
  const mixed = {
    ...evaluation,
    bank: { ...evaluation.bank, nominal_v: 43.2, capacity_ah: 5, units_v: [[25.2, 18]] },
  } as unknown as Evaluation;
  show(<BenchDrawing width={500} rows={rows} evaluation={mixed} onSeries={vi.fn()} onRow={vi.fn()} />);
  const drawing = screen.getByRole("group", { name: "1 row of 2 packs in series: 43.2 volts, 5 amp-hours" });
  expect(within(drawing).getByText("25.2 V")).toBeDefined();
  expect(within(drawing).getByText("18 V")).toBeDefined();
});

test("nothing goes below one", () => {
  page(bank([pack()]));
  for (const less of screen.getAllByRole<HTMLButtonElement>("button", { name: /: one less$/ })) expect(less.disabled).toBe(true);
});

test("the bank in numbers, with what is not known as a question", () => {
  page(bank([pack(), pack()], [pack(), pack()]));
  const term = (name: string) => within(screen.getByText(name, { selector: "dt" }).parentElement as HTMLElement);
  expect(term("Volts").getByText("full 42 · empty 30")).toBeDefined();
  expect(term("Energy").getByText("360")).toBeDefined();
  expect(term("Inner resistance").getByText("60")).toBeDefined();
  expect(term("Ten seconds").getByText("?")).toBeDefined();
});

test("a number of one of alike packs is a number of all, what is of the moment stays each one's own", async () => {
  const { user, draft } = page(bank([pack()], [pack()]));
  await user.click(screen.getByText("Pack A in numbers"));
  await user.type(screen.getByLabelText("Capacity"), "0");
  expect(changed(draft).map((r) => read(r.units[0], "/capacity_ah/value"))).toEqual([50, 50]);
  await user.type(screen.getByLabelText("Resting volts now"), "2");
  expect(draft.edit).toHaveBeenLastCalledWith("/bank/rows/0/units/0/resting_v", { value: 2, basis: "nameplate" });
  await user.click(screen.getByLabelText(/what I change here changes in every pack/));
  await user.type(screen.getByLabelText("Capacity"), "1");
  expect(draft.edit).toHaveBeenLastCalledWith("/bank/rows/0/units/0/capacity_ah", expect.anything());
});

test("unlike packs are shown as they are, each with its own numbers, and stay so when a row is added", async () => {
  const { user, draft } = page(bank([pack()], [pack({ label: "Old pack", cells_in_series: 4 })]));
  expect(screen.getByText(/This bank mixes unlike packs/)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Side by side: one more" }));
  expect(changed(draft).map((r) => r.units.map((u) => u.label))).toEqual([["5-cell pack"], ["Old pack"], ["Old pack"]]);
  await user.click(screen.getByRole("button", { name: /^Pack B: Old pack/ }));
  expect(screen.getByText("Pack B in numbers")).toBeDefined();
  expect((screen.getByLabelText("Cells in series") as HTMLInputElement).value).toBe("4");
});

test("what is typed at one of unlike packs stays with it, also before the core has answered", async () => {
  const { user, draft } = page(bank([pack()], [pack({ label: "Old pack", cells_in_series: 4 })]), false);
  await user.click(screen.getByRole("button", { name: /^Pack B: Old pack/ }));
  await user.type(screen.getByLabelText("Resistance"), "1");
  expect(draft.edit).toHaveBeenLastCalledWith("/bank/rows/1/units/0/resistance_ohm", { value: 1, basis: "nameplate" });
});

test("a pack moves to another row by its menu, or out of the bank", async () => {
  const { user, draft } = page(bank([pack({ label: "one" })], [pack({ label: "two" })]));
  await user.click(screen.getByRole("button", { name: /^Pack B/ }));
  await user.selectOptions(screen.getByLabelText("Move it to"), "row A");
  expect(changed(draft).map((r) => r.units.map((u) => u.label))).toEqual([["one", "two"]]);
  await user.click(screen.getByRole("button", { name: "Take it out" }));
  expect(changed(draft).map((r) => r.units.map((u) => u.label))).toEqual([["two"]]);
});

test("an adapter is entered where the pack is", async () => {
  const { user, draft } = page(bank([pack()]));
  await user.click(screen.getByText("Pack A in numbers"));
  await user.click(screen.getByRole("button", { name: "It sits in an adapter or dock" }));
  expect(draft.edit).toHaveBeenLastCalledWith(
    "/bank/rows/0/units/0/adapter",
    expect.objectContaining({ polarity_rechecked: false }),
  );
});

test("no packs yet asks for them", () => {
  page({});
  expect(screen.getByText(/Choose the packs on your shelf/)).toBeDefined();
});

test("a document without a bank has no rows", () => {
  expect(rowsOf({})).toEqual([]);
});
