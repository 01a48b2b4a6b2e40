import { expect, test } from "vitest";
import type { Step } from "../../api/client";
import { expects } from "./expects";

const step = (reading: Partial<NonNullable<Step["reading"]>> | null): Step => ({
  id: "x",
  title: "",
  what: "",
  blocks: [],
  caution: "",
  reading: reading && {
    kind: "volts",
    red_on: "",
    black_on: "",
    nodes: [],
    low: null,
    high: null,
    expected: null,
    unit: "V",
    note: "",
    ...reading,
  },
});

test("says what the meter should show", () => {
  expect(expects(step(null))).toBe("no reading");
  expect(expects(step({ kind: "open", unit: "Ω" }))).toBe("OL, open");
  expect(expects(step({ low: 39.31, high: 41.42 }))).toBe("39.3 to 41.4 V");
  expect(expects(step({ low: -0.05, high: 0.05 }))).toBe("0 V");
  expect(expects(step({ kind: "ohms", unit: "Ω", low: 0, high: 0.64 }))).toBe("under 0.64 Ω");
  expect(expects(step({ kind: "ohms", unit: "Ω", low: 100 }))).toBe("over 100 Ω");
});
