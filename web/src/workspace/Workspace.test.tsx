import { screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { expect, test } from "vitest";
import type { Evaluation, SetupRow } from "../api/client";
import { type Answers, buildOf, findingOf, madeUp, rowOf, saidOf, serve, show, stationOf } from "../testing/render";
import { Workspace } from "./Workspace";

const stop = findingOf({ station: "leads" });
const evaluation = {
  findings: [stop],
  survey: [],
  gaps: [{ path: "/stock/volts_v", message: "Stock volts not entered: 12 V assumed.", kind: "assumed", value: 12, unit: "V" }],
  trail: [stationOf({ id: "packs", name: "Packs", stage: "power" }), stationOf({ weak: true, state: "over" })],
  curves: {},
  baseline: null,
  outcome: null,
  held_back: null,
} as unknown as Evaluation;
const patch = [{ op: "add", path: "/main_fuse", value: { rating_a: 30 } }];

function page(
  more: Answers = {},
  at = "/builds/2/setups/7/survey",
  row: SetupRow = rowOf({ document: { vehicle: { family: "quad" } } }),
) {
  const build = buildOf({ setups: [rowOf({ id: 6, name: "As found", is_baseline: true, in_use: false }), row] });
  const asked = serve({
    "GET /api/garages": () => ({ body: [{ id: 1, name: "Shed", units: {}, house_rules: {} }] }),
    "GET /api/builds/2": () => ({ body: build }),
    "GET /api/setup-schema": () => ({ body: {} }),
    "GET /api/parts": () => ({ body: {} }),
    "POST /api/evaluate": () => ({ body: evaluation }),
    "POST /api/ranges": () => ({ body: { outcomes: {} } }),
    "GET /api/setups/7/latest": () => ({ body: { version: 3, by: "ada", when: "2026-11-29T10:00:00Z", changed: [] } }),
    "POST /api/fixes": () => ({
      body: [
        {
          key: stop.key,
          fixes: [{ label: "30 A blade", patch, price: { top_speed_m_s: null, run_time_s: null, nominal_v: null } }],
        },
      ],
    }),
    "PUT /api/setups/7": ({ body }) => ({ body: { ...row, document: body.document, version: 4 } }),
    ...more,
  });
  const routes = (
    <Routes>
      <Route path="/" element={<p>the garage</p>} />
      <Route path="/builds/:buildId" element={<Workspace />} />
      <Route path="/builds/:buildId/setups/:setupId/:stage" element={<Workspace />} />
      <Route path="/builds/:buildId/setups/:setupId/:stage/:place" element={<Workspace />} />
    </Routes>
  );
  return { asked, ...show(routes, at) };
}
const address = () => screen.getByLabelText("address").textContent;
const save = () => document.querySelector("[data-save]")?.getAttribute("data-save");
const findings = () => within(screen.getAllByRole("region", { name: "Findings" })[0] as HTMLElement);

test("what another device saved is said with who and what; what this one saved is not", async () => {
  page({
    "GET /api/setups/7/latest": () => ({
      body: { version: 4, by: "cleo", when: "2026-11-29T10:00:00Z", changed: ["main fuse", "rider"] },
    }),
  });
  expect(await screen.findByText(/cleo saved this setup elsewhere at .*: main fuse, rider\./)).toBeDefined();
  expect(screen.getByRole("button", { name: "Show it" })).toBeDefined();
});

test("an open page of the newest version is quiet", async () => {
  const { asked } = page();
  await waitFor(() => expect(asked.some((one) => one.path.endsWith("/latest"))).toBe(true));
  expect(screen.queryByText(/saved this setup elsewhere/)).toBeNull();
});

test("a build opens at the setup the machine is in", async () => {
  page({}, "/builds/2");
  await waitFor(() => expect(address()).toBe("/builds/2/setups/7/power"));
});

test("a stage nobody knows opens at the packs", async () => {
  page({}, "/builds/2/setups/7/kitchen");
  await waitFor(() => expect(address()).toBe("/builds/2/setups/7/power"));
});

test("stages carry their marks in words", async () => {
  page();
  const stages = within(await screen.findByRole("navigation", { name: "Stages" }));
  await waitFor(() => expect(stages.getByRole("link", { name: /protect/ }).textContent).toContain("1 stop"));
  expect(stages.getByRole("link", { name: /hookup/ }).textContent).toContain("not started");
  expect(stages.getByRole("link", { name: /survey/ }).getAttribute("aria-current")).toBe("page");
});

test("an overruled stop no longer marks its stage", async () => {
  const overrules = [saidOf({ finding: stop.key, title: stop.title })];
  page({}, undefined, rowOf({ overrules }));
  const stages = within(await screen.findByRole("navigation", { name: "Stages" }));
  await waitFor(() => expect(stages.getByRole("link", { name: /protect/ }).textContent).toContain("1 open"));
});

test("typing changes the plan and is saved", async () => {
  const { user, asked } = page();
  await user.type(await screen.findByLabelText("Stock volts"), "24");
  expect(save()).toBe("waiting");
  await waitFor(() => expect(save()).toBe("saved"), { timeout: 3000 });
  const sent = asked.filter((a) => a.method === "PUT").at(-1)?.body.document;
  expect(sent).toEqual({ vehicle: { family: "quad" }, stock: { volts_v: { value: 24, basis: "nameplate" } } });
  // The answer is the setup as it stands: neither the build nor the garage is asked again, what stands open once.
  await waitFor(() => expect(asked.filter((a) => a.path.endsWith("/standing"))).toHaveLength(2));
  expect(asked.filter((a) => a.method === "GET" && a.path === "/api/builds/2")).toHaveLength(1);
  expect(asked.filter((a) => a.method === "GET" && a.path === "/api/garages/1")).toHaveLength(0);
});

test("a fix goes in, is named, and comes out again by undo", async () => {
  const { user, asked } = page();
  await screen.findByLabelText("Stock volts");
  await user.click(await findings().findByRole("button", { name: "30 A blade" }));
  expect((await screen.findAllByRole("status")).some((s) => s.textContent?.includes("30 A blade"))).toBe(true);
  await waitFor(
    () =>
      expect(asked.find((a) => a.method === "PUT")?.body).toMatchObject({
        document: { main_fuse: { rating_a: 30 } },
        label: "30 A blade",
      }),
    { timeout: 3000 },
  );
  await user.click(screen.getByRole("button", { name: "Undo" }));
  await waitFor(
    () => expect(asked.filter((a) => a.method === "PUT").at(-1)?.body.document).toEqual({ vehicle: { family: "quad" } }),
    { timeout: 3000 },
  );
});

test("a wrong value is told above the stage, which still shows what was before", async () => {
  const problems = [{ path: "/stock/volts_v", message: "This must be more than zero." }];
  const refuse = { status: 422, body: { code: "invalid", message: "This must be more than zero.", problems } };
  const { user } = page({
    "POST /api/evaluate": ({ body }) => ((body.setup as { stock?: unknown }).stock ? refuse : { body: evaluation }),
    "PUT /api/setups/7": () => refuse,
  });
  await screen.findAllByText("Weak link");
  await user.type(await screen.findByLabelText("Stock volts"), "0");
  await waitFor(() => expect(screen.getByText("What you see below is from before this change.")).toBeDefined());
  expect(screen.getAllByText("Weak link").length).toBeGreaterThan(0);
  await waitFor(() => expect(save()).toBe("invalid"), { timeout: 3000 });
});

test("changed elsewhere: both are offered, with the parts in which they differ", async () => {
  const theirs = madeUp({ vehicle: { family: "quad" }, rider: { name: "Bo" } });
  const saved = { ...rowOf({ version: 9, document: theirs }), joined: true };
  const { user } = page({
    "PUT /api/setups/7": ({ body }) =>
      (body.answers as Record<string, string>)[""] === "theirs"
        ? { body: saved }
        : { status: 409, body: { code: "conflict", message: "Changed.", theirs, version: 9, asked: [{ path: "" }] } },
  });
  await user.type(await screen.findByLabelText("Stock volts"), "24");
  const dialog = within(await screen.findByRole("dialog", { name: "Changed in two places" }, { timeout: 3000 }));
  expect(dialog.getByText("stock, rider")).toBeDefined();
  await user.click(dialog.getByRole("button", { name: "Take the other version" }));
  await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Stock volts").value).toBe(""));
  expect(screen.queryByRole("dialog")).toBeNull();
});

test("keys walk stages and stations", async () => {
  const { user } = page();
  await screen.findByLabelText("Stock volts");
  await waitFor(() => expect(screen.getAllByRole("navigation", { name: "The Trail" }).length).toBeGreaterThan(0));
  await user.keyboard("]");
  expect(address()).toMatch(/\/(power\/packs|protect\/leads)$/);
  await user.keyboard("6");
  await waitFor(() => expect(address()).toBe("/builds/2/setups/7/prove"));
  await user.keyboard("b");
  await waitFor(() => expect(address()).toBe("/builds/2/setups/6/prove"));
});

test("a build of somebody else is not found, a broken line says so", async () => {
  const { unmount } = page({ "GET /api/builds/2": () => ({ status: 404, body: { code: "not_found", message: "no" } }) });
  expect(await screen.findByRole("heading", { name: "This build is not in your garage" })).toBeDefined();
  unmount();
  const broken = page({ "GET /api/builds/2": () => ({ status: 500, body: {} }) });
  expect(await screen.findByRole("heading", { name: "The build cannot be opened just now" })).toBeDefined();
  broken.unmount();
  page({}, "/builds/none/setups/7/survey");
  expect(await screen.findByRole("heading", { name: "This build is not in your garage" })).toBeDefined();
});
