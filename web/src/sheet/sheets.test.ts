import { describe, expect, test } from "vitest";
import { cut, roomOn } from "./sheets";

describe("a drawing over several sheets", () => {
  test("room on a sheet, by hand: 10 mm around, 9 mm for its name", () => {
    expect(roomOn("A4", false)).toEqual([190, 268]);
    expect(roomOn("Letter", true)[0]).toBeCloseTo(259.4);
    expect(roomOn("Letter", true)[1]).toBeCloseTo(186.9);
  });
  test("every point of the drawing is on a sheet, and neighbours share 8 mm", () => {
    const drawing = { width: 1400, height: 1900 };
    const found = cut(drawing, "A4", false, 2);
    // (2·190 − 8)/1400 = 0.2657 mm a unit: 504.9 mm high, two sheets of 268 less what they share.
    expect([found.columns, found.rows, found.sheets.length]).toEqual([2, 2, 4]);
    const scale = 372 / 1400;
    expect(found.sheets[1]?.x).toBeCloseTo(182 / scale);
    expect((found.sheets[0]?.w ?? 0) - (found.sheets[1]?.x ?? 0)).toBeCloseTo(8 / scale);
    const last = found.sheets.at(-1);
    expect((last?.x ?? 0) + (last?.w ?? 0)).toBeGreaterThanOrEqual(drawing.width - 1e-6);
    expect((last?.y ?? 0) + (last?.h ?? 0)).toBeGreaterThanOrEqual(drawing.height - 1e-6);
  });
  test("a small drawing takes one sheet and is not blown up", () => {
    const found = cut({ width: 300, height: 400 }, "A4", false, 1);
    expect(found.sheets.length).toBe(1);
    expect(found.sheets[0]?.w).toBeCloseTo(190 / 0.4);
  });
  test("as few sheets as leave the words readable, 0.2 mm a unit at least", () => {
    const of = (width: number, height: number) => {
      const found = cut({ width, height }, "A4", false);
      return [found.columns, found.rows];
    };
    // 600 by 1300: one sheet at 268/1300 = 0.206. A little higher no longer; 950 is the widest for 190 mm.
    expect(of(600, 1300)).toEqual([1, 1]);
    expect(of(600, 1345)).toEqual([1, 2]);
    expect(of(960, 1000)).toEqual([2, 1]);
    // 3000 units are 600 mm: four of 190, each sharing 8.
    expect(of(3000, 3000)).toEqual([4, 3]);
  });
});
