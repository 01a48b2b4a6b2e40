import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Evaluation, Ranges, SetupRow, Trial } from "../../api/client";
import { type Answers, draftOf, planOf, rowOf, serve, show, stageOf, standingOf } from "../../testing/render";
import { Prove } from "./Prove";

const trial = (more: Partial<Trial> = {}): Trial => ({
  id: 11,
  setup_id: 7,
  setup_name: "Two packs",
  revision: 1,
  when: "2026-05-02T10:00:00Z",
  passes: [
    { distance_m: 30.48, time_s: 7, direction: "out" },
    { distance_m: 30.48, time_s: 7.2, direction: "back" },
  ],
  knob: 1,
  surface: "short grass",
  grade: 0,
  volts_before_v: 41,
  volts_after_v: null,
  motor_c: null,
  note: "",
  speed_m_s: 4.4704,
  half_width_m_s: 0.22352,
  predicted_m_s: 4.4,
  predicted_low_m_s: 4.0,
  predicted_high_m_s: 4.8,
  verdict: { likely: true, off: 0.02, fits: true },
  gain: null,
  gain_half_width: null,
  ...more,
});
const knob = { x: [0.1, 1], y: [0.4, 4.6] };
const evaluation = { curves: { knob }, outcome: {}, baseline: { top_speed_m_s: 3 } } as unknown as Evaluation;
const ranges = {
  outcomes: {},
  knob_low: { x: [0.1, 1], y: [0.3, 4] },
  knob_high: { x: [0.1, 1], y: [0.5, 5] },
} as unknown as Ranges;

function page(trials: Trial[], answers: Answers = {}, row: SetupRow = rowOf(), doc = {}) {
  const asked = serve({
    "GET /api/builds/2/trials": () => ({ body: trials }),
    "POST /api/hookup": () => ({ body: { plan: { steps: [], stand }, holding: [] } }),
    "GET /api/setups/7/standing": () => ({ body: standingOf({ ride: false }) }),
    ...answers,
  });
  return { asked, ...show(<Prove {...stageOf({ row, draft: draftOf(doc), plan: planOf(evaluation, { ranges }) })} />) };
}
const check = (id: string, title: string) => ({ id, title, what: "", caution: "", safety: true, gate: "power", barred: "" });
const stand = [check("stand_direction", "The wheels turn the right way"), check("stand_cut_off", "The cut-off stops them")];
const posted = { "POST /api/builds/2/trials": () => ({ body: trial() }) };

test("no run yet says what the first one is for", async () => {
  page([]);
  expect(await screen.findByText(/The first one with the stock setup is the baseline/)).toBeDefined();
});

test("a run with its interval, prediction and how well they agree", async () => {
  page([trial()]);
  const row = within((await screen.findByText("Two packs", { selector: "td" })).closest("tr") as HTMLElement);
  expect(row.getByText("2 × 100.0 ft")).toBeDefined();
  expect(row.getByText("10.0").closest("td")?.textContent).toBe("10.0 ± 0.5");
  expect(row.getByText("9.8")).toBeDefined();
  expect(row.getByText("fits")).toBeDefined();
});

test("off the prediction is said in percent, without a prediction nothing is said", async () => {
  page([
    trial({ id: 1, verdict: { likely: false, off: -0.25, fits: false } }),
    trial({ id: 2, verdict: { likely: true, off: 0.25, fits: false } }),
    trial({ id: 3, predicted_m_s: null, verdict: null }),
  ]);
  expect(await screen.findByText("25 % low")).toBeDefined();
  expect(screen.getByText("25 % high")).toBeDefined();
  expect(screen.queryByText(/0 % high/)).toBeNull();
});

test("the gain with its interval", async () => {
  page([trial({ gain: 1.42, gain_half_width: 0.08 })]);
  expect((await screen.findByText(/over the baseline on the same ground/)).textContent).toContain("give or take 8 % (95 %)");
  expect(screen.getByText("+42 %")).toBeDefined();
});

test("a run goes off in SI, with only the passes that were timed", async () => {
  const { user, asked } = page([], posted, rowOf(), { ground: { surface: "short grass" }, throttle: { limiter_mark: 0.6 } });
  const form = within(await screen.findByRole("form", { name: "New trial run" }));
  expect(form.getByLabelText<HTMLInputElement>(/Knob mark/).value).toBe("6");
  await user.type(form.getByLabelText(/Out 1/), "7,05");
  await user.type(form.getByLabelText(/Rest volts before/), "41.2");
  await user.type(form.getByLabelText(/Note/), "damp");
  await user.click(form.getByRole("button", { name: "Save run" }));
  await waitFor(() => expect(asked.some((a) => a.path.endsWith("/trials") && a.method === "POST")).toBe(true));
  expect(asked.find((a) => a.path.endsWith("/trials") && a.method === "POST")?.body).toEqual({
    setup_id: 7,
    passes: [{ distance_m: expect.closeTo(30.48, 9), time_s: 7.05, direction: "out" }],
    knob: 0.6,
    surface: "short grass",
    grade: 0,
    volts_before_v: 41.2,
    volts_after_v: null,
    motor_c: null,
    note: "damp",
    when: expect.any(String),
    confirmed: false,
  });
  await waitFor(() => expect(form.getByLabelText<HTMLInputElement>(/Out 1/).value).toBe(""));
  expect(form.getByLabelText<HTMLInputElement>(/Marked length/).value).toBe("100");
});

test.each([
  ["Marked length", "-5", "Enter the marked length, such as 100."],
  ["Out 1", "seven", "A time must be a number of seconds above zero, such as 12.4."],
  ["Out 1", "0", "A time must be a number of seconds above zero, such as 12.4."],
  ["Out 1", "", "Enter at least one time, in seconds."],
  ["Knob mark", "11", "The knob's mark is between 0 and 10."],
  ["Rest volts before", "full", "Knob and volts must be numbers, or empty."],
])("%s “%s” is told at once and nothing is sent", async (label, text, words) => {
  const { user, asked } = page([], posted);
  const form = within(await screen.findByRole("form", { name: "New trial run" }));
  if (label !== "Out 1") await user.type(form.getByLabelText(/Out 1/), "7");
  const field = form.getByLabelText(new RegExp(label));
  await user.clear(field);
  if (text) await user.type(field, text);
  await user.click(form.getByRole("button", { name: "Save run" }));
  expect(form.getByRole("alert").textContent).toBe(words);
  expect(asked.filter((a) => a.path.endsWith("/trials") && a.method === "POST")).toEqual([]);
});

test("a refused run keeps every number", async () => {
  const refuse = {
    "POST /api/builds/2/trials": () => ({
      status: 422,
      body: { code: "invalid", message: "That is faster than a falling stone." },
    }),
  };
  const { user } = page([], refuse);
  const form = within(await screen.findByRole("form", { name: "New trial run" }));
  await user.type(form.getByLabelText(/Out 1/), "0.1");
  await user.click(form.getByRole("button", { name: "Save run" }));
  expect((await form.findByRole("alert")).textContent).toBe("That is faster than a falling stone.");
  expect(form.getByLabelText<HTMLInputElement>(/Out 1/).value).toBe("0.1");
});

test("two more passes", async () => {
  const { user } = page([]);
  await user.click(await screen.findByRole("button", { name: "Two more passes" }));
  expect(screen.getByLabelText(/Out 2/)).toBeDefined();
  expect(screen.getByLabelText(/Back 2/)).toBeDefined();
});

test("without a controller there is no knob to enter", async () => {
  const { user, asked } = page([], posted, rowOf(), { controller: { kind: "none" } });
  expect(screen.queryByLabelText(/Knob mark/)).toBeNull();
  await user.type(await screen.findByLabelText(/Out 1/), "9");
  await user.click(screen.getByRole("button", { name: "Save run" }));
  await waitFor(() => expect(asked.find((a) => a.path.endsWith("/trials") && a.method === "POST")?.body.knob).toBeNull());
});

test("stand checks tick and untick at once, each by itself", async () => {
  const { user, asked } = page(
    [],
    {
      "PUT /api/setups/7/ticks/stand_direction": () => new Promise(() => {}),
      "DELETE /api/setups/7/ticks/stand_cut_off": () => ({ status: 204 }),
    },
    rowOf({
      ticks: [{ step: "stand_cut_off", mark: "", measured: null, measured_open: false, fits: true, excused: false, revision: 1 }],
    }),
  );
  const spin = await screen.findByLabelText<HTMLInputElement>("The wheels turn the right way");
  const stop = screen.getByLabelText<HTMLInputElement>("The cut-off stops them");
  expect([spin.checked, stop.checked]).toEqual([false, true]);
  await user.click(spin);
  expect([spin.checked, stop.checked]).toEqual([true, true]);
  await user.click(stop);
  await waitFor(() => expect(asked.some((a) => a.method === "DELETE")).toBe(true));
  expect(spin.checked).toBe(true);
});

test("a run can be deleted", async () => {
  const { user, asked } = page([trial()], { "DELETE /api/builds/2/trials/11": () => ({ status: 204 }) });
  await user.click(await screen.findByRole("button", { name: "Delete run of Two packs" }));
  await waitFor(() => expect(asked.some((a) => a.method === "DELETE")).toBe(true));
});

test("the plot is said in words and carries the measured speed", async () => {
  page([trial()]);
  const plot = await screen.findByRole("img", { name: /Predicted speed at each knob mark/ });
  await waitFor(() => expect(within(plot).getByText("10.0")).toBeDefined());
  expect(within(plot).getByText("as found 6.7")).toBeDefined();
});

test("a check that something open locks cannot be ticked, and says why", async () => {
  const locked = [{ step: "stand_cut_off", reasons: ["Open stop: There is no main fuse", "Not done yet: Make it safe"] }];
  page([], { "GET /api/setups/7/standing": () => ({ body: standingOf({ ride: false, power: false, locked }) }) });
  await screen.findByText("Open stop: There is no main fuse, and 1 more.");
  expect(screen.getByLabelText<HTMLInputElement>("The cut-off stops them").disabled).toBe(true);
  expect(screen.getByLabelText<HTMLInputElement>("The wheels turn the right way").disabled).toBe(false);
});

test("a ride past an open stop is refused, and every number stays", async () => {
  const refuse = () => ({
    status: 409,
    body: { code: "locked", message: "not yet", problems: [{ path: "", message: "Open stop: There is no main fuse" }] },
  });
  const { user } = page([], { "POST /api/builds/2/trials": refuse });
  await user.type(await screen.findByLabelText(/Out 1/), "7");
  await user.click(screen.getByRole("button", { name: "Save run" }));
  expect(await screen.findByText("Open stop: There is no main fuse")).toBeDefined();
  expect(screen.getByLabelText<HTMLInputElement>(/Out 1/).value).toBe("7");
});

test("the baseline run of the machine as found asks once", async () => {
  const ask = ({ body }: { body: Record<string, unknown> }) =>
    body.confirmed
      ? { body: trial() }
      : {
          status: 409,
          body: { code: "confirm", message: "2 stops", problems: [{ path: "", message: "There is no main fuse" }] },
        };
  const { user, asked } = page([], { "POST /api/builds/2/trials": ask });
  await user.type(await screen.findByLabelText(/Out 1/), "7");
  await user.click(screen.getByRole("button", { name: "Save run" }));
  const dialog = within(await screen.findByRole("dialog", { name: "The machine as found has stops" }));
  expect(dialog.getByText("There is no main fuse")).toBeDefined();
  await user.click(dialog.getByRole("button", { name: "It was ridden as found" }));
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  expect(asked.filter((a) => a.path.endsWith("/trials") && a.method === "POST").map((a) => a.body.confirmed)).toEqual([
    false,
    true,
  ]);
});
