import { expect, test } from "vitest";
import type { Station } from "../api/client";
import { IMPERIAL, METRIC } from "../texts/units";
import { amount, askedOf, spare } from "./Trail";

const station = (more: Partial<Station>): Station => ({
  id: "leads",
  name: "Leads",
  stage: "protect",
  path: "/main_lead",
  asks: 12.4,
  stands: 31,
  unit: "A",
  share: 0.4,
  state: "fine",
  weak: false,
  detail: "",
  severity: null,
  ...more,
});

test("asks and stands in the reader's units", () => {
  expect(askedOf(station({}), IMPERIAL)).toBe("12 of 31 A");
  expect(askedOf(station({ asks: 4.4704, stands: 8.9408, unit: "m/s" }), IMPERIAL)).toBe("10.0 of 20.0 mph");
  expect(askedOf(station({ asks: 50, stands: 130, unit: "K" }), METRIC)).toBe("50 of 130 °C rise");
  expect(askedOf(station({ asks: 50, stands: 130, unit: "K" }), IMPERIAL)).toBe("90 of 234 °F rise");
  expect(askedOf(station({ stands: null }), IMPERIAL)).toBe("12 of ? A");
  expect(amount(3.26, "A", METRIC)).toBe("3.3");
});

test("headroom in words", () => {
  expect(spare(station({}))).toBe("60 % spare");
  expect(spare(station({ share: 1.2, state: "over" }))).toBe("over");
  expect(spare(station({ share: null }))).toBe("not known");
  expect(spare(station({ id: "wheels", share: 1.2 }))).toBe("spins at launch");
});
