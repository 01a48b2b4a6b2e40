import { screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { expect, test } from "vitest";
import { type Answers, buildOf, rowOf, serve, show } from "../testing/render";
import { IMPERIAL, METRIC } from "../texts/units";
import { Compare, difference } from "./Compare";

const cell = (value: number | null, first: number) => ({
  value,
  low: value == null ? null : value * 0.9,
  high: value == null ? null : value * 1.1,
  against_first: value == null ? null : value - first,
});
const FOUND = {
  setups: [
    { name: "As found", stops: 0, cautions: 1, titles: [], weak_link: null, shares: { packs: 0.5 }, held_back: "Volts hold." },
    { name: "Two packs", stops: 1, cautions: 0, titles: ["Too fast"], weak_link: null, shares: { packs: 1.1 }, held_back: "" },
  ],
  outcomes: [
    {
      id: "top_speed_m_s",
      label: "Top speed",
      kind: "speed",
      differs: true,
      cells: [cell(4.4704, 4.4704), cell(6.7056, 4.4704)],
    },
    { id: "hill_grade", label: "Steepest hill", kind: "grade", differs: false, cells: [cell(0.1, 0.1), cell(0.1, 0.1)] },
    { id: "tip_m_s", label: "Tips", kind: "speed", differs: true, cells: [cell(3, 3), cell(null, 3)] },
  ],
  changes: [
    { path: "/motor/power_w", label: "Motor: power", differs: true, values: ["280 W", "350 W"] },
    { path: "/wheel/tyre", label: "Wheel: tyre", differs: false, values: ["solid", "solid"] },
  ],
  alike: 2,
  shared_limit: "",
  stations: { packs: "Packs" },
};

function page(build = buildOf(), more: Answers = {}) {
  const asked = serve({
    "GET /api/builds/2": () => ({ body: build }),
    "GET /api/garages": () => ({ body: [] }),
    "POST /api/compare": () => ({ body: FOUND }),
    "GET /api/builds/2/costs": () => ({ body: [] }),
    ...more,
  });
  const node = (
    <Routes>
      <Route path="/builds/:buildId/compare" element={<Compare />} />
    </Routes>
  );
  return { asked, ...show(node, "/builds/2/compare") };
}

test("the baseline and the setup in use are compared first, only what differs is shown", async () => {
  const { asked, user } = page();
  const top = await screen.findByRole("row", { name: /Top speed/ });
  expect(within(top).getByText("15.0 mph")).toBeDefined();
  expect(within(top).getByText("+5.0")).toBeDefined();
  expect(asked.find((a) => a.path === "/api/compare")?.body.setup_ids).toEqual([6, 7]);
  expect(screen.queryByText("Steepest hill")).toBeNull();
  expect(screen.getByText("Too fast")).toBeDefined();
  expect(within(screen.getByRole("row", { name: /Tips/ })).getByText("–")).toBeDefined();
  await user.click(screen.getByRole("checkbox", { name: /show the 2 that are the same/ }));
  expect(within(screen.getByRole("row", { name: /Steepest hill/ })).getAllByText("10 %")).toHaveLength(2);
  expect(screen.getByRole("row", { name: /Wheel: tyre/ })).toBeDefined();
});

test("one setup alone says what to do", async () => {
  page(buildOf({ setups: [rowOf({ is_baseline: true })] }));
  expect(await screen.findByText(/This build has one setup/)).toBeDefined();
});

test("setups are chosen and left out", async () => {
  const { user } = page();
  await screen.findByRole("row", { name: /Top speed/ });
  await user.click(within(screen.getByRole("group", { name: "Which setups" })).getByRole("button", { name: /Two packs/ }));
  expect(await screen.findByText("Choose one more.")).toBeDefined();
});

test("differences in their own unit", () => {
  expect(difference("speed", -4.4704, IMPERIAL)).toBe("−10.0");
  expect(difference("temp", 10, IMPERIAL)).toBe("+18");
  expect(difference("temp", 10, METRIC)).toBe("+10");
  expect(difference("grade", 0.031, METRIC)).toBe("+3");
  expect(difference("wh_per_km", -7.15, IMPERIAL)).toBe("−11.5");
  expect(difference("wh_per_km", -7.15, METRIC)).toMatch(/^−7.[12]$/);
  expect(difference("time", -600, METRIC)).toBe("−10 min");
  expect(difference("plain", 0.0001, METRIC)).toBe("same");
  expect(difference("length", 1500, METRIC)).toBe("+1.5 km");
});

test("what each setup costs stands beside a new machine, with what one owns as nothing or at its price", async () => {
  const cost = (low: number, high: number | null, unpriced = 0) => ({ currency: "EUR", low, high, unpriced, planned: 0 });
  const { asked, user } = page(buildOf(), {
    "GET /api/builds/2/costs": () => ({
      body: [
        { setup: 6, to_buy: cost(0, 0), whole: cost(62, 62) },
        { setup: 7, to_buy: cost(84.4, null, 2), whole: cost(208, 290) },
      ],
    }),
    "PATCH /api/builds/2": () => ({ body: buildOf() }),
  });
  const costs = within(await screen.findByRole("region", { name: "What it costs" }));
  expect(await costs.findByText("€84 or more")).toBeDefined();
  expect(costs.getByText("2 kinds of parts have no price")).toBeDefined();
  await user.click(costs.getByRole("button", { name: "what I own: at its price" }));
  expect(costs.getByText("€208 to €290")).toBeDefined();
  expect(costs.getByText("€62")).toBeDefined();
  const price = costs.getByLabelText("A new machine of this kind");
  await user.type(price, "much");
  expect(costs.getByRole("alert").textContent).toContain("Enter an amount");
  await user.clear(price);
  await user.type(price, "349{Enter}");
  await waitFor(() =>
    expect(asked.find((a) => a.method === "PATCH")?.body).toEqual({ new_price: { amount: 349, currency: "USD", where: "" } }),
  );
});
