import { expect, test } from "vitest";
import { describe } from "./useHelp";

const schema = {
  properties: {
    bank: { anyOf: [{ $ref: "#/$defs/Bank" }], description: "The packs." },
    throttle: { $ref: "#/$defs/Throttle" },
  },
  $defs: {
    Bank: { properties: { rows: { items: { $ref: "#/$defs/Row" }, description: "The rows." } } },
    Row: { properties: { fuse: { anyOf: [{ $ref: "#/$defs/Fuse" }], description: "The row's fuse." } } },
    Fuse: { properties: { rating_a: { description: "Amps printed on it." } } },
    Throttle: { properties: { kind: { description: "Which kind." } } },
  },
};

test("finds the description of a field through references and lists", () => {
  expect(describe(schema, "/bank")).toBe("The packs.");
  expect(describe(schema, "/bank/rows/0/fuse/rating_a")).toBe("Amps printed on it.");
  expect(describe(schema, "/throttle/kind")).toBe("Which kind.");
  expect(describe(undefined, "/throttle/kind")).toBe("");
});
