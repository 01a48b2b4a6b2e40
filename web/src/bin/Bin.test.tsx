import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { serve, show } from "../testing/render";
import { BinList } from "./BinList";
import { UndoProvider, useBinned } from "./Undo";

function Bins() {
  const binned = useBinned();
  return (
    <button type="button" onClick={() => binned({ garage: 1, kind: "trial", id: 5, name: "The trial of Sunday" })}>
      Delete
    </button>
  );
}

test("what was deleted can be brought back at once", async () => {
  const asked = serve({ "POST /api/garages/1/bin/trial/5/back": () => ({ status: 204 }) });
  const { user } = show(
    <UndoProvider>
      <Bins />
    </UndoProvider>,
  );
  expect(screen.queryByText(/in the bin/)).toBeNull();
  await user.click(screen.getByRole("button", { name: "Delete" }));
  expect(screen.getByText(/in the bin for 30 days/).textContent).toContain("The trial of Sunday");
  await user.click(screen.getByRole("button", { name: "Bring it back" }));
  await waitFor(() => expect(screen.queryByText(/in the bin/)).toBeNull());
  expect(asked.map((one) => `${one.method} ${one.path}`)).toEqual(["POST /api/garages/1/bin/trial/5/back"]);
});

test("why it does not come back is said, and stays in view", async () => {
  serve({
    "POST /api/garages/1/bin/trial/5/back": () => ({
      status: 409,
      body: { code: "in_bin", message: "Bring the setup back first." },
    }),
  });
  const { user } = show(
    <UndoProvider>
      <Bins />
    </UndoProvider>,
  );
  await user.click(screen.getByRole("button", { name: "Delete" }));
  await user.click(screen.getByRole("button", { name: "Bring it back" }));
  expect((await screen.findByRole("alert")).textContent).toBe("Bring the setup back first.");
});

test("the bin is read when it is opened, and says what, whose and until when", async () => {
  let there = [
    {
      kind: "setup",
      id: 7,
      name: "Two packs",
      within: "Clover",
      binned: "2026-03-01T10:00:00Z",
      by: "ada",
      until: "2026-03-31T10:00:00Z",
    },
    { kind: "rider", id: 7, name: "Bo", within: "", binned: "2026-03-01T09:00:00Z", by: "", until: "2026-03-31T09:00:00Z" },
  ];
  const asked = serve({
    "GET /api/garages/1/bin": () => ({ body: there }),
    "POST /api/garages/1/bin/setup/7/back": () => {
      there = there.slice(1);
      return { status: 204 };
    },
    "DELETE /api/garages/1/bin/rider/7": () => {
      there = [];
      return { status: 204 };
    },
  });
  const { user } = show(<BinList garageId={1} />);
  expect(asked).toEqual([]);
  await user.click(screen.getByText("Bin"));
  expect(await screen.findByText(/setup of Clover, by ada, until 31 Mar 2026/)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Bring Two packs back" }));
  await waitFor(() => expect(screen.queryByText("Two packs")).toBeNull());
  await user.click(screen.getByRole("button", { name: "Delete Bo for good" }));
  expect(await screen.findByText("Empty.")).toBeDefined();
});
