import { afterEach, expect, test, vi } from "vitest";
import { METRIC } from "./units";

/** The page's numbers and sentences as a browser of this language has them. */
async function read(language: string) {
  vi.resetModules();
  Object.defineProperty(navigator, "language", { value: language, configurable: true });
  return { ...(await import("./locale")), ...(await import("./units")) };
}

afterEach(() => {
  Object.defineProperty(navigator, "language", { value: "en-GB", configurable: true });
  vi.resetModules();
});

test("numbers carry the reader's decimal mark, and no mark between thousands", async () => {
  const german = await read("de-DE");
  expect([
    german.fixed(1234.56, 1),
    german.plainNumber(7.4),
    german.plainNumber(7),
    german.withUnit(4.4704, "speed", METRIC),
  ]).toEqual(["1234,6", "7,4", "7", "16,1 km/h"]);
  expect(german.parseNumber(german.fixed(12.5, 1))).toBe(12.5);
  expect([german.isNothing(german.fixed(0.04, 1)), german.isNothing(german.fixed(0.06, 1))]).toEqual([true, false]);
  expect((await read("ar-EG")).fixed(12.5, 1)).toMatch(/^12\D5$/);
});

test("sentences of the core are told with it, and what is no number stays", async () => {
  const german = await read("de-DE");
  expect(german.sentence("Full it gives 42.0 V at [[4.4704|speed]].", METRIC)).toBe("Full it gives 42,0 V at 16,1 km/h.");
  expect(german.decimals("Version 1.2.3 of 30.5 A. 7.")).toBe("Version 1.2.3 of 30,5 A. 7.");
  expect((await read("en-GB")).decimals("30.5 A")).toBe("30.5 A");
});

test("days and clock are the reader's own, months are English; an unknown language is no trouble", async () => {
  expect((await read("en-GB")).day("2026-11-05T14:05:00")).toBe("5 Nov 2026");
  expect((await read("en-US")).day("2026-11-05T14:05:00")).toBe("Nov 5, 2026");
  expect((await read("de-DE")).day("2026-11-05T14:05:00")).toBe("5 Nov 2026");
  expect((await read("C")).clock("2026-11-05T14:05:00")).toBe("14:05");
});
