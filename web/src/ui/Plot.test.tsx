import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { show } from "../testing/render";
import { Plot } from "./Plot";

const base = {
  title: "Volts against amps",
  xLabel: "amps",
  yLabel: "volts",
  x: [0, 40] as [number, number],
  y: [30, 42] as [number, number],
};
const drawing = () => screen.getByRole("img", { name: base.title });
/** Points of a path of straight lines. */
const points = (d: string | null) =>
  [...(d ?? "").matchAll(/[ML]?(-?[\d.]+),(-?[\d.]+)/g)].map((m) => [Number(m[1]), Number(m[2])]);
const lines = () => [...drawing().querySelectorAll("path[fill=none][stroke-width='2']")].map((p) => points(p.getAttribute("d")));

test("says its title to those who do not see it, and both axes to those who do", () => {
  show(<Plot {...base} />);
  expect(within(drawing()).getByText("amps")).toBeDefined();
  expect(within(drawing()).getByText("volts")).toBeDefined();
});

test("ticks lie inside the axes, evenly", () => {
  show(<Plot {...base} />);
  const words = [...drawing().querySelectorAll("text")].map((t) => t.textContent);
  for (const tick of ["0", "10", "20", "30", "40", "32", "34", "36", "38", "42"]) expect(words).toContain(tick);
});

test("a line runs from corner to corner, up where the values rise", () => {
  show(<Plot {...base} lines={[{ x: [0, 40], y: [30, 42] }]} />);
  const [[from, to]] = lines() as [[[number, number], [number, number]]];
  expect(to[0]).toBeGreaterThan(from[0]);
  expect(to[1]).toBeLessThan(from[1]);
});

test("what lies outside is drawn at the edge, not beyond it", () => {
  show(<Plot {...base} lines={[{ x: [-50, 500], y: [0, 99] }]} />);
  for (const [x, y] of lines()[0] ?? []) {
    expect(x).toBeGreaterThanOrEqual(0);
    expect(x).toBeLessThanOrEqual(360);
    expect(y).toBeGreaterThanOrEqual(0);
    expect(y).toBeLessThanOrEqual(220);
  }
});

test("logarithmic axes put equal factors at equal distances", () => {
  show(<Plot {...base} log x={[1, 1000]} y={[0.01, 10]} lines={[{ x: [1, 10, 100, 1000], y: [0.01, 0.1, 1, 10] }]} />);
  const [line] = lines();
  const steps = (line ?? []).slice(1).map(([x], i) => Number(x) - Number(line?.[i]?.[0]));
  for (const step of steps) expect(step).toBeCloseTo(steps[0] ?? 0, 1);
  expect(within(drawing()).getByText("100")).toBeDefined();
});

test("an axis may run backwards, as charge that is left does", () => {
  show(<Plot {...base} x={[100, 0]} lines={[{ x: [100, 0], y: [42, 30] }]} />);
  const [[from, to]] = lines() as [[[number, number], [number, number]]];
  expect(to[0]).toBeGreaterThan(from[0]);
  expect(to[1]).toBeGreaterThan(from[1]);
});

test("measured points carry their number and the bar of their interval", () => {
  show(<Plot {...base} marks={[{ x: 20, y: 36, text: "36.0", half: 1 }]} words={[{ x: 5, y: 40, text: "half charged" }]} />);
  expect(within(drawing()).getByText("36.0")).toBeDefined();
  expect(within(drawing()).getByText("half charged")).toBeDefined();
  expect(drawing().querySelectorAll("circle").length).toBe(1);
});

test("large numbers are short, and a plot may say its own", () => {
  const { again } = show(<Plot {...base} x={[0, 4000]} />);
  expect(within(drawing()).getByText("2k")).toBeDefined();
  again(<Plot {...base} format={(v) => `${v} V`} />);
  expect(within(drawing()).getByText("34 V")).toBeDefined();
});
