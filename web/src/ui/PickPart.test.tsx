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
