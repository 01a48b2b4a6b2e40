import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { ChargePlan, JournalEntry } from "../../api/client";
import { type Answers, draftOf, formOf, serve, show, stageOf } from "../../testing/render";
import { Charging, hours } from "./Charging";
import { Journal } from "./Journal";

const entry = (more: Partial<JournalEntry> = {}) =>
  ({
    id: 3,
    kind: "repair",
    text: "New spade on the left motor",
    when: "2026-05-02T10:00:00Z",
    setup_id: 7,
    ...more,
  }) as JournalEntry;
const plan = (more: Partial<ChargePlan> = {}): ChargePlan => ({
  charger: "Dock",
  per: "unit",
  charges: 4,
  side_by_side: 1,
  all_hours: 7.5,
  hours: 1.9999,
  total_hours: 7.5,
  end_v: 21,
  wanted_v: 21,
  fits: true,
  why: "",
  ...more,
});

test("hours never show sixty minutes", () => {
  expect([1.9999, 0.5, 12.26].map(hours)).toEqual(["2 h 00 min", "0 h 30 min", "12 h 16 min"]);
});

function charging(plans: ChargePlan[], doc = {}) {
  serve({
    "POST /api/charging": () => ({ body: plans }),
    "GET /api/parts": () => ({
      body: {
        chargers: [
          {
            id: "c",
            label: "5-cell charger, 4 A",
            part: { label: "5-cell charger, 4 A", end_v: { value: 21, basis: "nameplate" } },
          },
        ],
      },
    }),
  });
  const draft = draftOf(doc);
  return { draft, ...show(formOf(doc).wrap(<Charging {...stageOf({ draft })} />)) };
}

test("one pack after the other, in hours for one and for all", async () => {
  charging([plan()]);
  expect(
    await screen.findByRole("img", { name: "2 h 00 min for one charge, 7 h 30 min for its 4 one after the other" }),
  ).toBeDefined();
  expect(screen.getByText("fits: ends at 21 V")).toBeDefined();
  expect(screen.getByText(/a pack, 7 h 30 min for its 4 one after the other/)).toBeDefined();
});

test("ports and chargers share the packs", async () => {
  charging([
    plan({ side_by_side: 2, total_hours: 4, all_hours: 4 }),
    plan({ charger: "Second", charges: 1, total_hours: 2, all_hours: 4 }),
  ]);
  expect(await screen.findByText(/a pack, 4 h 00 min for its 4, 2 at a time/)).toBeDefined();
  expect(screen.getByText(/Together both chargers have every pack full after/).textContent).toContain("4 h 00 min");
});

test("a charger that does not fit says why", async () => {
  charging([plan({ fits: false, why: "it ends at 29.4 V; 21.0 V is right", per: "bank", charges: 1 })]);
  expect(await screen.findByText("does not fit: it ends at 29.4 V; 21.0 V is right")).toBeDefined();
  expect(screen.getByText(/for the bank in place/)).toBeDefined();
});

test("chargers come from the ship-with parts and go by their button", async () => {
  const own = { label: "old", end_v: { value: 14.4, basis: "nameplate" } };
  const { user, draft } = charging([], { chargers: [own] });
  await screen.findByRole("option", { name: "5-cell charger, 4 A" });
  await user.selectOptions(screen.getByLabelText("Add a charger"), "c");
  expect(draft.edit).toHaveBeenCalledWith("/chargers", [own, expect.objectContaining({ label: "5-cell charger, 4 A" })]);
  await user.click(screen.getByRole("button", { name: "Take it out" }));
  expect(draft.edit).toHaveBeenLastCalledWith("/chargers", []);
});

test("no charger yet is said", async () => {
  charging([]);
  expect(await screen.findByText("No charger in this setup yet.")).toBeDefined();
});

function journal(entries: JournalEntry[], answers: Answers = {}) {
  const asked = serve({ "GET /api/builds/2/journal": () => ({ body: entries }), ...answers });
  return { asked, ...show(<Journal {...stageOf()} />) };
}

test("nothing written yet", async () => {
  journal([]);
  expect(await screen.findByText("Nothing written yet.")).toBeDefined();
});

test("an entry goes off with its kind and the field is empty again", async () => {
  const { user, asked } = journal([], { "POST /api/builds/2/journal": () => ({ body: entry() }) });
  await user.type(screen.getByLabelText("What happened"), "Chain oiled");
  await user.selectOptions(screen.getByLabelText("Kind of entry"), "upkeep");
  await user.click(screen.getByRole("button", { name: "Write it down" }));
  await waitFor(() => expect(screen.getByLabelText<HTMLTextAreaElement>("What happened").value).toBe(""));
  expect(asked.find((a) => a.method === "POST")?.body).toEqual({
    kind: "upkeep",
    text: "Chain oiled",
    setup_id: 7,
    when: expect.any(String),
  });
});

test("a refused entry keeps its text", async () => {
  const { user } = journal([], {
    "POST /api/builds/2/journal": () => ({ status: 422, body: { code: "invalid", message: "Write what happened." } }),
  });
  await user.type(screen.getByLabelText("What happened"), " ");
  await user.click(screen.getByRole("button", { name: "Write it down" }));
  expect((await screen.findByRole("alert")).textContent).toBe("Write what happened.");
});

test("entries can be deleted, but not that a stop was overruled", async () => {
  const { user, asked } = journal([entry(), entry({ id: 4, kind: "overruled", text: "Bench only." })], {
    "DELETE /api/builds/2/journal/3": () => ({ status: 204 }),
  });
  const list = within(await screen.findByRole("list"));
  await waitFor(() => expect(list.getAllByRole("listitem").length).toBe(2));
  expect(list.getAllByRole("button", { name: "Delete this entry" }).length).toBe(1);
  await user.click(list.getByRole("button", { name: "Delete this entry" }));
  await waitFor(() => expect(asked.some((one) => one.method === "DELETE")).toBe(true));
});
