import { screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { expect, test } from "vitest";
import type { Judgement, SetupRow, Step } from "../../api/client";
import { type Answers, draftOf, rackPartOf, rowOf, serve, show, stageOf, standingOf } from "../../testing/render";
import { FormProvider } from "../../ui/Field";
import { HookupStage } from "./Hookup";

const step = (id: string, more: Partial<Step> = {}): Step => ({
  id,
  title: `Do ${id}`,
  what: `What ${id} is.`,
  blocks: [],
  caution: "",
  tools: [],
  joint: "",
  care: "",
  safety: false,
  barred: "",
  mark: "",
  reading: {
    kind: "volts",
    red_on: `${id} plus`,
    black_on: `${id} minus`,
    red: "pack0_0.+",
    black: "pack0_0.−",
    low_means: [],
    high_means: [],
    low: 19.6,
    high: 21.4,
    expected: 20.5,
    unit: "V",
    note: "",
  },
  ...more,
});
const ohms = step("holder", {
  reading: {
    kind: "open",
    red_on: "a",
    black_on: "b",
    red: "pack0_0.+",
    black: "pack0_0.−",
    low_means: [],
    high_means: [],
    low: 10000,
    high: null,
    expected: null,
    unit: "Ω",
    note: "OL.",
  },
});
const quiet = step("precharge", { reading: null, caution: "The resistor gets warm." });
const steps = [step("pack0"), ohms, quiet];
const plan = {
  steps,
  drawing: {
    parts: [{ id: "pack0_0", kind: "pack", label: "Pack A", detail: "", row: 0, ports: [] }],
    lines: [],
    letters: { RD: "red" },
  },
  terminals: [
    { id: "minus_bar.", part: "Minus bar", name: "", function: "minus" },
    { id: "cut_off.in", part: "Cut-off", name: "in", function: "plus" },
    { id: "controller.battery +", part: "Controller", name: "battery +", function: "plus" },
    { id: "controller.battery −", part: "Controller", name: "battery −", function: "minus" },
  ],
  faults: [] as unknown[],
  wires: [
    {
      id: "w1",
      start: "Minus bar",
      end: "Pack A, −",
      function: "minus",
      start_colour: "black",
      end_colour: "blue",
      gauge: "[[12|awg]]",
      length_m: 0.3048,
      joint: "crimped",
    },
  ],
  plugs: [] as unknown[],
  cables: [] as unknown[],
  matching: [] as unknown[],
  logic: [] as unknown[],
  harness: ["cruise hold", "charge"],
  unused: [] as unknown[],
  back: null as unknown,
};
const meter = { red_on: "a", black_on: "b", kind: "volts", low: 39, expected: 41, high: 42, beeps: false, note: "" };
const fits: Judgement = { fits: true, headline: "In range.", make_safe: "", causes: [], next_reading: "" };
const wrong: Judgement = {
  fits: false,
  headline: "Reversed.",
  make_safe: "Packs out.",
  causes: ["The tips are swapped", "The pack is"],
  next_reading: "Measure the pack.",
};
/** All that is said to be done holds. */
const held = (body: unknown) => (body as { done: { step: string }[] }).done.map((one) => one.step);
const hookup: Answers = {
  "POST /api/hookup": (asked) => ({ body: { plan, holding: held(asked.body) } }),
  "POST /api/hookup/meter": () => ({ body: meter }),
};
const answer = (judgement: Judgement) => () => ({ body: { tick: {}, judgement } });

function page(answers: Answers, row: SetupRow = rowOf(), at = "/builds/2/setups/7/hookup", draft = draftOf()) {
  const asked = serve({ ...hookup, ...answers });
  const stage = (place?: string) => (
    <FormProvider value={{ doc: draft.doc, edit: draft.edit, problems: [], help: () => "", assumed: {} }}>
      <HookupStage {...stageOf({ row, draft, ...(place ? { place } : {}) })} />
    </FormProvider>
  );
  const routes = (
    <Routes>
      <Route path="/builds/2/setups/7/hookup" element={stage()} />
      {steps.map((s) => (
        <Route key={s.id} path={`/builds/2/setups/7/hookup/${s.id}`} element={stage(s.id)} />
      ))}
    </Routes>
  );
  return { asked, ...show(routes, at) };
}
const ticked = (id: string, good = true) => ({
  step: id,
  mark: "",
  measured: 20.5,
  measured_open: false,
  fits: good,
  excused: false,
  revision: 1,
});
const address = () => screen.getByLabelText("address").textContent;

test("opens at the first step nobody has done, with where the tips go and what they should show", async () => {
  page({}, rowOf({ ticks: [ticked("pack0")] }));
  expect(await screen.findByRole("heading", { name: "2 Do holder" })).toBeDefined();
  expect(screen.getByText("1 of 3 checked")).toBeDefined();
  expect(screen.getAllByText("OL, open").length).toBe(2);
});

test("a reading in range ticks the step and goes on to the next", async () => {
  const { user, asked } = page({ "PUT /api/setups/7/ticks/pack0": answer(fits) });
  await user.type(await screen.findByLabelText("you read"), "20,5");
  await user.click(screen.getByRole("button", { name: "Tick step 1" }));
  await waitFor(() => expect(address()).toBe("/builds/2/setups/7/hookup/holder"));
  expect(asked.filter((a) => a.method === "PUT").at(-1)?.body).toEqual({ measured: 20.5, measured_open: false });
});

test("a reading out of range stays, makes safe first and ranks the causes", async () => {
  const { user } = page({ "PUT /api/setups/7/ticks/pack0": answer(wrong) });
  await user.type(await screen.findByLabelText("you read"), "-20.5");
  await user.click(screen.getByRole("button", { name: "Tick step 1" }));
  const alert = within(await screen.findByRole("alert"));
  expect(alert.getByText("Reversed.")).toBeDefined();
  expect(alert.getByText("Packs out.")).toBeDefined();
  expect(alert.getAllByRole("listitem").map((li) => li.textContent)).toEqual(wrong.causes);
  expect(address()).toBe("/builds/2/setups/7/hookup/pack0");
});

test("what is no number is not sent", async () => {
  const { user, asked } = page({});
  await user.type(await screen.findByLabelText("you read"), "about twenty{Enter}");
  expect(screen.getByRole("alert").textContent).toContain("such as 20.4, or OL");
  expect(asked.filter((a) => a.method === "PUT")).toEqual([]);
});

test("open has its own key on an ohm step and is sent as open", async () => {
  const { user, asked } = page({ "PUT /api/setups/7/ticks/holder": answer(fits) }, rowOf(), "/builds/2/setups/7/hookup/holder");
  await user.click(await screen.findByRole("button", { name: "OL" }));
  expect(screen.getByLabelText<HTMLInputElement>("you read").value).toBe("OL");
  await user.click(screen.getByRole("button", { name: "Tick step 2" }));
  await waitFor(() =>
    expect(asked.filter((a) => !a.path.endsWith("/standing")).at(-1)?.body).toEqual({ measured: null, measured_open: true }),
  );
});

test("a step without a reading is only ticked", async () => {
  const { user, asked } = page(
    { "PUT /api/setups/7/ticks/precharge": answer(fits) },
    rowOf(),
    "/builds/2/setups/7/hookup/precharge",
  );
  expect(await screen.findByText("The resistor gets warm.")).toBeDefined();
  expect(screen.queryByLabelText("you read")).toBeNull();
  await user.click(screen.getByRole("button", { name: "Tick step 3" }));
  await waitFor(() => expect(asked.some((a) => a.method === "PUT")).toBe(true));
});

test("a refused tick says why and keeps the number", async () => {
  const refuse = () => ({ status: 422, body: { code: "invalid", message: "A meter shows at most 1000 V." } });
  const { user } = page({ "PUT /api/setups/7/ticks/pack0": refuse });
  await user.type(await screen.findByLabelText("you read"), "5000{Enter}");
  expect((await screen.findByRole("alert")).textContent).toBe("A meter shows at most 1000 V.");
});

test("done steps show what was read and can be taken back", async () => {
  const { user, asked } = page(
    { "DELETE /api/setups/7/ticks/pack0": () => ({ status: 204 }) },
    rowOf({ ticks: [ticked("pack0", false)] }),
  );
  expect(await screen.findByText("20.5 V")).toBeDefined();
  expect(screen.getByText("0 of 3 checked")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Take back step 1" }));
  await waitFor(() => expect(asked.filter((a) => !a.path.endsWith("/standing")).at(-1)?.method).toBe("DELETE"));
});

test("a step that came with a newer program counts as done, and says what it is", async () => {
  const { user } = page({}, rowOf({ ticks: [{ ...ticked("pack0"), measured: null, excused: true }] }));
  expect(await screen.findByText("1 of 3 checked")).toBeDefined();
  await user.click(screen.getByRole("button", { name: /^Do pack0/ }));
  expect(screen.getByText(/This step came with a newer version/)).toBeDefined();
});

test("any step can be looked at, and the next one by its button", async () => {
  const { user } = page({});
  await user.click(await screen.findByRole("button", { name: /^Do precharge/ }));
  expect(address()).toBe("/builds/2/setups/7/hookup/precharge");
  expect(screen.queryByRole("button", { name: "Next" })).toBeNull();
  await user.click(screen.getByRole("button", { name: /^Do pack0/ }));
  await user.click(screen.getByRole("button", { name: "Next" }));
  expect(address()).toBe("/builds/2/setups/7/hookup/holder");
});

test("steps of a change that is not saved yet wait with their tick", async () => {
  page({}, rowOf(), undefined, draftOf({}, { save: { kind: "waiting" } }));
  expect(await screen.findByText(/can be ticked once it is saved/)).toBeDefined();
  expect((await screen.findByRole<HTMLButtonElement>("button", { name: "Tick step 1" })).disabled).toBe(true);
});

test("without packs it asks for them", async () => {
  page({ "POST /api/hookup": () => ({ body: { plan: null, holding: [] } }) });
  expect(await screen.findByText(/Choose the packs first/)).toBeDefined();
});

test("the meter between any two terminals, in the state one says", async () => {
  const open = { ...meter, kind: "open", low: null, expected: null, high: null, note: "Nothing joins them." };
  const { user, asked } = page({
    "POST /api/hookup/meter": (asked) => ({ body: (asked.body as { red: string }).red.startsWith("cut") ? open : meter }),
  });
  expect(await screen.findByText("41 V")).toBeDefined();
  expect(screen.queryByRole("button", { name: "Key on" })).toBeNull();
  await user.selectOptions(screen.getByLabelText("Red tip on"), "cut_off.in");
  await user.click(screen.getByRole("button", { name: "Packs in" }));
  expect((await screen.findAllByText("OL, open")).length).toBeGreaterThan(1);
  expect(asked.filter((a) => !a.path.endsWith("/standing")).at(-1)?.body).toMatchObject({
    red: "cut_off.in",
    black: "controller.battery −",
    situation: { packs: false, cut_off: true },
  });
});

test("what the wheel did with an order of phases and Halls goes into the setup", async () => {
  const next = {
    phases: "BCA",
    halls: "ABC",
    found: false,
    chance: 0.5,
    left: 2,
    tries: 1,
    most: 7,
    swaps: ["Controller phase lead A to motor phase lead B"],
    why: "It tells most.",
  };
  const matching = { side: "", next, smooth_a: 1.08, stop_a: 3.2 };
  const draft = draftOf({ order_trials: [{ phases: "ABC", halls: "ABC", outcome: "rough" }] });
  const { user } = page(
    { "POST /api/hookup": () => ({ body: { plan: { ...plan, matching: [matching] }, holding: [] } }) },
    rowOf(),
    "/builds/2/setups/7/hookup",
    draft,
  );
  await user.click(await screen.findByRole("button", { name: "phases and Halls" }));
  expect(screen.getByText(/over 3.2 A let go at once/)).toBeDefined();
  expect(screen.getByText("Controller phase lead A to motor phase lead B")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Twitches, growls or locks" }));
  expect(draft.edit).toHaveBeenCalledWith("/order_trials", [
    { phases: "ABC", halls: "ABC", outcome: "rough" },
    { phases: "BCA", halls: "ABC", outcome: "jerks", side: "left" },
  ]);
  await user.click(screen.getByRole("button", { name: "Take back try 1" }));
  expect(draft.edit).toHaveBeenCalledWith("/order_trials", []);
});

test("colours are paired by what they are for, and what is not known says how to find it", async () => {
  const found = {
    joins: [{ function: "5 V", controller_colour: "violet", part_colour: "grey", sentence: "violet to grey" }],
    to_find: [{ function: "signal", half: "part", among: ["green", "blue"], how: "The one that moves." }],
    left_over: [{ half: "controller", colour: "brown", function: "learning", what: "Leave it apart." }],
    doubts: [],
    halves: "",
  };
  const pair = {
    place: "throttle",
    controller: [{ colour: "violet", function: "5 V" }],
    part: [{ colour: "grey", function: "5 V" }],
  };
  const draft = draftOf({ plug_pairs: [pair] });
  const answers: Answers = {
    "POST /api/hookup": () => ({ body: { plan: { ...plan, plugs: [found] }, holding: [] } }),
    "GET /api/garages/1/rack": () => ({
      body: [
        rackPartOf({ id: 5, kind: "plug colours", label: "Thumb throttle", letter: "", document: pair as never, single: false }),
      ],
    }),
    "POST /api/garages/1/rack": () => ({ body: {} }),
    "GET /api/hookup/functions": () => ({
      body: { throttle: ["5 V", "ground", "signal"], key: ["battery plus"], "": ["learning"] },
    }),
  };
  const { user, asked } = page(answers, rowOf(), "/builds/2/setups/7/hookup", draft);
  await user.click(await screen.findByRole("button", { name: "which colour is which" }));
  expect(await screen.findByText("violet to grey")).toBeDefined();
  expect(screen.getByText(/one of green, blue: The one that moves/)).toBeDefined();
  expect(screen.getByText(/Leave it apart/)).toBeDefined();
  await user.selectOptions(screen.getByLabelText("Part's half, what wire 1 is for"), "ground");
  expect(draft.edit).toHaveBeenCalledWith("/plug_pairs/0/part", [{ colour: "grey", function: "ground" }]);
  await user.click(screen.getByRole("button", { name: "Add key or lock" }));
  const wires = [{ colour: "", function: "battery plus" }];
  expect(draft.edit).toHaveBeenCalledWith("/plug_pairs", [pair, { place: "key", controller: wires, part: wires }]);
  await user.selectOptions(screen.getByLabelText("From the rack"), "Thumb throttle");
  expect(draft.edit).toHaveBeenCalledWith("/plug_pairs", [pair, pair]);
  await user.click(screen.getByRole("button", { name: "Keep on the rack" }));
  expect(await screen.findByText("Kept as “Throttle”.")).toBeDefined();
  const posted = asked.find((a) => a.method === "POST" && String(a.path).endsWith("/rack"));
  expect(posted?.body).toMatchObject({ kind: "plug colours", label: "Throttle", document: pair, quantity: 1 });
});

test("a step whose parts have changed since is to be done again", async () => {
  page(
    { "POST /api/hookup": () => ({ body: { plan, holding: ["precharge"] } }) },
    rowOf({ ticks: [ticked("pack0"), { ...ticked("precharge"), measured: null as never }] }),
  );
  expect(await screen.findByText("1 of 3 checked")).toBeDefined();
  expect(screen.getByRole("heading", { name: "1 Do pack0" })).toBeDefined();
  expect(screen.getByText(/Changed since it was done/)).toBeDefined();
  expect(screen.getByText("changed since: once more")).toBeDefined();
});

test("tools, joint and what keeps it dry stand at the step", async () => {
  const made = step("pack0", { tools: ["crimp tool for [[12|awg]]", "meter"], joint: "Crimped.", care: "Ties snug." });
  page({ "POST /api/hookup": () => ({ body: { plan: { ...plan, steps: [made, ohms, quiet] }, holding: [] } }) });
  expect(await screen.findByText("crimp tool for 12 AWG, meter")).toBeDefined();
  expect(screen.getByText("Crimped.")).toBeDefined();
  expect(screen.getByText("Ties snug.")).toBeDefined();
});

test("a fault of the wiring is said before what is only open", async () => {
  const faults = [
    { kind: "dead", sentence: "Lamp gets no volts." },
    { kind: "open", sentence: "Nothing is joined to Controller, motor +." },
  ];
  page({ "POST /api/hookup": () => ({ body: { plan: { ...plan, faults }, holding: [] } }) });
  expect(await screen.findByText("The wiring as planned is wrong")).toBeDefined();
  expect(screen.getByText("Lamp gets no volts.")).toBeDefined();
  expect(screen.queryByText(/Nothing is joined/)).toBeNull();
});

test("all wires as a list, in the reader's units", async () => {
  const { user } = page({});
  await user.click(await screen.findByRole("button", { name: "all wires" }));
  const cells = within(screen.getByRole("table")).getAllByRole("cell");
  expect(cells.map((c) => c.textContent)).toEqual([
    "Minus bar",
    "Pack A, −",
    "minus",
    "black to blue",
    "12 AWG",
    "12.0 in",
    "crimped",
  ]);
});

test("the way back is ticked step by step and says what stays", async () => {
  const back = { steps: [step("back.packs", { reading: null, title: "Old packs in" })], stays: ["The hole stays."] };
  const { user, asked } = page({
    "POST /api/hookup": () => ({ body: { plan: { ...plan, back }, holding: [] } }),
    "PUT /api/setups/7/ticks/back.packs": answer(fits),
  });
  await user.click(await screen.findByRole("button", { name: "way back" }));
  expect(screen.getByText("The hole stays.")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Old packs in: done" }));
  await waitFor(() => expect(asked.some((a) => a.method === "PUT" && String(a.path).includes("back.packs"))).toBe(true));
});

test("what each control does, and what to do with plugs nobody uses", async () => {
  const logic = [{ control: "Key", does: "Wakes it.", shows: "Full volts." }];
  const unused = [{ plug: "cruise hold", do: "insulate", why: "Nothing for a child." }];
  const draft = draftOf({ controls: { harness: ["cruise hold"] } });
  const { user } = page(
    { "POST /api/hookup": () => ({ body: { plan: { ...plan, logic, unused }, holding: [] } }) },
    rowOf(),
    "/builds/2/setups/7/hookup",
    draft,
  );
  await user.click(await screen.findByRole("button", { name: "controls" }));
  expect(screen.getByText("Wakes it.")).toBeDefined();
  expect(screen.getByText("Insulate.").parentElement?.textContent).toBe("Insulate. Nothing for a child.");
  await user.click(screen.getByRole("button", { name: "charge" }));
  expect(draft.edit).toHaveBeenCalledWith("/controls/harness", ["cruise hold", "charge"]);
});

test("a step that something open locks says why and cannot be ticked; the header says what is open", async () => {
  const open = [
    {
      key: "fuse.none@main",
      title: "There is no main fuse",
      gate: "plan",
      stage: "protect",
      station: "",
      path: "",
      question: "",
      as_found: false,
    },
    {
      key: "look.held",
      title: "Are the packs held?",
      gate: "ride",
      stage: "power",
      station: "",
      path: "",
      question: "held",
      as_found: false,
    },
  ];
  const locked = [{ step: "pack0", reasons: ["Open stop: There is no main fuse"] }];
  page({
    "GET /api/setups/7/standing": () => ({ body: standingOf({ open: open as never, locked, power: false, ride: false }) }),
  });
  expect(await screen.findByText("Open stop: There is no main fuse")).toBeDefined();
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "Locked" }).disabled).toBe(true);
  expect(screen.getByText(/2 things open: no power yet/)).toBeDefined();
  expect(screen.getByRole("link", { name: "There is no main fuse" }).getAttribute("href")).toBe("/builds/2/setups/7/protect");
  expect(screen.getByRole("region", { name: "Open before the first ride" }).textContent).toContain("Are the packs held?");
});
