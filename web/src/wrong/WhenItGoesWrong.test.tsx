import { screen, waitFor } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { expect, test } from "vitest";
import type { Incident, WhenWrong } from "../api/client";
import { type Answers, serve, show } from "../testing/render";
import { WhenItGoesWrong } from "./WhenItGoesWrong";

const wrong = (id: WhenWrong["id"], more: Partial<WhenWrong> = {}): WhenWrong => ({
  id,
  title: `Title of ${id}`,
  under: "",
  lead: "",
  call: false,
  steps: [{ title: "Let go.", what: "Foot off the pedal." }],
  dont: ["Do not stand in front of it."],
  milder_title: "Still pulling?",
  milder: "Lay it down.",
  before: "rides",
  checks: [
    { key: "ride0", text: "Pedal snaps back", gate: "ride" },
    { key: "ride1", text: "Cut-off kills it", gate: "ride" },
  ],
  ...more,
});
const wrongs = [wrong("runaway"), wrong("smoke", { call: true })];
const incident: Incident = {
  id: 3,
  kind: "crash",
  note: "Into the hedge",
  by: "ada",
  created: "2026-05-02T10:00:00Z",
  checks: [{ key: "ride0", text: "Brakes hold", gate: "ride", by: "", when: "", seen: "" }],
};

function page(answers: Answers, at = "/builds/2/trouble", number = "112") {
  const asked = serve({
    "GET /api/garages": () => ({ body: [{ id: 1, name: "Shed", units: {}, house_rules: {}, emergency_number: number }] }),
    "GET /api/builds/2/troubles": () => ({ body: wrongs }),
    "GET /api/troubles": () => ({ body: wrongs }),
    "GET /api/builds/2/incidents": () => ({ body: [] }),
    ...answers,
  });
  const routes = (
    <Routes>
      <Route path="/trouble" element={<WhenItGoesWrong />} />
      <Route path="/builds/:buildId/trouble" element={<WhenItGoesWrong />} />
    </Routes>
  );
  return { asked, ...show(routes, at) };
}

test("opens at the runaway; what burns has the garage's own number to call", async () => {
  const { user } = page({});
  await screen.findAllByRole("heading", { name: "Title of runaway" });
  // On paper stand all of them: one more link there.
  expect(screen.getAllByRole("link", { name: /Call 112/ }).length).toBe(1);
  await user.click(screen.getByRole("button", { name: /Smoke or heat/ }));
  const links = screen.getAllByRole("link", { name: /Call 112/ });
  expect([links.length, links[0]?.getAttribute("href")]).toEqual([2, "tel:112"]);
});

test("without a number it says where to enter one", async () => {
  const { user } = page({}, "/trouble", "");
  await user.click(await screen.findByRole("button", { name: /Smoke or heat/ }));
  expect(screen.getAllByText("Call your emergency number").length).toBeGreaterThan(0);
});

test("what happened is written down with the checks already done", async () => {
  const { user, asked } = page({ "POST /api/builds/2/incidents": () => ({ body: incident }) });
  await user.click(await screen.findByLabelText("Pedal snaps back"));
  await user.type(screen.getByLabelText("What happened"), "Pedal stuck");
  await user.click(screen.getByRole("button", { name: "Write it down" }));
  await screen.findByText(/Written into the journal/);
  expect(asked.find((a) => a.method === "POST")?.body).toEqual({ kind: "runaway", note: "Pedal stuck", done: ["ride0"] });
});

test("what is still open from before is closed by what was seen", async () => {
  const { user, asked } = page({
    "GET /api/builds/2/incidents": () => ({ body: [incident] }),
    "PUT /api/builds/2/incidents/3/checks/ride0": () => ({ body: incident }),
  });
  await user.type(await screen.findByLabelText("Brakes hold"), "Both lock the wheel.");
  await user.click(screen.getByRole("button", { name: "Looked at" }));
  await waitFor(() => expect(asked.find((a) => a.method === "PUT")?.body).toEqual({ seen: "Both lock the wheel." }));
});

test("no answer from the server still says what matters", async () => {
  page({ "GET /api/builds/2/troubles": () => ({ status: 500, body: {} }) });
  expect((await screen.findByRole("alert")).textContent).toContain("Everyone away");
});
