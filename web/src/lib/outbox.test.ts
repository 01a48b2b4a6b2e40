import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { keepFor } from "./drafts";
import { discard, KEPT, parcels, sendAll, sendOrKeep, tryAgain, whenSettled } from "./outbox";

type Said = { status?: number; body?: unknown } | "lost";
const asked: { what: string; key: string | null }[] = [];
let answer: (url: string) => Said | Promise<Said>;
const trial = (time: number) => ({
  method: "POST" as const,
  url: "/api/builds/2/trials",
  body: { time },
  words: `Trial, ${time} s`,
});

beforeEach(() => {
  vi.useFakeTimers();
  asked.length = 0;
  answer = () => ({ body: { id: 5 } });
  vi.stubGlobal("fetch", async (request: Request) => {
    const text = await request.text();
    asked.push({
      what: `${request.method} ${new URL(request.url).pathname} ${text}`,
      key: request.headers.get("Idempotency-Key"),
    });
    const said = await answer(request.url);
    if (said === "lost") throw new TypeError("lost");
    return new Response(JSON.stringify(said.body ?? {}), { status: said.status ?? 200 });
  });
});
afterEach(() => {
  vi.useRealTimers();
  localStorage.clear();
  keepFor("");
});

test("what is acknowledged does not stay, and its answer comes back", async () => {
  const settled = vi.fn();
  whenSettled(settled);
  expect(await sendOrKeep(trial(12))).toEqual({ id: 5 });
  expect(parcels()).toEqual([]);
  expect(settled).toHaveBeenCalledOnce();
});

test("it is stored before it is sent", async () => {
  let stored = 0;
  answer = () => {
    stored = parcels().length;
    return {};
  };
  await sendOrKeep(trial(12));
  expect(stored).toBe(1);
});

test.each(["lost", { status: 503 }, { status: 401 }, { status: 429 }] as const)(
  "%o: kept, and sent later under the same key",
  async (said) => {
    answer = () => said;
    expect(await sendOrKeep(trial(12))).toBe(KEPT);
    expect(await sendOrKeep(trial(13))).toBe(KEPT);
    expect(parcels().map((one) => one.words)).toEqual(["Trial, 12 s", "Trial, 13 s"]);
    const first = asked[0]?.key;
    answer = () => ({});
    asked.length = 0;
    await vi.advanceTimersByTimeAsync(5100);
    expect(asked.map((one) => one.what)).toEqual([
      'POST /api/builds/2/trials {"time":12}',
      'POST /api/builds/2/trials {"time":13}',
    ]);
    expect(asked[0]?.key).toBe(first);
    expect(asked[1]?.key).not.toBe(first);
    expect(parcels()).toEqual([]);
  },
);

test("what the server refuses goes back to the form that is still open", async () => {
  answer = () => ({ status: 409, body: { code: "confirm", message: "Ridden all the same?" } });
  await expect(sendOrKeep(trial(12))).rejects.toMatchObject({ status: 409, error: { code: "confirm" } });
  expect(parcels()).toEqual([]);
});

test("refused when nobody looks any more, it waits with the reason, and does not hold up what comes after", async () => {
  answer = () => "lost";
  await sendOrKeep(trial(12));
  await sendOrKeep(trial(13));
  let works = false;
  answer = () =>
    works || asked.at(-1)?.what.includes("13") ? {} : { status: 422, body: { code: "invalid", message: "Check the time." } };
  await sendAll();
  expect(parcels().map((one) => [one.words, one.refused])).toEqual([["Trial, 12 s", "Check the time."]]);
  works = true;
  tryAgain(parcels()[0]?.key ?? "");
  await vi.advanceTimersByTimeAsync(10);
  expect(parcels()).toEqual([]);
});

test("taken out by hand it is gone; of another account nothing is sent", async () => {
  answer = () => "lost";
  keepFor("a.1");
  await sendOrKeep(trial(12));
  keepFor("a.2");
  asked.length = 0;
  answer = () => ({});
  await sendAll();
  expect([asked.length, parcels().length]).toEqual([0, 0]);
  keepFor("a.1");
  discard(parcels()[0]?.key ?? "");
  expect(parcels()).toEqual([]);
});
