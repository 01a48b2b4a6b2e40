import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { show } from "../testing/render";
import { More } from "../ui/More";
import { usePages } from "./usePages";

const every = Array.from({ length: 7 }, (_, i) => 7 - i);
const asked: [number, number][] = [];

function List() {
  const list = usePages(
    ["numbers"],
    3,
    async (skip, limit) => {
      asked.push([skip, limit]);
      // The first page brings the oldest too, as what the others are compared with.
      return [...every.slice(skip, skip + limit), ...(skip === 0 ? [1] : [])];
    },
    (n) => n,
  );
  return (
    <>
      <p>{list.pages?.flat().join(" ") ?? "waiting"}</p>
      <More of={list} words="Show older" />
    </>
  );
}

test("pages follow one another until there is no more, and nothing comes twice", async () => {
  const { user } = show(<List />);
  await screen.findByText("7 6 5 1");
  await user.click(screen.getByRole("button", { name: "Show older" }));
  await screen.findByText("7 6 5 1 4 3 2");
  await user.click(screen.getByRole("button", { name: "Show older" }));
  await waitFor(() => expect(screen.queryByRole("button", { name: "Show older" })).toBeNull());
  expect(asked).toEqual([
    [0, 3],
    [3, 3],
    [6, 3],
  ]);
});
