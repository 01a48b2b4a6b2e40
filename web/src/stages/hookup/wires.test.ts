import { describe, expect, test } from "vitest";
import { beside, halves, type Point, paintOf } from "./wires";

describe("ways of wires", () => {
  const corner: Point[] = [
    [0, 0],
    [0, 10],
    [20, 10],
  ];
  test("a wire beside another keeps its distance around the corner", () => {
    // Down, then to the right: two to the left of the way down are two below the way to the right.
    expect(beside(corner, 2)).toEqual([
      [-2, 0],
      [-2, 12],
      [20, 12],
    ]);
    expect(
      beside(
        [
          [0, 0],
          [0, 5],
          [0, 9],
        ],
        1,
      ),
    ).toEqual([
      [-1, 0],
      [-1, 5],
      [-1, 9],
    ]);
  });
  test("cut where half the length is: 15 of 30, five along the second leg", () => {
    expect(halves(corner)).toEqual([
      [
        [0, 0],
        [0, 10],
        [5, 10],
      ],
      [
        [5, 10],
        [20, 10],
      ],
    ]);
  });
  test("a colour nobody knows has no paint", () => {
    expect(paintOf("RD")).toContain("red");
    expect(paintOf("XX")).toBeUndefined();
    expect(paintOf(undefined)).toBeUndefined();
  });
});
