import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { buildOf, findingOf, rowOf, serve, show, standingOf } from "../testing/render";
import { Look } from "./Look";
import { shown } from "./link";
import { ShareLink } from "./ShareLink";

const rows = [rowOf({ id: 6, name: "As found", is_baseline: true, in_use: false }), rowOf({ ticks: [] })];
const looked = (setup_id: number) => ({
  build: buildOf({ setups: rows }),
  setup_id,
  units: { speed: "km/h" },
  expires: "2026-03-31T10:00:00Z",
  evaluation: {
    findings: [findingOf({ key: "c", severity: "caution", gate: null, title: "Warm leads" })],
    trail: [],
    outcome: null,
    baseline: null,
  },
  ranges: { outcomes: {}, stations: {}, drivers: {} },
  hookup: null,
  holding: [],
  standing: standingOf(),
  troubles: [],
  trials: [
    { id: 1, when: "2026-03-01T10:00:00Z", setup_name: "Two packs", speed_m_s: 5, predicted_m_s: 5.5 },
    { id: 2, when: "2026-02-01T10:00:00Z", setup_name: "As found", speed_m_s: 2.5, predicted_m_s: null },
  ],
});

test("a link shows the machine, its cautions and rides, in its garage's units, and nothing that changes it", async () => {
  window.history.replaceState(null, "", "/#look=abc");
  expect(shown()).toBe("abc");
  const asked = serve({ "POST /api/look": ({ body }) => ({ body: looked(Number(body.setup_id ?? 7)) }) });
  const { user } = show(<Look token="abc" />);
  expect(await screen.findByRole("heading", { name: "Puddle Hopper: Two packs" })).toBeDefined();
  expect(screen.getByText("Warm leads.")).toBeDefined();
  expect(screen.getByText("18.0 km/h")).toBeDefined();
  expect(screen.getByText(/19\.8 km\/h predicted/)).toBeDefined();
  expect(screen.queryByRole("link")).toBeNull();
  expect(screen.getAllByRole("button").map((one) => one.textContent)).toEqual(["Print it"]);
  await user.selectOptions(screen.getByLabelText("Setup"), "6");
  expect(await screen.findByRole("heading", { name: "Puddle Hopper: As found" })).toBeDefined();
  expect(asked.map((one) => one.body)).toEqual([
    { token: "abc", setup_id: null },
    { token: "abc", setup_id: 6 },
  ]);
});

test("a link that is over says so", async () => {
  serve({ "POST /api/look": () => ({ status: 404, body: { code: "link_over", message: "This link shows nothing any more." } }) });
  show(<Look token="abc" />);
  expect((await screen.findByRole("alert")).textContent).toBe("This link shows nothing any more.");
});

test("a link is made for so long, shown once, and taken back", async () => {
  let there = [
    { id: 4, note: "For uncle", by: "ada", created: "2026-03-01T10:00:00Z", expires: "2026-03-08T10:00:00Z", token: "" },
  ];
  const asked = serve({
    "GET /api/builds/2/look-links": () => ({ body: there }),
    "POST /api/builds/2/look-links": () => ({ body: { ...there[0], token: "xyz" } }),
    "DELETE /api/builds/2/look-links/4": () => {
      there = [];
      return { status: 204 };
    },
  });
  const { user } = show(<ShareLink build={buildOf()} close={() => {}} />);
  await user.type(screen.getByLabelText("For whom"), "For uncle");
  await user.selectOptions(screen.getByLabelText("Good for"), "30");
  await user.click(screen.getByRole("button", { name: "Make the link" }));
  expect((await screen.findByLabelText<HTMLInputElement>("The link")).value).toMatch(/\/#look=xyz$/);
  expect(asked.find((one) => one.method === "POST")?.body).toEqual({ days: 30, note: "For uncle" });
  await user.click(await screen.findByRole("button", { name: "Take back the link For uncle" }));
  expect(await screen.findByText(/Whoever has the link sees/)).toBeDefined();
  await screen.findByLabelText("For whom");
  expect(screen.queryByLabelText("The link")).toBeNull();
});
