import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, test, vi } from "vitest";
import type { RackPart } from "../api/client";
import { PickPart } from "./PickPart";

const part = (id: string, group: string) => ({ id, label: `pack ${id}`, group, part: { cells_in_series: 5 } });

test("parts of several groups stand under the words of each", async () => {
  const picked = vi.fn();
  render(
    <PickPart
      label="Pack"
      parts={[part("a", "Tool packs"), part("b", "Tool packs"), part("c", "Lead blocks")]}
      onPick={picked}
    />,
  );
  const tools = screen.getByRole("group", { name: "Tool packs" });
  expect(within(tools).getAllByRole("option")).toHaveLength(2);
  await userEvent.selectOptions(screen.getByLabelText("Pack"), "pack c");
  expect(picked).toHaveBeenCalledWith({ cells_in_series: 5 }, expect.objectContaining({ id: "c" }));
});

test("a single group needs no words", () => {
  render(<PickPart label="Plug" parts={[part("a", "Plugs"), part("b", "Plugs")]} onPick={vi.fn()} />);
  expect(screen.queryByRole("group")).toBeNull();
  expect(screen.getAllByRole("option")).toHaveLength(3);
});

test("a part that is out of every plan says why, and cannot be taken", () => {
  const hurt = { ...part("d", "Yours"), own: { out: { title: "got wet", because: "", do: "", clears: "" } } as RackPart };
  render(<PickPart label="Pack" parts={[hurt, part("a", "Tool packs")]} onPick={vi.fn()} />);
  expect(screen.getByRole<HTMLOptionElement>("option", { name: "pack d got wet: out of plans" }).disabled).toBe(true);
});

test("a part that is not here yet, or cannot be had again, says so beside its name", () => {
  const own = (id: string, about: RackPart["about"]) => ({ ...part(id, "Yours"), own: { about } as RackPart });
  const parts = [own("d", { status: "ordered", had: "discontinued" }), own("e", { status: "on hand", had: "available" })];
  render(<PickPart label="Pack" parts={parts} onPick={vi.fn()} />);
  expect(screen.getByRole<HTMLOptionElement>("option", { name: "pack d (ordered, no longer made)" }).disabled).toBe(false);
  expect(screen.getByRole("option", { name: "pack e" })).toBeDefined();
});

test("among thousands a part is found by words of its name, by keys alone", async () => {
  const picked = vi.fn();
  const mine = Array.from({ length: 2000 }, (_, i) => ({ ...part(String(i), "Yours"), label: `garden pack no ${i}` }));
  render(<PickPart label="Pack" parts={[...mine, part("a", "Tool packs")]} value="1500" onPick={picked} />);
  // The list holds the first ones and the one that is there, and says that there are more.
  const yours = within(screen.getByRole("group", { name: "Yours" })).getAllByRole("option");
  expect(yours).toHaveLength(62);
  expect(yours.at(-1)?.textContent).toBe("1939 more: find them by name");
  expect(screen.getByLabelText<HTMLSelectElement>("Pack").value).toBe("1500");
  const user = userEvent.setup();
  await user.click(screen.getByRole("button", { name: "Find…", description: "Pack" }));
  await user.type(screen.getByRole("combobox", { name: "Pack: find by name" }), "1234 garden");
  await user.keyboard("{Enter}");
  expect(picked).toHaveBeenCalledWith({ cells_in_series: 5 }, expect.objectContaining({ id: "1234" }));
  expect(screen.queryByRole("dialog")).toBeNull();
});

test("a search that finds nothing says so, and too much asks for another word", async () => {
  const many = Array.from({ length: 70 }, (_, i) => part(String(i), "Tool packs"));
  render(<PickPart label="Pack" parts={many} onPick={vi.fn()} />);
  const user = userEvent.setup();
  await user.click(screen.getByRole("button", { name: "Find…", description: "Pack" }));
  expect(screen.getByText("And 20 more: type another word.")).toBeDefined();
  await user.type(screen.getByRole("combobox", { name: "Pack: find by name" }), "motor");
  expect(screen.getByText("No part has all of these in its name.")).toBeDefined();
});
