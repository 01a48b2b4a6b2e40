import { act, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { components } from "../api/schema";
import { type Answers, madeUp, rowOf, serve, show } from "../testing/render";
import { keepFor, strays } from "./drafts";
import { type Draft, useDraft } from "./useDraft";

type Schemas = components["schemas"];
const PUT = "PUT /api/setups/7";
const row = rowOf({ document: madeUp({ name: "stored" }) });
let draft: Draft;

function Holder() {
  draft = useDraft(row);
  return <output aria-label="save">{draft.save.kind}</output>;
}

const state = () => screen.getByLabelText("save").textContent;
const keptHere = () =>
  JSON.parse(localStorage.getItem("gecko-draft::7") ?? "null") as { document: unknown; based_on: number } | null;
const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));
const edit = (value: string) => act(() => draft.edit("/name", value));

function open(answers: Answers) {
  const asked = serve(answers);
  show(<Holder />);
  return asked;
}
const savedOf = (more: Partial<Schemas["SavedOut"]>) => ({ ...rowOf(more), joined: more.joined ?? false });
/** What is sent: a document with what it was made from, nothing answered. */
const sent = (name: string, more: Record<string, unknown> = {}) => ({
  document: { name },
  based_on: 3,
  label: "",
  base: { name: "stored" },
  answers: {},
  answers_to: null,
  ...more,
});
const saves = (version = 4) => ({ [PUT]: () => ({ body: savedOf({ version }) }) });

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

test("what nobody changed is not saved again", async () => {
  const asked = open(saves());
  await pass(5000);
  expect(asked).toEqual([]);
  expect(state()).toBe("saved");
});

test("a change is kept in the browser at once and saved after a pause", async () => {
  const asked = open(saves());
  edit("one");
  expect(keptHere()).toEqual({ document: { name: "one" }, based_on: 3, base: { name: "stored" }, sent: null });
  await pass(400);
  edit("two");
  await pass(600);
  expect(asked).toEqual([]);
  await pass(200);
  expect(asked.map((a) => a.body)).toEqual([sent("two")]);
  expect(state()).toBe("saved");
  expect(keptHere()).toBeNull();
});

test("the next save builds on the version of the last", async () => {
  let version = 3;
  const asked = open({ [PUT]: () => ({ body: savedOf({ version: ++version }) }) });
  for (const name of ["one", "two", "three"]) {
    edit(name);
    await pass(800);
  }
  expect(asked.map((a) => a.body.based_on)).toEqual([3, 4, 5]);
});

test("typing on while a save is out is saved too", async () => {
  let answer: () => void = () => {};
  const asked = open({
    [PUT]: async ({ body }) => {
      if ((body.document as { name: string }).name === "one") await new Promise<void>((done) => (answer = done));
      return { body: savedOf({ version: 4 }) };
    },
  });
  edit("one");
  await pass(800);
  expect(state()).toBe("saving");
  edit("two");
  await act(async () => answer());
  await pass(1000);
  expect(asked.map((a) => (a.body.document as { name: string }).name)).toEqual(["one", "two"]);
  expect(state()).toBe("saved");
});

test("without a connection it is kept here and tried again", async () => {
  let online = false;
  const asked = open({
    [PUT]: () => {
      if (!online) throw new TypeError("no connection");
      return { body: savedOf({ version: 4 }) };
    },
  });
  edit("on the road");
  await pass(800);
  expect(state()).toBe("offline");
  expect(keptHere()?.document).toEqual({ name: "on the road" });
  online = true;
  await pass(5100);
  await pass(800);
  expect(asked.length).toBe(2);
  expect(state()).toBe("saved");
});

test.each([
  [401, "signed_out"],
  [500, "failed"],
  [503, "locked_database"],
  [507, "disk_full"],
])("what the server refuses with %i is not called a lost connection, is kept, and saved later", async (status, code) => {
  let works = false;
  open({ [PUT]: () => (works ? { body: savedOf({ version: 4 }) } : { status, body: { code, message: "So." } }) });
  edit("one");
  await pass(800);
  expect(state()).toBe("refused");
  expect(draft.save.kind === "refused" && draft.save.error.code).toBe(code);
  expect(keptHere()).toMatchObject({ document: { name: "one" }, based_on: 3 });
  works = true;
  await pass(5000);
  await pass(800);
  expect(state()).toBe("saved");
});

test("what was kept from another day comes back and is saved", async () => {
  localStorage.setItem("gecko-draft::7", JSON.stringify({ document: { name: "yesterday" }, based_on: 2 }));
  const asked = open(saves());
  expect(draft.doc).toEqual({ name: "yesterday" });
  await pass(800);
  // Kept by an older page, without what it was made from: the server then asks about the whole.
  expect(asked[0]?.body).toEqual(sent("yesterday", { based_on: 2, base: null }));
});

test("what was kept for another database or account is never applied", async () => {
  keepFor("this.1");
  localStorage.setItem("gecko-draft:that.1:7", JSON.stringify({ document: { name: "theirs" }, based_on: 3 }));
  localStorage.setItem("gecko-draft:this.2:7", JSON.stringify({ document: { name: "hers" }, based_on: 3 }));
  localStorage.setItem("gecko-draft-7", JSON.stringify({ document: { name: "old" }, based_on: 3 }));
  const asked = open(saves());
  await pass(800);
  expect(draft.doc).toEqual({ name: "stored" });
  expect(asked).toEqual([]);
  expect(strays().map((s) => s.name)).toEqual(["unsaved-setup-7.json", "unsaved-setup-7.json", "unsaved-setup-7.json"]);
  localStorage.clear();
  keepFor("");
});

test("a spoilt keepsake is passed over", () => {
  localStorage.setItem("gecko-draft::7", "{");
  open(saves());
  expect(draft.doc).toEqual({ name: "stored" });
});

test("a wrong value is not saved, stays in view, and the mended one is saved", async () => {
  open({
    [PUT]: ({ body }) =>
      (body.document as { name: string }).name === "bad"
        ? { status: 422, body: { code: "invalid", message: "No.", problems: [{ path: "/name", message: "No." }] } }
        : { body: savedOf({ version: 4 }) },
  });
  edit("bad");
  await pass(800);
  expect(state()).toBe("invalid");
  expect(draft.doc).toEqual({ name: "bad" });
  expect(keptHere()?.document).toEqual({ name: "bad" });
  edit("good");
  await pass(800);
  expect(state()).toBe("saved");
});

test("a value mended while the wrong one is on its way is sent, and nothing is said to be wrong", async () => {
  let answer: () => void = () => {};
  const asked = open({
    [PUT]: async ({ body }) => {
      if ((body.document as { name: string }).name === "good") return { body: savedOf({ version: 4 }) };
      await new Promise<void>((done) => (answer = done));
      return { status: 422, body: { code: "invalid", message: "No.", problems: [{ path: "/name", message: "No." }] } };
    },
  });
  edit("bad");
  await pass(800);
  edit("good");
  // Its own turn comes while the wrong one is still out.
  await pass(1000);
  await act(async () => answer());
  expect(state()).toBe("waiting");
  await pass(1000);
  expect(asked.map((a) => (a.body.document as { name: string }).name)).toEqual(["bad", "good"]);
  expect(state()).toBe("saved");
});

const clash: Answers = {
  [PUT]: ({ body }) => {
    const { "/name": said } = body.answers as Record<string, string>;
    if (said) return { body: savedOf({ version: 10, document: madeUp({ name: said, added: "theirs" }), joined: true }) };
    if (body.based_on !== 3) return { body: savedOf({ version: 11 }) };
    const asked = [{ path: "/name", mine: "mine", theirs: "theirs" }];
    return { status: 409, body: { code: "conflict", message: "Changed.", theirs: { name: "theirs" }, version: 9, asked } };
  },
};

test.each(["mine", "theirs"] as const)(
  "changed in two places: %s is taken, all else is joined, mine is one undo away",
  async (side) => {
    const asked = open(clash);
    edit("mine");
    await pass(800);
    expect(state()).toBe("conflict");
    expect(draft.doc).toEqual({ name: "mine" });
    act(() => draft.settle({ "/name": side }));
    await pass(800);
    expect(asked.at(-1)?.body).toEqual(sent("mine", { answers: { "/name": side }, answers_to: 9 }));
    expect(draft.doc).toEqual({ name: side, added: "theirs" });
    expect(state()).toBe("saved");
    expect(keptHere()).toBeNull();
    act(() => draft.undo());
    await pass(800);
    expect(asked.at(-1)?.body).toEqual(sent("mine", { based_on: 10, base: { name: side, added: "theirs" } }));
  },
);

test("what others saved meanwhile is taken in, and undo does not take it out again", async () => {
  open({ [PUT]: () => ({ body: savedOf({ version: 8, document: madeUp({ name: "mine", added: "theirs" }), joined: true }) }) });
  edit("mine");
  await pass(800);
  expect(draft.doc).toEqual({ name: "mine", added: "theirs" });
  expect(draft.save).toMatchObject({ kind: "saved", joined: true });
  expect([draft.canUndo, draft.version]).toEqual([false, 8]);
});

test("typed on while it was joined: the next save builds on what was sent, not on what others saved", async () => {
  let answer: () => void = () => {};
  const asked = open({
    [PUT]: async ({ body }) => {
      const name = (body.document as { name: string }).name;
      if (name === "one") await new Promise<void>((done) => (answer = done));
      return { body: savedOf({ version: name === "one" ? 8 : 9, document: madeUp({ name, added: "theirs" }), joined: true }) };
    },
  });
  edit("one");
  await pass(800);
  edit("two");
  await pass(2000);
  await act(async () => answer());
  await pass(1000);
  expect(asked.map((a) => [a.body.document, a.body.base, a.body.based_on])).toEqual([
    [{ name: "one" }, { name: "stored" }, 3],
    [{ name: "two" }, { name: "one" }, 3],
  ]);
  expect(draft.doc).toEqual({ name: "two", added: "theirs" });
  expect(draft.version).toBe(9);
});

test("what nobody acknowledged goes again as it was, before what was typed since, also on another day", async () => {
  let online = false;
  const answers: Answers = {
    [PUT]: () => {
      if (!online) throw new TypeError("no connection");
      return { body: savedOf({ version: 4 }) };
    },
  };
  const asked = serve(answers);
  const { unmount } = show(<Holder />);
  edit("one");
  await pass(800);
  edit("two");
  unmount();
  online = true;
  show(<Holder />);
  await pass(800);
  await pass(800);
  expect(asked.map((a) => [a.body.document, a.body.base])).toEqual([
    [{ name: "one" }, { name: "stored" }],
    [{ name: "one" }, { name: "stored" }],
    [{ name: "two" }, { name: "one" }],
  ]);
  expect(state()).toBe("saved");
});

test("while two versions clash nothing is sent, whatever is typed", async () => {
  const asked = open(clash);
  edit("mine");
  await pass(800);
  edit("mine, more");
  await pass(5000);
  expect(asked.length).toBe(1);
  expect(state()).toBe("conflict");
});

test("undo and redo walk the steps, and a new change ends the redo", async () => {
  open(saves());
  for (const name of ["one", "two", "three"]) edit(name);
  const name = () => draft.doc.name;
  act(() => draft.undo());
  act(() => draft.undo());
  expect([name(), draft.canUndo, draft.canRedo]).toEqual(["one", true, true]);
  act(() => draft.redo());
  expect(name()).toBe("two");
  edit("other");
  expect(draft.canRedo).toBe(false);
  for (let i = 0; i < 5; i++) act(() => draft.undo());
  expect([name(), draft.canUndo]).toEqual(["stored", false]);
});

test("back where it was needs no save", async () => {
  const asked = open(saves());
  edit("one");
  act(() => draft.undo());
  await pass(5000);
  expect(asked).toEqual([]);
  expect(state()).toBe("saved");
  expect(keptHere()).toBeNull();
});

test("the same value is no change", () => {
  open(saves());
  edit("stored");
  expect(draft.canUndo).toBe(false);
});

test("a fix carries its words into the history", async () => {
  const asked = open(saves());
  act(() => draft.replace({ name: "fixed" }, "30 A blade"));
  await pass(800);
  expect(asked[0]?.body.label).toBe("30 A blade");
});
