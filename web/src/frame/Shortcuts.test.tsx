import { screen, waitFor, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { type Answers, serve, show } from "../testing/render";
import { Shortcuts } from "./Shortcuts";

const index: Answers = {
  "GET /api/garages": () => ({ body: [{ id: 1, name: "Shed", units: {}, house_rules: {} }] }),
  "GET /api/garages/1/index": () => ({
    body: {
      builds: [
        { id: 2, name: "Puddle Hopper", setups: [{ id: 7, name: "Two packs" }] },
        { id: 3, name: "Thorn", setups: [{ id: 9, name: "Twelve cells" }] },
      ],
      rack: [{ id: 4, name: "5-cell tool pack, 5 Ah" }],
    },
  }),
};

function page() {
  serve(index);
  const actions = { "1": vi.fn(), u: vi.fn(), U: vi.fn() };
  const items = [{ label: "Two packs", kind: "setup", to: "/builds/2/setups/7/power" }];
  return {
    actions,
    ...show(
      <Shortcuts actions={actions} items={items}>
        <input aria-label="field" />
        <p>bench</p>
      </Shortcuts>,
    ),
  };
}
const finder = async (user: ReturnType<typeof page>["user"]) => {
  await user.keyboard("/");
  return screen.findByRole("combobox");
};
const options = () => screen.queryAllByRole("option").map((o) => o.textContent);
const address = () => screen.getByLabelText("address").textContent;

test("a key does its work, a capital another", async () => {
  const { user, actions } = page();
  await user.keyboard("1uU");
  expect([actions["1"], actions.u, actions.U].map((a) => a.mock.calls.length)).toEqual([1, 1, 1]);
});

test("keys rest while a field has the focus, and with Ctrl", async () => {
  const { user, actions } = page();
  await user.type(screen.getByLabelText("field"), "1u/?");
  screen.getByLabelText("field").blur();
  await user.keyboard("{Control>}u{/Control}");
  expect(actions.u).not.toHaveBeenCalled();
  expect(actions["1"]).not.toHaveBeenCalled();
  expect(screen.queryByRole("dialog")).toBeNull();
});

test("the list of keys opens, and turns them off for good", async () => {
  const { user, actions, unmount } = page();
  await user.keyboard("?");
  const dialog = within(await screen.findByRole("dialog", { name: "Keys" }));
  expect(dialog.getByText("first finding")).toBeDefined();
  await user.click(dialog.getByRole("checkbox"));
  await user.keyboard("{Escape}u");
  expect(actions.u).not.toHaveBeenCalled();
  unmount();
  const again = page();
  await again.user.keyboard("u");
  expect(again.actions.u).not.toHaveBeenCalled();
});

test("the finder knows builds, setups of all of them, and the rack", async () => {
  const { user } = page();
  const field = await finder(user);
  await user.type(field, "tw");
  await waitFor(() => expect(options()).toEqual(["Two packs setup", "Twelve cells setup of Thorn"]));
  await user.clear(field);
  await user.type(field, "rack");
  expect(options()).toEqual(["5-cell tool pack, 5 Ah on the rack"]);
});

test("arrows and Enter go there", async () => {
  const { user } = page();
  const field = await finder(user);
  await user.type(field, "t");
  await waitFor(() => expect(options().length).toBeGreaterThan(2));
  const before = field.getAttribute("aria-activedescendant");
  await user.keyboard("{ArrowDown}{ArrowDown}{ArrowUp}");
  expect(field.getAttribute("aria-activedescendant")).not.toBe(before);
  await user.clear(field);
  await user.type(field, "twelve{Enter}");
  expect(address()).toBe("/builds/3/setups/9/power");
  expect(screen.queryByRole("dialog")).toBeNull();
});

test("the mouse goes there too", async () => {
  const { user } = page();
  await finder(user);
  await user.click(await screen.findByRole("option", { name: /Thorn build/ }));
  expect(address()).toBe("/builds/3");
});

test("what keys do is found by its name", async () => {
  const { user, actions } = page();
  const field = await finder(user);
  await user.type(field, "redo");
  expect(options()).toEqual(["Redo key Shift + u"]);
  await user.keyboard("{Enter}");
  expect(actions.U).toHaveBeenCalledOnce();
  expect(screen.queryByRole("dialog")).toBeNull();
});

test("nothing of that name says so, and Enter stays", async () => {
  const { user } = page();
  const field = await finder(user);
  await user.type(field, "submarine{ArrowDown}{Enter}");
  expect(screen.getByText("Nothing of that name.")).toBeDefined();
  expect(address()).toBe("/");
});
