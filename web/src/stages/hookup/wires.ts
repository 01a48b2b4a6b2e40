/** How a wire is painted: its colour by the letters of IEC 60757, side by side in a cable, along a way of right angles. */

/** Light enough and dark enough for either paper; a line in ink runs around each of them. */
const PAINT: Record<string, string> = {
  BK: "var(--w-black)",
  BN: "#80502c",
  RD: "var(--w-red)",
  OG: "#ee8a1d",
  YE: "#f5cf1b",
  GN: "#2f9444",
  BU: "#2f6fd6",
  VT: "#8347ad",
  GY: "#949a9e",
  WH: "#ffffff",
  PK: "#f4a6bd",
  GD: "#b7953a",
  TQ: "#1fa8a6",
  SR: "#c9ced2",
};
export const paintOf = (code: string | undefined) => (code ? PAINT[code] : undefined);

export type Point = [number, number];

/** The same way so far to the side; every corner is a right angle or none. */
export function beside(points: Point[], by: number): Point[] {
  const sides = points.slice(1).map(([x, y], i): Point => {
    const [px, py] = points[i] as Point;
    return [Math.sign(py - y), Math.sign(x - px)];
  });
  return points.map(([x, y], i) => {
    const before = sides[i - 1] ?? sides[i] ?? [0, 0];
    const after = sides[i] ?? before;
    const straight = before[0] === after[0] && before[1] === after[1];
    return [x + by * (straight ? after[0] : before[0] + after[0]), y + by * (straight ? after[1] : before[1] + after[1])];
  });
}

/** The two halves of a way, cut where half its length is. */
export function halves(points: Point[]): [Point[], Point[]] {
  const lengths = points.slice(1).map(([x, y], i) => {
    const [px, py] = points[i] as Point;
    return Math.abs(x - px) + Math.abs(y - py);
  });
  let left = lengths.reduce((sum, one) => sum + one, 0) / 2;
  const at = Math.max(
    lengths.findIndex((one) => {
      if (left <= one) return true;
      left -= one;
      return false;
    }),
    0,
  );
  const [x, y] = points[at] as Point;
  const [nx, ny] = points[at + 1] ?? [x, y];
  const middle: Point = [x + Math.sign(nx - x) * left, y + Math.sign(ny - y) * left];
  return [
    [...points.slice(0, at + 1), middle],
    [middle, ...points.slice(at + 1)],
  ];
}

export const path = (points: Point[]) => points.map(([x, y], i) => `${i ? "L" : "M"}${x} ${y}`).join("");
