import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { SetupRow } from "../api/client";
import { type Answers, buildOf, rowOf, serve, show } from "../testing/render";
import { SetupMenu } from "./SetupMenu";

function page(answers: Answers = {}, row: SetupRow = rowOf()) {
  const asked = serve({ "GET /api/garages": () => ({ body: [{ id: 1, name: "Plum Yard" }] }), ...answers });
  return { asked, ...show(<SetupMenu build={buildOf()} row={row} stage="power" />, "/builds/2/setups/7/power") };
}
const open = (user: ReturnType<typeof page>["user"]) => user.click(screen.getByRole("button", { name: /Setups/ }));
const choose = async (user: ReturnType<typeof page>["user"], name: string | RegExp) => {
  await open(user);
  await user.click(await screen.findByRole("menuitem", { name }));
};
const address = () => screen.getByLabelText("address").textContent;

test("goes to another setup and stays at the stage", async () => {
  const { user } = page();
  await choose(user, /As found/);
  expect(address()).toBe("/builds/2/setups/6/power");
});

test("copies under a name of its own and opens the copy", async () => {
  const { user, asked } = page(
    { "POST /api/builds/2/setups": () => ({ body: rowOf({ id: 8 }) }) },
    rowOf({ document: { version: 1 } }),
  );
  await choose(user, "Copy this setup…");
  const field = await screen.findByLabelText<HTMLInputElement>("Name");
  expect(field.value).toBe("Two packs, changed");
  await user.clear(field);
  await user.type(field, "Three packs{Enter}");
  await waitFor(() => expect(address()).toBe("/builds/2/setups/8/power"));
  expect(asked.find((a) => a.method === "POST")?.body).toEqual({ name: "Three packs", document: { version: 1 } });
});

test("a name that is taken is told and can be mended", async () => {
  const { user } = page({
    "PATCH /api/setups/7": () => ({ status: 422, body: { code: "taken", message: "There is a setup of this name." } }),
  });
  await choose(user, "Rename…");
  await user.clear(await screen.findByLabelText("Name"));
  await user.type(screen.getByLabelText("Name"), "As found{Enter}");
  expect((await screen.findByRole("alert")).textContent).toBe("There is a setup of this name.");
  expect(screen.getByLabelText<HTMLInputElement>("Name").value).toBe("As found");
});

test("which one the machine is in, and which is the baseline", async () => {
  const { user, asked } = page({ "PATCH /api/setups/7": () => ({ body: rowOf() }) }, rowOf({ in_use: false }));
  await choose(user, "The machine is in it now");
  await choose(user, "Make it the baseline");
  await waitFor(() =>
    expect(asked.filter((a) => a.method === "PATCH").map((a) => a.body)).toEqual([{ in_use: true }, { is_baseline: true }]),
  );
});

test("the baseline is neither made so again nor deleted", async () => {
  const { user } = page({}, rowOf({ is_baseline: true }));
  await open(user);
  for (const name of ["Make it the baseline", "The machine is in it now", "Delete this setup…"])
    expect((await screen.findByRole("menuitem", { name })).getAttribute("aria-disabled")).toBe("true");
});

test("a setup with trials stays, and says so", async () => {
  const { user } = page({
    "DELETE /api/setups/7": () => ({ status: 409, body: { code: "in_use", message: "It has trials: keep it." } }),
  });
  await choose(user, "Delete this setup…");
  const dialog = within(await screen.findByRole("dialog", { name: "Delete “Two packs”?" }));
  await user.click(dialog.getByRole("button", { name: "Delete it" }));
  expect((await dialog.findByRole("alert")).textContent).toBe("It has trials: keep it.");
  expect(address()).toBe("/builds/2/setups/7/power");
});

test("a deleted setup leads to its build, a deleted build to the garage", async () => {
  const { user } = page({ "DELETE /api/setups/7": () => ({ status: 204 }), "DELETE /api/builds/2": () => ({ status: 204 }) });
  await choose(user, "Delete this setup…");
  await user.click(await screen.findByRole("button", { name: "Delete it" }));
  await waitFor(() => expect(address()).toBe("/builds/2"));
  await user.keyboard("{Escape}");
  await choose(user, "Delete the build…");
  await user.click(await screen.findByRole("button", { name: "Delete the build" }));
  await waitFor(() => expect(address()).toBe("/"));
});

test("the history lists every save, newest on top, and only old ones are brought back", async () => {
  const revisions = [
    { number: 3, created: "2026-05-02T10:00:00Z", label: "30 A blade" },
    { number: 2, created: "2026-05-01T10:00:00Z", label: "" },
  ];
  const { user } = page({ "GET /api/setups/7/revisions": () => ({ body: revisions }) });
  await choose(user, "History…");
  expect(await screen.findByText("30 A blade")).toBeDefined();
  expect(screen.getAllByRole("button", { name: "Bring back" }).length).toBe(1);
});

test("a build moves to another garage where there is one", async () => {
  const garages = [
    { id: 1, name: "Plum Yard" },
    { id: 4, name: "The club" },
  ];
  const { user, asked } = page({
    "GET /api/garages": () => ({ body: garages }),
    "POST /api/builds/2/move": () => ({ status: 403, body: { code: "viewer", message: "You may look at The club." } }),
  });
  await choose(user, "Move the build to another garage…");
  expect(screen.queryByRole("option", { name: "Plum Yard" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Move it" }));
  expect((await screen.findByRole("alert")).textContent).toBe("You may look at The club.");
  expect(asked.find((a) => a.method === "POST")?.body).toEqual({ garage: 4 });
});
