import { screen, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { draftOf, show } from "../testing/render";
import { IMPERIAL, METRIC } from "../texts/units";
import { Clashes, placeWords, valueWords } from "./Clashes";

test("a path and what stands there, as one reads them", () => {
  expect(placeWords("/bank/rows/0/units/1/capacity_ah")).toBe("bank, rows 1, units 2, capacity");
  expect(placeWords("/main_fuse/rating_a")).toBe("main fuse, rating");
  const figure = { value: 0.5, basis: "measured" };
  expect(valueWords(figure, "/main_lead/length_m", METRIC)).toBe("50 cm, measured");
  expect(valueWords({ value: 4, basis: "nameplate" }, "/bank/rows/0/units/0/capacity_ah", IMPERIAL)).toBe("4 Ah, nameplate");
  expect(valueWords(25, "/main_fuse/rating_a", IMPERIAL)).toBe("25 A");
  expect(valueWords(8.9408, "/rider/cap_m_s", IMPERIAL)).toBe("20.0 mph");
  expect(
    [null, true, "worn", { label: "horn" }, { answer: "yes" }, [], ["a", "b"], {}].map((v) => valueWords(v, "/x", IMPERIAL)),
  ).toEqual(["nothing", "yes", "worn", "horn", "yes", "nothing", "a; b", "as entered there"]);
});

test("each field is chosen by itself, and nothing is saved before all are", async () => {
  const settle = vi.fn();
  const asked = [
    { path: "/main_fuse/rating_a", mine: 20, theirs: 25 },
    { path: "/cut_off", mine: null, theirs: { kind: "switch" } },
  ];
  const { user } = show(
    <Clashes draft={draftOf({}, { save: { kind: "conflict", theirs: {}, version: 9, asked, why: "" }, settle })} />,
  );
  const fuse = within(screen.getByRole("group", { name: "main fuse, rating" }));
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "2 still to choose" }).disabled).toBe(true);
  await user.click(fuse.getByRole("radio", { name: /^Theirs ?25 A/ }));
  await user.click(within(screen.getByRole("group", { name: "cut off" })).getByRole("radio", { name: /^Mine ?nothing/ }));
  await user.click(screen.getByRole("button", { name: "Save it so" }));
  expect(settle).toHaveBeenCalledWith({ "/main_fuse/rating_a": "theirs", "/cut_off": "mine" });
  await user.click(screen.getByRole("button", { name: "Mine everywhere" }));
  await user.click(screen.getByRole("button", { name: "Save it so" }));
  expect(settle).toHaveBeenLastCalledWith({ "/main_fuse/rating_a": "mine", "/cut_off": "mine" });
});

test("where nothing can be joined, one of the two is taken", async () => {
  const settle = vi.fn();
  const save = {
    kind: "conflict",
    theirs: { rider: 1 },
    version: 9,
    asked: [{ path: "", mine: null, theirs: null }],
    why: "Too many.",
  } as const;
  const { user } = show(<Clashes draft={draftOf({ rider: 2 }, { save: { ...save, asked: [...save.asked] }, settle })} />);
  expect(screen.getByText("Too many.")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Keep what I have here" }));
  expect(settle).toHaveBeenCalledWith({ "": "mine" });
});
