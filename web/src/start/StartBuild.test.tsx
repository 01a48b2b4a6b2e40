import { screen, waitFor, within } from "@testing-library/react";
import { beforeEach, expect, test } from "vitest";
import type { Offer } from "../api/client";
import { type Doc, read } from "../lib/pointer";
import { type Answers, buildOf, madeUp, rackPartOf, rowOf, serve, show } from "../testing/render";
import { StartBuild } from "./StartBuild";

const figure = (value: number, basis = "assumed") => ({ value, basis });
const block = { label: "12 V lead block", chemistry: "lead", cells_in_series: 6, capacity_ah: figure(10) };
const typical = (family: string, volts = 12, watts = 60): Doc => ({
  version: 1,
  vehicle: { family },
  stock: { volts_v: figure(volts), capacity_ah: figure(10) },
  bank: { rows: [{ units: Array.from({ length: volts / 12 }, () => block) }] },
  main_fuse: { rating_a: watts > 200 ? 40 : 20, dc_volts_v: volts > 24 ? 58 : 32 },
  motor: { kind: "small gear motor", count: 2, volts_v: figure(volts), power_w: figure(watts) },
  controller:
    family === "ride-on car"
      ? { kind: "none" }
      : { kind: "brushed", nominal_v: figure(volts), battery_limit_a: figure(240 / volts) },
  drivetrain:
    family === "ride-on car"
      ? { kind: "plastic gearbox", ratio: figure(100) }
      : { kind: "chain", motor_teeth: 11, wheel_teeth: 80 },
  wheel: { diameter_m: figure(0.254), tyre: "plastic" },
  rider: null,
});
const offer = (more: Partial<Offer> = {}): Offer => ({
  name: "One pack",
  setup: madeUp({ version: 1, marker: "one" }),
  rows: 1,
  in_series: 1,
  top_speed_m_s: 3.12928,
  run_time_s: 1800,
  stops: [],
  cautions: 0,
  shares: [0.5],
  states: ["fine"],
  advice: "",
  lacked: [],
  says: "",
  ...more,
});
const answers: Answers = {
  "GET /api/garages": () => ({ body: [{ id: 1, name: "Shed", units: {}, house_rules: {} }] }),
  "GET /api/typical/ride-on%20car": ({ query }) => ({ body: typical("ride-on car", Number(query.get("volts") ?? 12)) }),
  "GET /api/typical/small%20dirt%20bike": ({ query }) => ({
    body: typical("small dirt bike", Number(query.get("volts") ?? 24), Number(query.get("watts") ?? 60)),
  }),
  "GET /api/garages/1": () => ({ body: { builds: [], riders: [] } }),
  "GET /api/garages/1/rack": () => ({ body: [] }),
  "GET /api/parts": () => ({
    body: { packs: [{ id: "pack-5s-5", label: "5-cell tool pack, 5 Ah", group: "Tool packs", part: { cells_in_series: 5 } }] },
  }),
  "GET /api/setup-schema": () => ({ body: {} }),
  "POST /api/evaluate": () => ({ body: { findings: [], gaps: [], trail: [], curves: {} } }),
  "POST /api/ranges": () => ({ body: { outcomes: {} } }),
  "POST /api/fixes": () => ({ body: [] }),
  "POST /api/offers": ({ body }) => ({
    body: {
      baseline: offer({ name: "As found" }),
      offers: (body.shelf as unknown[]).length
        ? [
            offer(),
            offer({
              name: "Two packs side by side",
              rows: 2,
              advice: "best start",
              lacked: ["Knob module of 20 A"],
              stops: ["Rows without their own fuses"],
            }),
          ]
        : [],
    },
  }),
  "POST /api/garages/1/builds": () => ({ body: buildOf({ setups: [rowOf({ id: 21, is_baseline: true }), rowOf({ id: 22 })] }) }),
};
let asked: ReturnType<typeof serve>;
const page = (more: Answers = {}) => {
  asked = serve({ ...answers, ...more });
  return show(<StartBuild />, "/start");
};
const unfold = async (user: ReturnType<typeof page>["user"]) =>
  user.click(await screen.findByRole("button", { name: /^Look through all/ }));
const kept = () =>
  JSON.parse(sessionStorage.getItem("gecko-start") ?? "null") as { doc: Doc; name: string; shelf: unknown[] } | null;
const made = () =>
  asked.find((a) => a.path === "/api/garages/1/builds")?.body as {
    name: string;
    family: string;
    setups: { name: string; document: Doc }[];
  };

beforeEach(() => sessionStorage.clear());

test("every label may be skipped: the typical machine opens as it is", async () => {
  const { user } = page();
  const open = await screen.findByRole("button", { name: "Open the build with 1 setup" });
  await waitFor(() => expect((open as HTMLButtonElement).disabled).toBe(false));
  await user.click(open);
  await waitFor(() => expect(made()).toBeDefined());
  expect(made().name).toBe("Ride-on car");
  expect(made().setups.map((s) => s.name)).toEqual(["As found"]);
});

test("packs on the shelf bring arrangements; the best start is chosen already", async () => {
  const { user } = page();
  await user.type(await screen.findByLabelText("Name of the build"), "Puddle Hopper");
  await user.selectOptions(screen.getByLabelText("Add a pack"), "pack-5s-5");
  expect(await screen.findByText("Best start")).toBeDefined();
  expect(screen.getByText("With what it lacks:").parentElement?.textContent).toContain("Knob module of 20 A");
  expect(screen.getByText("Rows without their own fuses")).toBeDefined();
  const boxes = within(screen.getByRole("list", { name: "Arrangements, choose any" })).getAllByRole<HTMLInputElement>("checkbox");
  expect(boxes.map((b) => [b.checked, b.disabled])).toEqual([
    [true, true],
    [true, false],
    [false, false],
  ]);
  await user.click(boxes[2] as HTMLElement);
  await user.click(screen.getByRole("button", { name: "Open Puddle Hopper with 3 setups" }));
  await waitFor(() => expect(made()).toBeDefined());
  expect(made().setups.map((s) => s.name)).toEqual(["As found", "Two packs side by side", "One pack"]);
  await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/builds/2/setups/22/power"));
  expect(kept()).toBeNull();
});

test("nothing opens that was worked out before the last key", async () => {
  const { user } = page({
    "POST /api/offers": ({ body }) => {
      const rider = read(body.baseline as Doc, "/rider/name") ?? null;
      const setup = madeUp({ version: 1, rider: rider === null ? null : { name: rider } });
      return { body: { baseline: offer(), offers: [offer({ setup, advice: "best start" })] } };
    },
  });
  await user.selectOptions(await screen.findByLabelText("Add a pack"), "pack-5s-5");
  await screen.findByText("Best start");
  await screen.findByRole("button", { name: /^Open the build with 2/ });
  await user.type(screen.getByLabelText("Rider"), "Lumi");
  await user.click(screen.getByRole("button", { name: /^Open the build with 2/ }));
  expect(screen.getByRole("button", { name: "Working out what you typed…" })).toBeDefined();
  await waitFor(() => expect(made()).toBeDefined());
  expect(made().setups.map((s) => read(s.document, "/rider/name"))).toEqual(["Lumi", "Lumi"]);
});

test("another kind of machine opens as itself, however soon one presses", async () => {
  let answer: () => void = () => {};
  const { user } = page({
    "GET /api/typical/small%20dirt%20bike": async () => {
      await new Promise<void>((done) => (answer = done));
      return { body: typical("small dirt bike", 24) };
    },
  });
  await user.click(await screen.findByRole("button", { name: "Dirt bike" }));
  await user.click(screen.getByRole("button", { name: /^Open the build/ }));
  expect(made()).toBeUndefined();
  answer();
  await waitFor(() => expect(made()).toBeDefined());
  expect(made().family).toBe("small dirt bike");
  expect(read(made().setups[0]?.document as Doc, "/drivetrain/kind")).toBe("chain");
});

test("a remembered speed moves what was assumed; what is typed stays, and what it says is told", async () => {
  const { user } = page({
    "POST /api/remembered": ({ body }) =>
      Number(body.speed_m_s) < 5
        ? {
            body: {
              setup: { ...(body.setup as Doc), marker: "recalled" },
              said: "The motor's speed is taken as 0.90 times the typical one.",
            },
          }
        : { status: 422, body: { code: "invalid", message: "Check the speed's unit, and the volts on the labels." } },
  });
  await user.type(await screen.findByLabelText("As bought it does about"), "4");
  expect(await screen.findByText(/0.90 times the typical one/)).toBeDefined();
  await user.click(await screen.findByRole("button", { name: /^Open the build/ }));
  await waitFor(() => expect(made()?.setups[0]?.document).toMatchObject({ marker: "recalled" }));
  await user.type(screen.getByLabelText("As bought it does about"), "0");
  expect(await screen.findByText(/Check the speed's unit/)).toBeDefined();
});

test("the count on the shelf goes up, down and away", async () => {
  const { user } = page();
  await screen.findByRole("option", { name: "5-cell tool pack, 5 Ah" });
  await user.selectOptions(screen.getByLabelText("Add a pack"), "pack-5s-5");
  await user.click(screen.getByRole("button", { name: "One more" }));
  expect(kept()?.shelf).toEqual([{ id: "pack-5s-5", count: 3 }]);
  for (let i = 0; i < 3; i++) await user.click(screen.getByRole("button", { name: "One less" }));
  expect(kept()?.shelf).toEqual([]);
});

test("another family starts from its own typical machine and keeps the rider", async () => {
  const { user } = page();
  await user.type(await screen.findByLabelText("Rider"), "Ada");
  await user.click(screen.getByRole("button", { name: "Dirt bike" }));
  await unfold(user);
  expect(await screen.findByLabelText("Wheel teeth")).toBeDefined();
  expect(screen.queryByLabelText("Gear ratio")).toBeNull();
  expect(screen.getByLabelText("Controller limit")).toBeDefined();
  expect(screen.getByLabelText<HTMLInputElement>("Rider").value).toBe("Ada");
});

const units = () => read(kept()?.doc, "/bank/rows/0/units") as unknown[];

test("stock volts bring the battery that has them, and what was made for them", async () => {
  const { user } = page();
  await user.click(await screen.findByRole("button", { name: "Dirt bike" }));
  await unfold(user);
  const limit = await screen.findByLabelText("Controller limit");
  await user.clear(limit);
  await user.type(limit, "25");
  const volts = screen.getByLabelText("Battery volts");
  await user.clear(volts);
  await user.type(volts, "36");
  await waitFor(() => expect(units().length).toBe(3));
  const doc = kept()?.doc;
  expect([
    read(doc, "/motor/volts_v/value"),
    read(doc, "/controller/nominal_v/value"),
    read(doc, "/main_fuse/dc_volts_v"),
  ]).toEqual([36, 36, 58]);
  // Read off the label: it stays.
  expect(read(doc, "/controller/battery_limit_a")).toEqual({ value: 25, basis: "nameplate" });
});

test("watts bring the fuse the factory laid for them, unless one was read; what nobody typed says assumed", async () => {
  const { user } = page();
  await user.click(await screen.findByRole("button", { name: "Dirt bike" }));
  await unfold(user);
  const fuse = await screen.findByLabelText<HTMLInputElement>("Fuse as found");
  const field = within(fuse.closest(".min-w-0") as HTMLElement);
  expect(field.getAllByText("assumed").length).toBeGreaterThan(0);
  const watts = screen.getByLabelText("Motor watts, each");
  await user.clear(watts);
  await user.type(watts, "500");
  await waitFor(() => expect(fuse.value).toBe("40"));
  await user.clear(fuse);
  await user.type(fuse, "30");
  const volts = screen.getByLabelText("Battery volts");
  await user.clear(volts);
  await user.type(volts, "36");
  await waitFor(() => expect(units().length).toBe(3));
  expect(fuse.value).toBe("30");
  expect(field.queryAllByText("assumed")).toEqual([]);
});

test("a late answer for volts typed over is not taken", async () => {
  let first: () => void = () => {};
  const { user } = page({
    "GET /api/typical/ride-on%20car": async ({ query }) => {
      const asked_v = Number(query.get("volts") ?? 12);
      if (asked_v === 2) await new Promise<void>((done) => (first = done));
      return { body: typical("ride-on car", asked_v === 2 ? 120 : asked_v) };
    },
  });
  const volts = await screen.findByLabelText("Battery volts");
  await user.clear(volts);
  await user.type(volts, "24");
  await waitFor(() => expect(units().length).toBe(2));
  first();
  await new Promise((done) => setTimeout(done, 20));
  expect(units().length).toBe(2);
});

test("stock amp-hours are the packs' own", async () => {
  const { user } = page();
  await unfold(user);
  const capacity = await screen.findByLabelText("Battery capacity");
  await user.clear(capacity);
  await user.type(capacity, "7,2");
  expect(read(kept()?.doc, "/bank/rows/0/units/0/capacity_ah/value")).toBe(7.2);
});

test("what was entered is still there after a reload", async () => {
  const { user, unmount } = page();
  await user.type(await screen.findByLabelText("Name of the build"), "Bramble Two");
  await unfold(user);
  const wheel = screen.getByLabelText("Wheel across");
  await user.clear(wheel);
  await user.type(wheel, "12");
  unmount();
  page();
  expect((await screen.findByLabelText<HTMLInputElement>("Name of the build")).value).toBe("Bramble Two");
  await unfold(user);
  expect(screen.getByLabelText<HTMLInputElement>("Wheel across").value).toBe("12");
});

test("a wrong number is told and keeps the build from being made", async () => {
  const refuse = () => ({
    status: 422,
    body: {
      code: "invalid",
      message: "This must be more than zero.",
      problems: [{ path: "/motor/power_w", message: "This must be more than zero." }],
    },
  });
  page({ "POST /api/evaluate": refuse });
  // Beside the field, and below where the build would be opened.
  await waitFor(() => expect(screen.getAllByText("This must be more than zero.").length).toBe(2));
  expect(screen.getByRole<HTMLButtonElement>("button", { name: /^Open the build/ }).disabled).toBe(true);
});

test("a build that could not be made loses nothing", async () => {
  const { user } = page({ "POST /api/garages/1/builds": () => ({ status: 500, body: {} }) });
  await user.type(await screen.findByLabelText("Name of the build"), "Thistle Two");
  await user.click(await screen.findByRole("button", { name: /^Open Thistle Two/ }));
  expect((await screen.findByText("The server answered 500. Try again.")).getAttribute("role")).toBe("alert");
  expect(kept()?.name).toBe("Thistle Two");
});

const shed: Answers = {
  "GET /api/garages/1": () => ({
    body: {
      builds: [],
      riders: [
        { id: 1, name: "Pip", document: { age_years: 6, mass_kg: figure(22) } },
        { id: 2, name: "Odette", document: { age_years: 10 } },
      ],
    },
  }),
  "GET /api/garages/1/rack": () => ({
    body: ["A", "B", "C", "D"].map((letter, i) => ({
      ...rackPartOf({ id: 9 + i, key: `k${letter}`, letter, label: "Garden pack" }),
      document: { cells_in_series: 7, rack: { key: `k${letter}`, label: "Garden pack", letter } },
      out: letter === "D" ? { title: "got wet", because: "", do: "", clears: "" } : null,
      about: letter === "A" ? { partner: "kC" } : letter === "C" ? { partner: "kA" } : {},
    })),
  }),
};

test("what is on the rack lies on the shelf already, and riders of the garage take one tap each", async () => {
  const { user } = page(shed);
  expect(await screen.findByText("Garden pack")).toBeDefined();
  expect(screen.getByText("on your rack: A, C, B")).toBeDefined();
  expect(screen.getByText("Garden pack D got wet: left out of every plan.")).toBeDefined();
  await waitFor(() =>
    expect(asked.filter((a) => a.path === "/api/offers").at(-1)?.body.shelf).toEqual([
      {
        pack: { cells_in_series: 7 },
        count: 3,
        // A pair stands together.
        names: ["A", "C", "B"].map((letter) => ({ key: `k${letter}`, label: "Garden pack", letter })),
      },
    ]),
  );
  await user.click(screen.getByRole("checkbox", { name: /^Pip/ }));
  await user.click(screen.getByRole("checkbox", { name: /^Odette/ }));
  expect(read(kept()?.doc, "/rider/name")).toBe("Pip");
  expect(read(kept()?.doc, "/also/0/age_years")).toBe(10);
  await user.click(screen.getByRole("checkbox", { name: /^Pip/ }));
  expect(read(kept()?.doc, "/rider/name")).toBe("Odette");
  await user.click(screen.getByRole("button", { name: "+ Somebody else, too" }));
  await user.type(screen.getByLabelText("Also rides"), "Rafe");
  expect(read(kept()?.doc, "/also/0/name")).toBe("Rafe");
});

test("an arrangement with stops is planned with what it lacks in one press", async () => {
  const { user } = page({
    "POST /api/completed": ({ body }) => ({
      body: offer({
        name: String(body.name),
        setup: madeUp({ version: 1, marker: "whole" }),
        lacked: ["Knob module of 20 A"],
        stops: [],
      }),
    }),
    "POST /api/offers": () => ({
      body: { baseline: offer({ name: "As found" }), offers: [offer({ stops: ["Pedal straight to motor", "No guard"] })] },
    }),
  });
  expect(await screen.findByText("Pedal straight to motor, and 1 more")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Plan it with what it lacks" }));
  expect((await screen.findByText("With what it lacks:")).parentElement?.textContent).toContain("Knob module of 20 A");
  await user.click(screen.getByRole("button", { name: /with 2 setups$/ }));
  await waitFor(() => expect(made()?.setups[1]?.document).toMatchObject({ marker: "whole" }));
});

test("a bare frame has no electric stock: what is made has none either", async () => {
  const { user } = page({
    "POST /api/offers": ({ body }) => ({
      body: {
        baseline: offer({ name: "As found", setup: madeUp({ version: 1, marker: body.bare ? "bare" : "electric" }) }),
        offers: [],
      },
    }),
  });
  await user.click(await screen.findByRole("checkbox", { name: /^Nothing electric on it yet/ }));
  expect(screen.queryByLabelText("As bought it does about")).toBeNull();
  await waitFor(() => expect(asked.filter((a) => a.path === "/api/offers").at(-1)?.body.bare).toBe(true));
  await user.click(screen.getByRole("button", { name: /^Open the build/ }));
  await waitFor(() => expect(made()?.setups[0]?.document).toMatchObject({ marker: "bare" }));
});

test("a pack that is not in the list is entered by its label", async () => {
  const { user } = page({
    "POST /api/garages/1/rack": ({ body }) => ({
      body: ["B", "C"].map((letter) => {
        const name = { key: `k${letter}`, label: String(body.label), letter };
        return rackPartOf({ ...name, document: { ...(body.document as object), rack: name } as never });
      }),
    }),
  });
  await user.click(await screen.findByText("Not in the list? Enter what its label says"));
  await user.selectOptions(screen.getByLabelText("Kind of pack"), "board");
  await user.type(screen.getByLabelText("Cells in a row"), "17.5");
  expect(screen.getByText("Enter whole cells, 1 to 28, and amp-hours above zero.")).toBeDefined();
  await user.clear(screen.getByLabelText("Cells in a row"));
  await user.type(screen.getByLabelText("Cells in a row"), "17");
  await user.type(screen.getByLabelText("Amp-hours"), "24");
  const many = screen.getByLabelText("How many of them");
  await user.clear(many);
  await user.type(many, "20");
  expect(screen.getByText("Enter how many there are, 1 to 12.")).toBeDefined();
  await user.clear(many);
  await user.type(many, "2");
  await user.click(screen.getByRole("button", { name: "Put it on my rack" }));
  expect(await screen.findByText("17-cell pack, 24 Ah")).toBeDefined();
  expect(asked.find((a) => a.path === "/api/garages/1/rack" && a.method === "POST")?.body).toMatchObject({
    kind: "packs",
    quantity: 2,
  });
  await waitFor(() =>
    expect(asked.filter((a) => a.path === "/api/offers").at(-1)?.body.shelf).toMatchObject([
      {
        pack: { cells_in_series: 17, board: true, guard_in_tool: false, capacity_ah: { value: 24, basis: "nameplate" } },
        count: 2,
        names: [{ letter: "B" }, { letter: "C" }],
      },
    ]),
  );
});

test("a kit of one's own is in every arrangement; without packs it goes in as it is", async () => {
  const kit = rackPartOf({ id: 30, key: "k30", kind: "kits", label: "Bike kit", document: { contents: [] } as never });
  const looked = { brings: ["Motor"], over: [], twice: [], idle: [], lacks: [], leads: [], claims: [], stops: [] };
  const { user } = page({
    "GET /api/garages/1/rack": () => ({ body: [kit] }),
    "POST /api/garages/1/rack/30/fit": () => ({ body: { setup: { version: 1 }, ...looked } }),
    "POST /api/offers": ({ body }) => {
      const packs = (body.shelf as unknown[]).length;
      const alone = offer({ name: "Bike kit A", setup: madeUp({ version: 1, marker: "kit" }), rows: 0 });
      const both = offer({ name: "One pack, Bike kit A", setup: madeUp({ version: 1, marker: "both" }), advice: "best start" });
      return { body: { baseline: offer(), offers: body.kit === 30 ? [alone, ...(packs ? [both] : [])] : [] } };
    },
  });
  await user.selectOptions(await screen.findByLabelText("A kit, donor or part of yours"), "Bike kit A");
  await user.click(screen.getByRole("button", { name: "What does it bring, and what is still to be had?" }));
  expect(await screen.findByText("Nothing: it is complete for this machine.")).toBeDefined();
  expect(screen.queryByRole("button", { name: "Put it in" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Close" }));
  await user.click(await screen.findByRole("button", { name: "Open the build with 2 setups" }));
  await waitFor(() => expect(made()?.setups[1]).toMatchObject({ name: "Bike kit A", document: { marker: "kit" } }));
});

test("a motor in the hand is in every arrangement, and not in the machine as found", async () => {
  const motor = rackPartOf({ id: 31, key: "k31", kind: "motors", label: "Spare motor", document: { kind: "hub" } as never });
  asked = serve({
    ...answers,
    "GET /api/garages/1/rack": () => ({ body: [motor] }),
    "POST /api/offers": ({ body }) => ({
      body: { baseline: offer(), offers: body.kit === 31 ? [offer({ name: "Spare motor A", rows: 0 })] : [] },
    }),
  });
  const { user, unmount } = show(<StartBuild />, "/start?part=k31");
  await user.type(await screen.findByLabelText("Rider"), "Ada");
  unmount();
  // The page is loaded again: nothing that was entered is lost, nor what it began with.
  show(<StartBuild />, "/start?part=k31");
  expect((await screen.findByLabelText<HTMLInputElement>("Rider")).value).toBe("Ada");
  expect((await screen.findByLabelText<HTMLSelectElement>("A kit, donor or part of yours")).value).toBe("31");
  expect(screen.queryByRole("button", { name: "What does it bring, and what is still to be had?" })).toBeNull();
  await user.click(await screen.findByRole("button", { name: "Open the build with 2 setups" }));
  await waitFor(() => expect(made()?.setups.map((s) => s.name)).toEqual(["As found", "Spare motor A"]));
  expect(read(made().setups[0]?.document as Doc, "/motor/kind")).toBe("small gear motor");
});

test("with packs on the shelf a kit goes in with them", async () => {
  const kit = rackPartOf({ id: 30, key: "k30", kind: "kits", label: "Bike kit", document: { contents: [] } as never });
  const { user } = page({
    "GET /api/garages/1/rack": () => ({ body: [kit] }),
    "POST /api/offers": ({ body }) => ({
      body: {
        baseline: offer(),
        offers: [
          offer({ name: "Bike kit A", rows: 0 }),
          ...((body.shelf as unknown[]).length ? [offer({ name: "One pack, Bike kit A", advice: "best start" })] : []),
        ],
      },
    }),
  });
  await user.selectOptions(await screen.findByLabelText("A kit, donor or part of yours"), "Bike kit A");
  await user.selectOptions(screen.getByLabelText("Add a pack"), "pack-5s-5");
  await screen.findByText("Best start");
  await user.click(await screen.findByRole("button", { name: "Open the build with 2 setups" }));
  await waitFor(() => expect(made()?.setups.map((s) => s.name)).toEqual(["As found", "One pack, Bike kit A"]));
});
