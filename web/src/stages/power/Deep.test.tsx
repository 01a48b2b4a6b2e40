import { screen, waitFor, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Pack, PowerPlan } from "../../api/client";
import type { Doc } from "../../lib/pointer";
import type { Row } from "../../lib/rows";
import { formOf, serve, show } from "../../testing/render";
import { BayFit } from "./BayFit";
import { Cold, Joined, Meter, Sharing, Slots } from "./Deep";
import { Measure } from "./Measure";

const pack: Pack = {
  label: "garden pack",
  chemistry: "li-ion",
  cells_in_series: 7,
  capacity_ah: { value: 4, basis: "nameplate" },
};
const rows: Row[] = [{ units: [pack] }, { units: [{ ...pack, label: "old pack" }] }];
const line = (y: number[]) => ({ x: y.map((_, i) => i * 600), y });
const unit = (row: number, end: number, ends: boolean) => ({
  row,
  unit: 0,
  label: row ? "old pack" : "garden pack",
  start: 1,
  end,
  unused_ah: end * 4,
  ends,
});
const plan = {
  emptying: [
    {
      start: "full",
      amps_a: 8,
      seconds_s: 2400,
      ends_by: "empty",
      rows: [line([5, 5, 4.8]), line([3, 3, 3.2])],
      units: [unit(0, 0.2, false), unit(1, 0, true)],
    },
    {
      start: "as they rest",
      amps_a: 8,
      seconds_s: 1800,
      ends_by: "guard",
      rows: [line([7, 5]), line([1, 3])],
      units: [unit(0, 0.1, false), unit(1, 0.1, false)],
    },
  ],
  joining: [
    {
      high: 0,
      low: 1,
      high_v: 28.6,
      low_v: 26,
      first_a: 12,
      allowed_a: 4,
      within_v: 0.8,
      safe_after_s: 300,
      settled_s: 1500,
      moved_ah: 0.6,
      flow: line([12, 4, 0.2]),
    },
  ],
  occupancies: [
    {
      name: "All slots",
      rows: [0, 1],
      permitted: true,
      volts_v: 26,
      peak_a: 26,
      rms_a: 9.8,
      worst_row_a: 5.9,
      top_speed_m_s: 2.7,
      run_time_s: 2820,
      sag_v: 1.7,
      problems: [],
    },
    {
      name: "Only A",
      rows: [0],
      permitted: false,
      volts_v: 26,
      peak_a: 24,
      rms_a: 10,
      worst_row_a: 10,
      top_speed_m_s: 2.6,
      run_time_s: 1500,
      sag_v: 2.8,
      problems: ["its 10 A fuse carries 7.5 A for good, 10 A flow"],
    },
  ],
  swap: { together_s: 2820, together_sag_v: 1.7, swapped_s: 2760, swapped_sag_v: 3.1, changes: 1 },
  cold: [{ temp_c: -10, capacity_ah: 6.3, resistance_ohm: 0.11, sag_v: 2.8 }],
  set_points: [
    { volts_v: 20, cell_v: 2.86, left_cruise: 0.01, left_peak: 0.03, rebound_v: 21.2, below_floor: true },
    { volts_v: 24.7, cell_v: 3.53, left_cruise: 0.34, left_peak: 0.5, rebound_v: 25.4, below_floor: false },
  ],
  meter: [
    { charge: 1, rest_v: 29.3, cruise_v: 28.9 },
    { charge: 0.1, rest_v: 23.9, cruise_v: 23.1 },
  ],
  cruise_a: 8.6,
  mass_kg: 1.9,
  bay: null,
} as unknown as PowerPlan;
const cells = (name: string | RegExp) =>
  within(screen.getByRole("row", { name }))
    .getAllByRole("cell")
    .map((c) => c.textContent);

test("who ends the ride, what stays in whom, from full or as they are", async () => {
  const { user } = show(<Sharing plan={plan} rows={rows} />);
  expect(screen.getByText(/Pack/, { selector: "p" }).textContent).toBe(
    "Pack B ends it by being empty after 40 min; 0.8 Ah stay unused.",
  );
  expect(cells(/garden pack/)).toEqual(["100 %", "20 %", "0.8 Ah"]);
  await user.click(screen.getByRole("button", { name: "as they are now" }));
  expect(screen.getByText(/The low-volt guard ends it/).textContent).toContain("30 min");
});

test("what flows at joining, how long it is too much, and how near they must be", () => {
  show(<Joined plan={plan} />);
  expect(screen.getByText(/Rows A and B rest at/).textContent).toBe(
    " Rows A and B rest at 28.6 and 26.0 V: joined now, 12 A flow, more than it stands for 5 min. Charge both to within 0.80 V before joining.",
  );
  expect(cells("A into B 2.60 V 12 A 25 min")).toEqual(["2.60 V", "12 A", "25 min"]);
});

test("nothing known of the charge asks for it", () => {
  show(<Joined plan={{ ...plan, joining: [] }} />);
  expect(screen.getByText(/Enter what each pack rests at/)).toBeDefined();
});

test("slots: what is planned, what is not, what it would overload, and swapping", async () => {
  const form = formOf({ bank: { rows: [], occupancy: "all" } } as unknown as Doc);
  const { user } = show(
    form.wrap(<Slots plan={plan} rows={rows} packs={[{ id: "s", label: "small", group: "packs", part: pack }]} />),
  );
  expect(screen.getByText("its 10 A fuse carries 7.5 A for good, 10 A flow")).toBeDefined();
  expect(screen.getByText(/not planned/)).toBeDefined();
  expect(screen.getByText(/All rows together run/).textContent).toContain("with 1 change, they run 46 min in all and sag 3.1 V");
  await user.selectOptions(screen.getByLabelText("Ridden with empty slots?"), "any, as long as one is in");
  await user.selectOptions(screen.getByLabelText("A small pack to get home on"), "small");
  expect(form.edits).toEqual([
    ["/bank/occupancy", "any"],
    ["/bank/home_pack", pack],
  ]);
});

test("cold, meter and set points in numbers, and the table goes to the printer alone", async () => {
  const print = vi.fn(() => expect(document.documentElement.dataset.printing).toBe("handlebar"));
  vi.stubGlobal("print", print);
  const { user } = show(
    <>
      <Cold plan={plan} />
      <Meter plan={plan} />
    </>,
  );
  expect(cells(/^14 °F/)).toEqual(["6.3 Ah", "110 mΩ", "2.8 V"]);
  expect(cells(/^10 %/)).toEqual(["23.9 V", "23.1 V"]);
  expect(cells(/24.7 V/)).toEqual(["3.53 V", "34 %", "50 %", "25.4 V"]);
  await user.click(screen.getByRole("button", { name: "Print for the handlebar" }));
  expect(print).toHaveBeenCalledOnce();
  expect(document.documentElement.dataset.printing).toBeUndefined();
});

test("the bay: asked for, then drawn, with where the weight sits", async () => {
  const bare = formOf({ vehicle: { family: "quad" }, bank: { rows } } as unknown as Doc);
  const { user, unmount } = show(bare.wrap(<BayFit plan={plan} rows={rows} />));
  await user.click(screen.getByRole("button", { name: "Enter the bay's inside measures" }));
  await user.click(screen.getByRole("button", { name: "Enter the packs' sides" }));
  await user.click(screen.getByLabelText("strap"));
  expect(bare.edits.map(([path]) => path)).toEqual(["/vehicle/bay", "/bank", "/bank/holding"]);
  unmount();
  const bay = {
    answer: "too big",
    bay: [0.3, 0.2, 0.15],
    boxes: [{ index: 0, at: [0, 0, 0], sides: [0.15, 0.1, 0.1] }],
    balance_m: [0.07, 0.05, 0.05],
    ahead_of_rear_m: null,
    height_m: 0.25,
  };
  show(bare.wrap(<BayFit plan={{ ...plan, bay } as unknown as PowerPlan} rows={rows} />));
  expect(screen.getByText(/They do not fit/)).toBeDefined();
  expect(screen.getByRole("img", { name: "Packs laid into the bay, 1 of 2 placed" })).toBeDefined();
  expect(screen.getByText(/The packs weigh/).textContent).toContain("4 lb, their weight sits 9.8 in above the ground");
});

test("two readings become a measured figure, a wrong pair says what to do", async () => {
  let body: unknown = { value: 0.1, spread: 0.03, doubt: "" };
  let status = 200;
  const asked = serve({ "POST /api/measure": () => ({ status, body }) });
  const adopt = vi.fn();
  const { user } = show(<Measure pack={pack} name="A" adopt={adopt} />);
  const go = screen.getByRole<HTMLButtonElement>("button", { name: "Work it out" });
  expect(go.disabled).toBe(true);
  for (const [label, text] of [
    ["Volts at rest", "28,4"],
    ["Volts under the load", "27.2"],
    ["Amps of the load", "12"],
  ] as const)
    await user.type(screen.getByLabelText(label), text);
  await user.click(go);
  await waitFor(() =>
    expect(screen.getByText(/good to about/).textContent).toBe("Pack A: 100 mΩ at 25 °C and half charge, good to about 3 %."),
  );
  expect(asked[0]?.body).toMatchObject({ what: "resistance", rest_v: 28.4, load_v: 27.2, amps_a: 12, temp_c: 25 });
  await user.click(screen.getByRole("button", { name: "Use it as measured" }));
  expect(adopt).toHaveBeenCalledWith("resistance_ohm", body);
  status = 422;
  body = { code: "refused", message: "Under load the volts must be lower than at rest: were the two readings swapped?" };
  await user.type(screen.getByLabelText("Amps of the load"), "0");
  await user.click(go);
  expect(await screen.findByText(/were the two readings swapped/)).toBeDefined();
});

test("a timed discharge gives the capacity", async () => {
  const asked = serve({
    "POST /api/measure": () => ({ body: { value: 3.6, spread: 0.02, doubt: "Only 40 % of the charge was used." } }),
  });
  const adopt = vi.fn();
  const { user } = show(<Measure pack={pack} name="B" adopt={adopt} />);
  await user.click(screen.getByRole("button", { name: "capacity" }));
  await user.type(screen.getByLabelText("Steady amps"), "2");
  await user.type(screen.getByLabelText("Minutes"), "90");
  await user.click(screen.getByRole("button", { name: "Work it out" }));
  expect(await screen.findByText(/3.6 Ah/)).toBeDefined();
  expect(screen.getByText(/Only 40 %/)).toBeDefined();
  expect(asked[0]?.body).toMatchObject({ what: "capacity", seconds_s: 5400, start_charge: 1, end_charge: 0 });
  await user.click(screen.getByRole("button", { name: "Use it as measured" }));
  expect(adopt).toHaveBeenCalledWith("capacity_ah", expect.objectContaining({ value: 3.6 }));
});
