import { screen } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Choice } from "../../api/client";
import { show } from "../../testing/render";
import { Matrix, WHY } from "./Matrix";

const gauges = [18, 16, 14, 12, 10, 8, 6, 4, 2];
const cell = (kind: string, rating: number, awg: number) => ({
  kind,
  dc_volts_v: 58,
  rating_a: rating,
  breaking_a: 1000,
  size: { awg, mm2: null, strands: 1 },
  fails: [],
  numbers: {},
});
const choice = {
  school: "careful",
  run: "main",
  sizes: gauges.map((awg) => ({ awg, mm2: null, strands: 1 })),
  ampacity_a: [14, 17.5, 24.5, 31.5, 42, 56, 84, 112, 147],
  rows: [
    { kind: "blade", dc_volts_v: 58, rating_a: 20, fails: gauges.map(() => ["continuous"]) },
    { kind: "blade", dc_volts_v: 58, rating_a: 30, fails: gauges.map((g) => (g > 10 ? ["wire", "withstand"] : [])) },
  ],
  chosen: cell("blade", 30, 12),
  best: cell("blade", 30, 10),
  blocking: [],
  continuous_a: 16,
  launch_peak_a: 28,
  launch_s: 2,
  curves: {},
} as unknown as Choice;

const page = (pick = vi.fn(), more: Partial<Choice> = {}) => ({
  pick,
  ...show(<Matrix choice={{ ...choice, ...more } as Choice} pick={pick} />),
});

test("every condition has a word and a sentence", () => {
  const conditions = [
    "continuous",
    "limit_110",
    "nuisance",
    "wire",
    "parts",
    "breaking",
    "withstand",
    "cold_short",
    "volts",
    "drop",
    "selectivity",
    "ampacity",
  ];
  expect(Object.keys(WHY).sort()).toEqual([...conditions].sort());
});

test("a cell says what fits and why not, in words", () => {
  page();
  expect(screen.getByRole("button", { name: "30 A × 10 AWG: fits every condition" }).textContent).toBe("best");
  const bad = screen.getByRole("button", { name: /^30 A × 12 AWG: the wire is too hot before it opens; a short damages/ });
  expect(bad.textContent).toBe("too thin");
  expect(screen.getByRole("button", { name: "20 A × 12 AWG: it cannot carry the ride for good" }).textContent).toBe("too small");
});

test("the gauges shown hold the chosen one and the best", () => {
  page();
  expect(screen.getAllByRole("columnheader").map((h) => h.textContent?.replace(/ AWG.*/, ""))).toEqual([
    "Fuse",
    "14",
    "12",
    "10",
    "8",
    "6",
  ]);
});

test("a gauge from the drawer is looked up, however thin", async () => {
  const { user } = page();
  await user.click(screen.getByRole("button", { name: "Every gauge, as in your drawer" }));
  expect(screen.getAllByRole("columnheader")).toHaveLength(gauges.length + 1);
  expect(screen.getByRole("button", { name: /^30 A × 16 AWG: the wire is too hot/ }).textContent).toBe("too thin");
  await user.click(screen.getByRole("button", { name: "Only those near the best" }));
  expect(screen.getAllByRole("columnheader")).toHaveLength(6);
});

test("a thick choice moves the window", () => {
  page(vi.fn(), { chosen: cell("blade", 30, 2) as Choice["chosen"], best: cell("blade", 30, 4) as Choice["best"] });
  expect(screen.getByRole("columnheader", { name: /^2 AWG/ })).toBeDefined();
  expect(screen.getByRole("columnheader", { name: /^4 AWG/ })).toBeDefined();
});

test("nothing chosen and nothing that fits still shows the table", () => {
  page(vi.fn(), { chosen: null, best: null });
  expect(screen.getAllByRole("row").length).toBe(3);
});

test("the table's ampacity is the derated one", () => {
  page();
  expect(screen.getByRole("columnheader", { name: /^12 AWG/ }).textContent).toContain("32 A");
});

test("looking at a cell tells it below, choosing it puts it in", async () => {
  const { user, pick } = page();
  const good = screen.getByRole("button", { name: "30 A × 8 AWG: fits every condition" });
  await user.hover(good);
  expect(screen.getByText("30 A × 8 AWG: fits every condition")).toBeDefined();
  await user.click(good);
  expect(pick).toHaveBeenCalledWith(
    expect.objectContaining({ kind: "blade", rating_a: 30 }),
    expect.objectContaining({ awg: 8 }),
  );
});

test("by keyboard as well", async () => {
  const { user, pick } = page();
  screen.getByRole("button", { name: "30 A × 8 AWG: fits every condition" }).focus();
  await user.keyboard("{Enter}");
  expect(pick).toHaveBeenCalledOnce();
});

test("a lead by mm² stands among the gauges under its own name", () => {
  const own = { awg: 12, mm2: 4, strands: 2 };
  page(vi.fn(), {
    sizes: [...choice.sizes.slice(0, 5), own, ...choice.sizes.slice(5)],
    ampacity_a: [...choice.ampacity_a.slice(0, 5), 50, ...choice.ampacity_a.slice(5)],
    rows: choice.rows.map((r) => ({ ...r, fails: [...r.fails, []] })),
    chosen: { ...cell("blade", 30, 12), size: own } as Choice["chosen"],
  });
  expect(screen.getByRole("columnheader", { name: /^2 × 4 mm²\s?50 A/ })).toBeDefined();
});
