import { screen, waitFor, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { rackPartOf, serve, show } from "../../testing/render";
import { Instead } from "./Instead";

const tried = {
  name: "Box B",
  setup: { marker: "with B" },
  lost: ["gauge", "soft start"],
  gained: ["a pre-charge path"],
  changes: [
    { field: "battery_limit_a", what: "Most amps it draws from the bank", before: 22, after: 30, unit: "A" },
    { field: "throttle", what: "Kind of throttle it reads", before: "hall", after: null, unit: "" },
  ],
  stops: ["The controller will not switch on"],
  cleared: ["Fuse too small"],
  fits: false,
  top_speed_m_s: 4.4704,
  run_time_s: 1800,
};

test("candidates stand side by side with what is lost, what changes and what the checks say", async () => {
  const box = rackPartOf({
    id: 9,
    key: "k9",
    kind: "controllers",
    letter: "B",
    label: "Box",
    document: { kind: "brushed" } as never,
  });
  const asked = serve({
    "GET /api/garages": () => ({ body: [{ id: 1, name: "Shed", units: {}, house_rules: {} }] }),
    "GET /api/garages/1/rack": () => ({ body: [box] }),
    "GET /api/parts": () => ({
      body: { controllers: [{ id: "c1", label: "24 V controller", group: "Brushed", part: { kind: "brushed" } }] },
    }),
    "POST /api/instead": () => ({ body: { top_speed_m_s: 4, run_time_s: 1700, candidates: [tried] } }),
  });
  const taken = vi.fn();
  const of = { doc: { controller: { kind: "brushed" } }, buildId: 2, isBaseline: false };
  const { user } = show(<Instead of={of} onTake={taken} />);
  expect(await screen.findByText(/Nothing is exchanged until you take one/)).toBeDefined();
  await screen.findByRole("option", { name: "Box B" });
  await user.selectOptions(screen.getByLabelText("Compare it with"), "Box B");
  const column = within((await screen.findByText("Box B", { selector: "b" })).closest("li") as HTMLElement);
  expect(column.getByText("does not fit as it is")).toBeDefined();
  expect(column.getByText("The controller will not switch on")).toBeDefined();
  expect(column.getByText("gauge, soft start")).toBeDefined();
  expect(column.getByText("10.0 mph, 30 min")).toBeDefined();
  expect(column.getByText("Most amps it draws from the bank").parentElement?.textContent).toContain("22 A → 30 A");
  expect(column.getByText("Kind of throttle it reads").parentElement?.textContent).toContain("hall → not said");
  const sent = asked.find((one) => one.path === "/api/instead")?.body;
  expect(sent).toMatchObject({ slot: "controller", build_id: 2, candidates: [{ name: "Box B", part: { kind: "brushed" } }] });
  await user.click(column.getByRole("button", { name: "Take this one" }));
  await waitFor(() => expect(taken).toHaveBeenCalledWith({ marker: "with B" }, "Box B"));
  await user.selectOptions(screen.getByLabelText("Instead of the"), "throttle");
  expect(screen.getByText(/There is none in this setup yet/)).toBeDefined();
  expect(screen.getByRole("option", { name: "Nothing to choose: put one on the rack" })).toBeDefined();
});
