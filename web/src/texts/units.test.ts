import { expect, test } from "vitest";
import { duration, fromShown, IMPERIAL, METRIC, parseNumber, priceWords, sentence, shown, toShown, unitOf } from "./units";

test("converts both ways", () => {
  expect(toShown(4.4704, "mph")).toBeCloseTo(10, 6);
  expect(shown(25, "temp", IMPERIAL)).toBe("77");
  expect([shown(0.05, "grade", METRIC), unitOf("grade", IMPERIAL)]).toEqual(["5", "%"]);
  for (const unit of ["mph", "km/h", "ft", "lb", "°F", "in", "mm", "%"])
    expect(fromShown(toShown(3.21, unit), unit)).toBeCloseTo(3.21, 9);
});

test("reads decimal point and comma, refuses the rest", () => {
  expect(parseNumber(" 12,5 ")).toBe(12.5);
  expect(parseNumber("-3.")).toBe(-3);
  for (const text of ["", "abc", "1.2.3", "12 V", "-"]) expect(parseNumber(text)).toBeUndefined();
});

test("puts quantities into the reader's units", () => {
  expect(sentence("Goes [[4.4704|speed]] on [[12|awg]].", IMPERIAL)).toBe("Goes 10.0 mph on 12 AWG.");
  expect(sentence("Goes [[4.4704|speed]] on [[12|awg]].", METRIC)).toBe("Goes 16.1 km/h on 3.3 mm².");
});

test("says times as a parent would", () => {
  expect([4.2, 75, 600, 9000].map(duration)).toEqual(["4.2 s", "75 s", "10 min", "2 h 30 min"]);
});

test("what a change costs is said in few words, and nothing where it costs nothing", () => {
  expect(priceWords({ top_speed_m_s: -1.25, run_time_s: -400, nominal_v: -18 }, METRIC)).toBe("−4.5 km/h, −7 min, −18 V");
  expect(priceWords({ top_speed_m_s: 0.01, run_time_s: 20, nominal_v: null }, IMPERIAL)).toBe("");
});
