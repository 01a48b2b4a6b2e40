import { expect, test } from "vitest";
import { indexAt, valueAt } from "./Scrubbed";

test("the point before a place, also at both ends", () => {
  const x = [0, 1, 1, 4];
  expect([-1, 0, 0.5, 1, 3.9, 4, 9].map((place) => indexAt(x, place))).toEqual([0, 0, 0, 2, 2, 3, 3]);
});

test("a line between its points; at a jump the later value", () => {
  const [x, y] = [
    [0, 2, 2, 4],
    [0, 10, 20, 40],
  ];
  expect([0, 1, 2, 3, 4, 9].map((place) => valueAt(x, y, place))).toEqual([0, 5, 20, 30, 40, 40]);
});
