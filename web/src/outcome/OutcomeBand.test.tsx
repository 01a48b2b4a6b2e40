import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Evaluation, Outcome, Ranges } from "../api/client";
import { show } from "../testing/render";
import { OutcomeBand } from "./OutcomeBand";

const outcome = {
  top_speed_m_s: 4.4704,
  run_time_s: 1830,
  hill_grade: 0.217,
  peak_a: 27.6,
  lowest_v: 21.34,
  motor_20min_c: 61.2,
  bases: { top_speed_m_s: "nameplate", run_time_s: "measured" },
} as unknown as Outcome;

const evaluation = (more: Partial<Evaluation> = {}) =>
  ({
    gaps: [],
    findings: [],
    trail: [],
    outcome,
    baseline: {
      top_speed_m_s: 3.12928,
      run_time_s: 2400,
      hill_grade: 0.1,
      peak_a: 18,
      lowest_v: 10.2,
      motor_20min_c: 48,
      stop_m: 3,
    },
    held_back: { station: null, limit: "battery", title: "Controller amps", sentence: "Goes [[4.4704|speed]].", state: "close" },
    ...more,
  }) as unknown as Evaluation;

const ranges = {
  outcomes: { top_speed_m_s: { low: 4.02336, median: 4.4, high: 4.91744 }, run_time_s: { low: 1500, median: 1800, high: 2160 } },
} as unknown as Ranges;
const cell = (name: string) => within(document.querySelector(`[data-outcome="${name}"]`) as HTMLElement);

test("each number with its unit, its likely range and the machine as found", () => {
  show(<OutcomeBand evaluation={evaluation()} ranges={ranges} />);
  expect(cell("top_speed_m_s").getByText("10.0")).toBeDefined();
  expect(cell("top_speed_m_s").getByText("likely 9.0–11.0")).toBeDefined();
  expect(cell("top_speed_m_s").getByText("As found 7.0")).toBeDefined();
  expect(cell("top_speed_m_s").getByText("+3.0")).toBeDefined();
  expect(cell("run_time_s").getByText("31")).toBeDefined();
  expect(cell("run_time_s").getByText("likely 25–36")).toBeDefined();
  expect(cell("hill_grade").getByText("22")).toBeDefined();
  expect(cell("peak_a").getByText("28")).toBeDefined();
  expect(cell("lowest_v").getByText("21.3")).toBeDefined();
  expect(cell("motor_20min_c").getByText("142")).toBeDefined();
});

test("how sure a number is shows beside it", () => {
  show(<OutcomeBand evaluation={evaluation()} ranges={ranges} />);
  expect(cell("top_speed_m_s").getByRole("img", { name: "nameplate" })).toBeDefined();
  expect(cell("run_time_s").getByRole("img", { name: "measured" })).toBeDefined();
  expect(cell("hill_grade").getByRole("img", { name: "assumed" })).toBeDefined();
});

test("what holds it back is said with a mark and in the reader's units", () => {
  show(<OutcomeBand evaluation={evaluation()} ranges={undefined} />);
  expect(screen.getByText("Controller amps")).toBeDefined();
  expect(screen.getByText("Goes 10.0 mph.")).toBeDefined();
  expect(screen.getByRole("img", { name: "close" })).toBeDefined();
});

test("a slower plan says so, and the baseline itself compares with nothing", () => {
  const slow = { ...outcome, top_speed_m_s: 2.68224 } as Outcome;
  const { again } = show(<OutcomeBand evaluation={evaluation({ outcome: slow })} ranges={ranges} />);
  expect(cell("top_speed_m_s").getByText("−1.0")).toBeDefined();
  again(<OutcomeBand evaluation={evaluation({ baseline: null })} ranges={ranges} />);
  expect(screen.queryByText(/As found/)).toBeNull();
});

test("too little to compute lists what is missing", () => {
  const gaps = [
    { path: "/motor", message: "Enter the motor's plate.", kind: "missing" },
    { path: "/wheel", message: "Wheel assumed.", kind: "assumed" },
  ] as Evaluation["gaps"];
  show(<OutcomeBand evaluation={evaluation({ outcome: null, gaps })} ranges={undefined} />);
  expect(screen.getByText("Not enough yet to say how fast and how long.")).toBeDefined();
  expect(screen.getByText("Enter the motor's plate.")).toBeDefined();
});
