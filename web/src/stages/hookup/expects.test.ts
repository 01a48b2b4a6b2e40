import { expect, test } from "vitest";
import type { Shown, Step } from "../../api/client";
import { expects, shownAs } from "./expects";

const step = (reading: Partial<NonNullable<Step["reading"]>> | null): Step => ({
  id: "x",
  title: "",
  what: "",
  blocks: [],
  caution: "",
  tools: [],
  joint: "",
  care: "",
  safety: false,
  barred: "",
  mark: "",
  reading: reading && {
    kind: "volts",
    red_on: "",
    black_on: "",
    red: "a",
    black: "b",
    low_means: [],
    high_means: [],
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

test("says what stands between two terminals", () => {
  const shown = (more: Partial<Shown>): Shown => ({
    red_on: "",
    black_on: "",
    kind: "ohms",
    low: null,
    expected: null,
    high: null,
    beeps: false,
    note: "",
    ...more,
  });
  expect(shownAs(shown({ kind: "volts", expected: 41.02 }))).toBe("41.02 V");
  expect(shownAs(shown({ kind: "volts", expected: -0.001 }))).toBe("0 V");
  expect(shownAs(shown({ kind: "open" }))).toBe("OL, open");
  expect(shownAs(shown({ kind: "unknown", low: 100 }))).toBe("over 100 Ω");
  expect(shownAs(shown({ expected: 0.013 }))).toBe("near 0 Ω");
  expect(shownAs(shown({ expected: 850 }))).toBe("850 Ω");
  expect(shownAs(shown({ expected: 4700 }))).toBe("4.7 kΩ");
});
