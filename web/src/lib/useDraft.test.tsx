import { act, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { type Answers, rowOf, serve, show } from "../testing/render";
import { keepFor, strays } from "./drafts";
import { type Draft, useDraft } from "./useDraft";

const PUT = "PUT /api/setups/7";
const row = rowOf({ document: { name: "stored" } });
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
const saves = (version = 4) => ({ [PUT]: () => ({ body: rowOf({ version }) }) });

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
  expect(keptHere()).toEqual({ document: { name: "one" }, based_on: 3 });
  await pass(400);
  edit("two");
  await pass(600);
  expect(asked).toEqual([]);
  await pass(200);
  expect(asked.map((a) => a.body)).toEqual([{ document: { name: "two" }, based_on: 3, label: "" }]);
  expect(state()).toBe("saved");
  expect(keptHere()).toBeNull();
});

test("the next save builds on the version of the last", async () => {
  let version = 3;
  const asked = open({ [PUT]: () => ({ body: rowOf({ version: ++version }) }) });
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
      return { body: rowOf({ version: 4 }) };
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
      return { body: rowOf({ version: 4 }) };
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
  open({ [PUT]: () => (works ? { body: rowOf({ version: 4 }) } : { status, body: { code, message: "So." } }) });
  edit("one");
  await pass(800);
  expect(state()).toBe("refused");
  expect(draft.save.kind === "refused" && draft.save.error.code).toBe(code);
  expect(keptHere()).toEqual({ document: { name: "one" }, based_on: 3 });
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
  expect(asked[0]?.body).toEqual({ document: { name: "yesterday" }, based_on: 2, label: "" });
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
        : { body: rowOf({ version: 4 }) },
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

const clash: Answers = {
  [PUT]: ({ body }) =>
    body.based_on === 9
      ? { body: rowOf({ version: 10 }) }
      : { status: 409, body: { code: "conflict", message: "Changed.", theirs: { name: "theirs" }, version: 9 } },
};

test("changed in two places: mine is kept on top of theirs", async () => {
  const asked = open(clash);
  edit("mine");
  await pass(800);
  expect(state()).toBe("conflict");
  expect(draft.doc).toEqual({ name: "mine" });
  act(() => draft.keepMine());
  await pass(800);
  expect(asked.at(-1)?.body).toEqual({ document: { name: "mine" }, based_on: 9, label: "kept mine" });
  expect(state()).toBe("saved");
});

test("changed in two places: theirs is taken, mine is one undo away", async () => {
  const asked = open(clash);
  edit("mine");
  await pass(800);
  act(() => draft.takeTheirs());
  await pass(2000);
  expect(draft.doc).toEqual({ name: "theirs" });
  expect(state()).toBe("saved");
  expect(keptHere()).toBeNull();
  act(() => draft.undo());
  await pass(800);
  expect(draft.doc).toEqual({ name: "mine" });
  expect(asked.at(-1)?.body).toEqual({ document: { name: "mine" }, based_on: 9, label: "" });
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
