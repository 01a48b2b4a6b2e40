import { screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { expect, test, vi } from "vitest";
import type { RackPart } from "../api/client";
import { UndoProvider } from "../bin/Undo";
import { KitIn } from "../kits/KitFit";
import { type Answers, rackPartOf, serve, show } from "../testing/render";
import { NewPart } from "./NewPart";
import { PartPage } from "./PartPage";
import { RackPage } from "./RackPage";
import { RackShelf } from "./RackShelf";

const wet = { title: "got wet", because: "Water inside shorts its cells.", do: "Outdoors, at once.", clears: "" };
const A = rackPartOf();
const B = rackPartOf({
  id: 5,
  key: "k5",
  letter: "B",
  out: wet,
  about: { happened: [{ what: "wet", cleared: false }] } as never,
});
const fuse = rackPartOf({
  id: 6,
  key: "k6",
  letter: "",
  kind: "fuses",
  single: false,
  label: "30 A blade fuse",
  document: { rating_a: 30 } as never,
  quantity: 2,
});
const flat = { when: "2026-01-01T00:00:00Z", value: 5, low: 4.6, high: 5.4 };
const figure = { new: 5, readings: [], now: flat, line: [flat, { ...flat, when: "2027-01-01T00:00:00Z" }], share: 1 };
const life = {
  capacity: figure,
  resistance: { ...figure, new: 0.05 },
  sag_10a_v: 0.5,
  tone: "unknown",
  title: "Not measured yet.",
  says: "Its label is all that is known.",
};
const meanings = [
  {
    what: "dropped",
    was: "was dropped",
    may: "A dent can short it.",
    do: "Keep it outdoors for a day.",
    clears: "It stayed cold for a day.",
  },
  { what: "wet", was: "got wet", may: "Water inside shorts its cells.", do: "Outdoors, at once.", clears: "" },
];

function page(at: string, rack: RackPart[] = [A, B, fuse], answers: Answers = {}) {
  const asked = serve({
    "GET /api/garages": () => ({
      body: [{ id: 1, name: "Shed", units: { money: "EUR" }, house_rules: {}, emergency_number: "" }],
    }),
    "GET /api/session": () => ({ body: { signed_in: true, demo: false, setup_needed: false, keeper: "t" } }),
    "GET /api/garages/1/index": () => ({ body: { builds: [], rack: [] } }),
    "GET /api/garages/1/rack": () => ({ body: rack }),
    "GET /api/parts": () => ({
      body: {
        packs: [
          {
            id: "p7",
            label: "7-cell garden pack, 4 Ah",
            group: "Garden packs",
            part: { cells_in_series: 7, capacity_ah: { value: 4, basis: "nameplate" } },
          },
        ],
        motors: [
          {
            id: "m1",
            label: "350 W brushed motor",
            group: "Motors",
            part: { kind: "brushed", power_w: { value: 350, basis: "nameplate" } },
          },
        ],
      },
    }),
    "GET /api/setup-schema": () => ({ body: {} }),
    "GET /api/mishaps/packs": () => ({ body: meanings }),
    "GET /api/garages/1/rack/4/life": () => ({ body: life }),
    "GET /api/garages/1/rack/5/life": () => ({ body: life }),
    "GET /api/garages/1/photos": () => ({ body: [] }),
    "GET /api/garages/1/rack/4/log": () => ({ body: [] }),
    "GET /api/garages/1/rack/5/log": () => ({ body: [] }),
    "GET /api/garages/1/rack/4/uses": () => ({
      body: [{ setup: 7, setup_name: "Two packs", build: 2, build_name: "Puddle Hopper", in_use: true }],
    }),
    "GET /api/garages/1/rack/5/uses": () => ({ body: [] }),
    "GET /api/garages/1/rack/6/uses": () => ({ body: [] }),
    "PUT /api/garages/1/rack/4": ({ body }) => ({ body: { ...A, ...(body as object) } }),
    ...answers,
  });
  const shown = show(
    <UndoProvider>
      <Routes>
        <Route path="/" element={<RackShelf garageId={1} />} />
        <Route path="/rack" element={<RackPage />} />
        <Route path="/rack/new" element={<NewPart />} />
        <Route path="/rack/:partId" element={<PartPage />} />
      </Routes>
    </UndoProvider>,
    at,
  );
  return { asked, ...shown };
}
const sent = (asked: { method: string; path: string; body: unknown }[], method: string) =>
  asked.filter((one) => one.method === method).map((one) => [one.path, one.body]);

test("alike parts stand together with their stickers, and a hurt one is named first", async () => {
  page("/");
  const shelf = within(await screen.findByRole("region", { name: "Rack" }));
  expect((await shelf.findByText("5-cell tool pack, 5 Ah B got wet: out of every plan")).closest("a")?.getAttribute("href")).toBe(
    "/rack/5",
  );
  expect(shelf.getByRole("link", { name: "5-cell tool pack, 5 Ah A" }).getAttribute("href")).toBe("/rack/4");
  expect(shelf.getByText("2 ×")).toBeDefined();
});

test("a part is found by any of its words, and counted ones go up and down to the bin", async () => {
  const { user, asked } = page("/rack", undefined, {
    "PUT /api/garages/1/rack/6": () => ({ body: fuse }),
    "DELETE /api/garages/1/rack/6": () => ({ status: 204 }),
  });
  await screen.findByRole("link", { name: "30 A blade fuse" });
  await user.click(screen.getByRole("button", { name: "One 30 A blade fuse less" }));
  await waitFor(() => expect(sent(asked, "PUT").map(([, body]) => (body as { quantity: number }).quantity)).toEqual([1]));
  await user.type(screen.getByRole("searchbox"), "blade 30");
  expect(screen.queryByText("5-cell tool pack, 5 Ah")).toBeNull();
  await user.type(screen.getByRole("searchbox"), " nonsense");
  expect(screen.getByText(/No part has these words/)).toBeDefined();
  await user.clear(screen.getByRole("searchbox"));
  await user.click(screen.getByRole("button", { name: "Fuses" }));
  expect(screen.queryByText("5-cell tool pack, 5 Ah")).toBeNull();
});

test("a part of nothing but its label is put on the rack, as many as there are", async () => {
  const { user, asked } = page("/rack/new", [], { "POST /api/garages/1/rack": () => ({ body: [A, B] }) });
  await user.type(await screen.findByLabelText("Cells in series"), "5");
  await user.type(screen.getByLabelText("Capacity"), "5");
  await user.type(screen.getByLabelText("What you call it"), "My tool pack");
  const count = screen.getByLabelText("How many");
  await user.clear(count);
  await user.type(count, "1,5");
  expect(screen.getByRole("alert").textContent).toBe("Enter a whole number from 1.");
  await user.clear(count);
  await user.type(count, "2");
  await user.type(screen.getByLabelText("What it cost"), "62");
  await user.click(screen.getByRole("button", { name: "Put it on the rack" }));
  await waitFor(() => expect(sent(asked, "POST")).toHaveLength(1));
  expect(sent(asked, "POST")[0]).toEqual([
    "/api/garages/1/rack",
    {
      kind: "packs",
      label: "My tool pack",
      document: {
        chemistry: "li-ion",
        cell_kind: "power",
        guard_in_tool: true,
        cells_in_series: 5,
        capacity_ah: { value: 5, basis: "nameplate" },
      },
      quantity: 2,
      about: { status: "on hand", state: "unknown", had: "unknown", price: { amount: 62, currency: "EUR" } },
    },
  ]);
  await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/rack"));
});

test("what the server finds wrong stands at its field", async () => {
  const problems = [{ path: "/capacity_ah", message: "Enter more than nothing." }];
  const { user } = page("/rack/new", [], {
    "POST /api/garages/1/rack": () => ({
      status: 422,
      body: { code: "setup_invalid", message: "Enter more than nothing.", problems },
    }),
  });
  await user.selectOptions(await screen.findByLabelText("Like one of these"), "7-cell garden pack, 4 Ah");
  await user.click(screen.getByRole("button", { name: "Put it on the rack" }));
  await waitFor(() => expect(screen.getByLabelText("Capacity").getAttribute("aria-invalid")).toBe("true"));
});

test("a change asks which setups follow", async () => {
  const { user, asked } = page("/rack/4");
  const capacity = await screen.findByLabelText("Capacity");
  await user.clear(capacity);
  await user.type(capacity, "4");
  await user.click(await screen.findByRole("checkbox", { name: "Change it in Puddle Hopper: Two packs too" }));
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(sent(asked, "PUT")).toHaveLength(1));
  expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({
    document: { cells_in_series: 5, capacity_ah: { value: 4, basis: "nameplate" } },
    follow: [],
  });
});

test("with the box ticked it changes there too, and as it was takes it all back", async () => {
  const { user, asked } = page("/rack/4");
  const name = await screen.findByDisplayValue("5-cell tool pack, 5 Ah");
  await user.type(name, " old");
  await user.click(screen.getByRole("button", { name: "As it was" }));
  expect(screen.queryByRole("button", { name: /Save/ })).toBeNull();
  await user.type(name, " old");
  await user.click(await screen.findByRole("button", { name: "Save, in 1 setup too" }));
  await waitFor(() => expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({ label: "5-cell tool pack, 5 Ah old", follow: [7] }));
});

test("a mishap says what a yes means before it is said, and what brings the part back", async () => {
  const { user, asked } = page("/rack/4");
  const happened = within(await screen.findByRole("region", { name: "What happened to it" }));
  expect(await happened.findByText("If yes: outdoors, at once.")).toBeDefined();
  await user.click(within(happened.getByRole("group", { name: "Dropped" })).getByRole("button", { name: "yes" }));
  await waitFor(() => expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({ about: { happened: [{ what: "dropped" }] } }));
});

test("a drop is cleared by what was seen, in words", async () => {
  const dropped = rackPartOf({
    about: { happened: [{ what: "dropped", cleared: false }] } as never,
    out: { ...wet, title: "was dropped" },
  });
  const { user, asked } = page("/rack/4", [dropped]);
  expect(await screen.findByText("5-cell tool pack, 5 Ah A was dropped: out of every plan.")).toBeDefined();
  await user.click(await screen.findByRole("button", { name: "I have looked at it…" }));
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "It is so: back into plans" }).disabled).toBe(true);
  await user.type(screen.getByLabelText("What did you see or measure?"), "cold, 19.8 V as before");
  await user.click(screen.getByRole("button", { name: "It is so: back into plans" }));
  await waitFor(() =>
    expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({
      about: { happened: [{ what: "dropped", cleared: true, seen: "cold, 19.8 V as before" }] },
    }),
  );
});

test("readings are written in the unit they are read in", async () => {
  const { user, asked } = page("/rack/4", undefined, { "POST /api/garages/1/rack/4/log": () => ({ body: {} }) });
  await user.click(await screen.findByRole("button", { name: "Add a reading" }));
  await user.click(screen.getByRole("button", { name: "Resistance" }));
  await user.type(screen.getByLabelText("Reading, mΩ"), "152");
  await user.type(screen.getByLabelText("Give or take"), "10");
  await user.click(screen.getByRole("button", { name: "Write it down" }));
  await waitFor(() =>
    expect(sent(asked, "POST")).toEqual([
      ["/api/garages/1/rack/4/log", { kind: "resistance", value: 0.152, half: 0.01, text: "", when: null }],
    ]),
  );
});

test("two packs are kept together, one is retired, and a part goes to the bin", async () => {
  const { user, asked } = page("/rack/4", undefined, { "DELETE /api/garages/1/rack/4": () => ({ status: 204 }) });
  await user.selectOptions(
    await screen.findByLabelText("Kept together with", { selector: "select" }),
    "5-cell tool pack, 5 Ah B",
  );
  await waitFor(() => expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({ about: { partner: "k5" } }));
  await user.click(screen.getByRole("button", { name: "Retire it" }));
  await waitFor(() => expect(sent(asked, "PUT")[1]?.[1]).toMatchObject({ about: { state: "retired" } }));
  expect(screen.getByRole("link", { name: /Start a build with it/ }).getAttribute("href")).toBe("/start?part=k4");
  await user.click(screen.getByRole("button", { name: "Take it off the rack" }));
  await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/rack"));
});

test("each kind has fields for its label", async () => {
  const { user } = page("/rack/new", []);
  const labels: Record<string, string> = {
    Motors: "Plate volts",
    Controllers: "Bank-side limit",
    Chargers: "Stops at",
    Throttles: "Snaps back by itself when let go",
    Gearboxes: "Ratio",
    Wheels: "Across",
    Fuses: "DC volts on it",
    Wire: "Left on the reel",
    Plugs: "Contacts passed",
    Switches: "Breaks up to",
    "Low-volt guards": "Switches off at",
    Converters: "Works from",
    "Sprockets, chains and the like": "Teeth",
  };
  for (const [kind, label] of Object.entries(labels)) {
    const what = within(screen.getByRole("region", { name: "What it is" }));
    await user.selectOptions(what.getByLabelText("Kind"), kind);
    expect(screen.getAllByText(label).length, kind).toBeGreaterThan(0);
  }
});

const kit = rackPartOf({
  id: 8,
  key: "k8",
  kind: "kits",
  label: "Bike kit",
  document: {
    contents: [
      { kind: "motors", label: "500 W motor", document: { kind: "brushed" }, count: 1, taken: false },
      { kind: "fuses", label: "30 A fuse", document: { rating_a: 30 }, count: 3, taken: true },
    ],
    leads: ["key"],
  } as never,
});
const fit = {
  setup: { marker: "with kit" },
  brings: ["500 W motor"],
  over: [],
  twice: [],
  idle: ["Brake pads"],
  lacks: ["A main fuse with its holder, close to the packs"],
  leads: [{ lead: "charge", do: "Insulate it. Live whenever a pack is in." }],
  claims: [
    { what: "speed", printed: 11.176, computed: 8.9408 },
    { what: "distance", printed: 20000, computed: null },
    { what: "power", printed: 500, computed: 610 },
  ],
  stops: ["No main fuse"],
};

test("a kit lists its parts; one can be taken out, and one more put in", async () => {
  const { user, asked } = page("/rack/8", [kit], {
    "GET /api/garages/1/rack/8/uses": () => ({ body: [] }),
    "GET /api/garages/1/rack/8/log": () => ({ body: [] }),
    "GET /api/mishaps/kits": () => ({ body: [] }),
    "POST /api/garages/1/rack/8/take-out": () => ({ body: [A] }),
    "PUT /api/garages/1/rack/8": () => ({ body: kit }),
  });
  const parts = within(await screen.findByRole("region", { name: "Its parts" }));
  expect(parts.getByText("taken out")).toBeDefined();
  await user.click(parts.getByRole("button", { name: "Take it out, onto the rack" }));
  await waitFor(() => expect(sent(asked, "POST")).toEqual([["/api/garages/1/rack/8/take-out", { number: 0 }]]));
  await user.click(parts.getByRole("button", { name: "Add a part of it" }));
  const dialog = within(await screen.findByRole("dialog", { name: "Add a part of it" }));
  await user.selectOptions(dialog.getByLabelText("Like one of these"), "350 W brushed motor");
  await user.click(dialog.getByRole("button", { name: "Put it into the kit" }));
  expect(parts.getByText("350 W brushed motor")).toBeDefined();
  // What is not kept yet cannot be taken out.
  expect(
    parts.getAllByRole<HTMLButtonElement>("button", { name: "Take it out, onto the rack" }).every((one) => one.disabled),
  ).toBe(true);
  await user.click(parts.getByRole("button", { name: "Strike out 30 A fuse" }));
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(sent(asked, "PUT")).toHaveLength(1));
  expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({
    document: { contents: [{ label: "500 W motor" }, { label: "350 W brushed motor" }] },
  });
});

test("a part of a kit is changed where it is, by its own label", async () => {
  const { user, asked } = page("/rack/8", [kit], {
    "GET /api/garages/1/rack/8/uses": () => ({ body: [] }),
    "GET /api/garages/1/rack/8/log": () => ({ body: [] }),
    "GET /api/mishaps/kits": () => ({ body: [] }),
    "PUT /api/garages/1/rack/8": () => ({ body: kit }),
  });
  const parts = within(await screen.findByRole("region", { name: "Its parts" }));
  expect(parts.queryByRole("button", { name: "Change 30 A fuse" })).toBeNull();
  await user.click(parts.getByRole("button", { name: "Change 500 W motor" }));
  const dialog = within(await screen.findByRole("dialog", { name: "Change 500 W motor" }));
  expect(dialog.getByLabelText<HTMLSelectElement>("What it is").disabled).toBe(true);
  await user.type(dialog.getByLabelText("Plate volts"), "36");
  await user.tab();
  await user.click(dialog.getByRole("button", { name: "Keep the change" }));
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(sent(asked, "PUT")).toHaveLength(1));
  expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({
    document: {
      contents: [{ label: "500 W motor", document: { kind: "brushed", volts_v: { value: 36 } } }, { label: "30 A fuse" }],
    },
  });
});

test("plugs of a kit that are mated already are entered with it", async () => {
  const { user, asked } = page("/rack/8", [kit], {
    "GET /api/garages/1/rack/8/uses": () => ({ body: [] }),
    "GET /api/garages/1/rack/8/log": () => ({ body: [] }),
    "GET /api/mishaps/kits": () => ({ body: [] }),
    "PUT /api/garages/1/rack/8": () => ({ body: kit }),
  });
  const plugs = within(await screen.findByRole("region", { name: "Plugs that are mated already" }));
  await user.click(plugs.getByRole("button", { name: "Add a mated plug" }));
  await user.selectOptions(plugs.getByLabelText("What is plugged in"), "phases");
  await user.type(plugs.getByLabelText("Family and size"), "3-pole, 6.3 mm");
  await user.tab();
  await user.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(sent(asked, "PUT")).toHaveLength(1));
  expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({
    document: { pairs: [{ place: "phases", family: "3-pole, 6.3 mm", mates: true }] },
  });
});

test("what a part ends in and what it is held by is entered at the part", async () => {
  const { user, asked } = page("/rack/4");
  const what = within(await screen.findByRole("region", { name: "What it is" }));
  await user.click(what.getByText("Plugs, terminals and holes"));
  await user.type(what.getByLabelText("Held by (holes and their distances, shaft, clamp)"), "two slots, 50 mm");
  await user.click(what.getByRole("button", { name: "Add a plug or terminal" }));
  await user.selectOptions(what.getByLabelText("What for"), "battery");
  await user.type(what.getByLabelText("Family and size"), "ring, 6 mm");
  await user.type(what.getByLabelText("Contacts or wires"), "2");
  await user.tab();
  await user.click(screen.getByRole("button", { name: /^Save/ }));
  await waitFor(() => expect(sent(asked, "PUT")).toHaveLength(1));
  expect(sent(asked, "PUT")[0]?.[1]).toMatchObject({
    document: { holes: "two slots, 50 mm", ends: [{ joins: "battery", family: "ring, 6 mm", contacts: 2 }] },
  });
});

test("what a kit makes of a machine is told before anything is changed", async () => {
  const taken = vi.fn();
  serve({
    "GET /api/garages": () => ({ body: [{ id: 1, name: "Shed", units: {}, house_rules: {} }] }),
    "GET /api/garages/1/rack": () => ({ body: [kit] }),
    "POST /api/garages/1/rack/8/fit": () => ({ body: fit }),
  });
  const { user } = show(<KitIn setup={{}} buildId={2} onTake={taken} />);
  await user.selectOptions(await screen.findByLabelText("A whole kit of yours"), "Bike kit A");
  const dialog = within(await screen.findByRole("dialog", { name: "Bike kit A in this machine" }));
  expect(await dialog.findByText("A main fuse with its holder, close to the packs")).toBeDefined();
  expect(dialog.getByText("charge: Insulate it. Live whenever a pack is in.")).toBeDefined();
  const claims = within(dialog.getByRole("region", { name: "Printed on the box, and computed here" }));
  expect(claims.getByText("25.0 mph")).toBeDefined();
  expect(claims.getByText("20.0 mph")).toBeDefined();
  expect(claims.getByText("cannot be computed yet")).toBeDefined();
  expect(claims.getByText("610 W")).toBeDefined();
  expect(taken).not.toHaveBeenCalled();
  await user.click(dialog.getByRole("button", { name: "Put it in" }));
  expect(taken).toHaveBeenCalledWith({ marker: "with kit" }, "Bike kit A");
});

test("a table of parts comes in, or is told by its line", async () => {
  let wrong = true;
  const { user, asked } = page("/rack", undefined, {
    "POST /api/garages/1/rack/table": () =>
      wrong ? { status: 422, body: { code: "refused", message: "Line 3, rating_a: too small." } } : { body: [fuse, A] },
  });
  const pick = await screen.findByLabelText("Read a table (CSV)", { selector: "input" });
  await user.upload(pick, new File(["part\nfuses\n"], "rack.csv", { type: "text/csv" }));
  expect(await screen.findByText("Line 3, rating_a: too small.")).toBeDefined();
  wrong = false;
  await user.upload(pick, new File(["part\nfuses\n"], "rack.csv", { type: "text/csv" }));
  expect(await screen.findByText("2 parts came in.")).toBeDefined();
  expect(sent(asked, "POST")[0]).toEqual(["/api/garages/1/rack/table", { text: "part\nfuses\n" }]);
  expect(screen.getByRole("link", { name: "As a table (CSV)" }).getAttribute("href")).toBe("/api/garages/1/rack.csv");
});
