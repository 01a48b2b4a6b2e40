import { afterEach, expect, test, vi } from "vitest";
import { client } from "./client";

const keys: (string | null)[] = [];
let answers: (Response | "lost")[] = [];

vi.stubGlobal("fetch", async (request: Request) => {
  keys.push(request.headers.get("Idempotency-Key"));
  const next = answers.shift() ?? new Response("{}", { status: 200, headers: { "Content-Type": "application/json" } });
  if (next === "lost") throw new TypeError("lost");
  return next;
});
const write = (text: string) =>
  client
    .POST("/api/garages/{garage_id}/builds", {
      params: { path: { garage_id: 2 } },
      body: { name: text, family: "quad", description: "", setups: [] },
    })
    .catch(() => undefined);

afterEach(() => {
  keys.length = 0;
  answers = [];
});

test("what nobody answered goes again under the same key, what was settled under another", async () => {
  answers = ["lost", new Response("", { status: 502 })];
  await write("One.");
  await write("One.");
  await write("One.");
  await write("One.");
  expect(keys[0]).toMatch(/^[0-9a-f]{24}$/);
  expect(keys.slice(0, 3)).toEqual([keys[0], keys[0], keys[0]]);
  expect(keys[3]).not.toBe(keys[0]);
});

test("two presses send the same key; another text has its own; a question has none", async () => {
  await Promise.all([write("One."), write("One."), write("Two.")]);
  expect(keys[1]).toBe(keys[0]);
  expect(keys[2]).not.toBe(keys[0]);
  await client.POST("/api/evaluate", { body: { setup: {}, is_baseline: false } });
  expect(keys.at(-1)).toBeNull();
});
