import { screen, waitFor, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { FindingFixes, Patch } from "../api/client";
import { findingOf, rowOf, saidOf, serve, show } from "../testing/render";
import { Findings } from "./Findings";

const patch: Patch = [{ op: "add", path: "/main_fuse", value: { rating_a: 30 } }];
const price = { top_speed_m_s: -0.89408, run_time_s: 250, nominal_v: 0.02 };
const fixes: FindingFixes[] = [{ key: "fuse.none@main", fixes: [{ label: "30 A blade × [[12|awg]]", patch, price }] }];
const stop = findingOf();
const caution = findingOf({
  id: "pack.sag",
  key: "pack.sag",
  severity: "caution",
  title: "The packs sag deeply",
  gate: null,
  stage: "power",
});
const note = findingOf({
  id: "ride.road",
  key: "ride.road",
  severity: "note",
  title: "Private ground, helmet on",
  gate: null,
});

function page(more: Partial<Parameters<typeof Findings>[0]> = {}) {
  const onFix = vi.fn();
  return {
    onFix,
    ...show(<Findings findings={[stop, caution, note]} fixes={fixes} row={rowOf()} onFix={onFix} saved {...more} />),
  };
}
const article = (title: string) => within(screen.getByRole("heading", { name: title }).closest("article") as HTMLElement);

test("each finding says its weight in a word, not by colour alone, and its numbers in the reader's units", async () => {
  const { user } = page();
  await user.click(screen.getByText("1 note"));
  expect(article(stop.title).getByText("Stop")).toBeDefined();
  expect(article(caution.title).getByText("Caution")).toBeDefined();
  expect(article(note.title).getByText("Note")).toBeDefined();
  expect(article(stop.title).getByText("A short draws 10.0 mph.")).toBeDefined();
});

test("the three cautions that matter come first, the rest is folded by stage", async () => {
  const cautions = Array.from({ length: 5 }, (_, i) =>
    findingOf({ ...caution, key: `c${i}`, title: `Caution ${i}`, stage: i === 4 ? "care" : "power" }),
  );
  const { user } = page({ findings: [...cautions, note] });
  expect(screen.queryByRole("heading", { name: "Caution 2" })).not.toBeNull();
  expect(screen.queryByRole("heading", { name: "Caution 3" })).toBeNull();
  await user.click(screen.getByText("2 more cautions, 1 note"));
  expect(
    within(screen.getByRole("region", { name: "Less pressing, care" })).getByRole("heading", { name: "Caution 4" }),
  ).toBeDefined();
  expect(screen.getByRole("heading", { name: note.title })).toBeDefined();
});

test("nothing found is said", () => {
  page({ findings: [] });
  expect(screen.getByText("Nothing to mend here.")).toBeDefined();
});

test("a checked fix is a button with its patch; without one stands what to do", async () => {
  const { user, onFix } = page();
  await user.click(article(stop.title).getByRole("button", { name: "30 A blade × 12 AWG −2.0 mph, +4 min" }));
  expect(onFix).toHaveBeenCalledWith(patch, "30 A blade × [[12|awg]]");
  expect(article(stop.title).queryByText(stop.instruction)).toBeNull();
  expect(article(caution.title).getByText(caution.instruction)).toBeDefined();
});

test("only a stop, in a saved setup, can be overruled", () => {
  page();
  expect(screen.getAllByRole("button", { name: "Overrule…" }).length).toBe(1);
});

test("not while the change is unsaved", () => {
  page({ saved: false });
  expect(screen.queryByRole("button", { name: "Overrule…" })).toBeNull();
});

test("overruling sends the reason and closes", async () => {
  const asked = serve({ "PUT /api/setups/7/overrules": () => ({ body: rowOf() }) });
  const { user } = page();
  await user.click(screen.getByRole("button", { name: "Overrule…" }));
  const dialog = within(screen.getByRole("dialog", { name: "Overrule: There is no main fuse" }));
  expect(dialog.getByText(/A child may ride on this/)).toBeDefined();
  await user.type(dialog.getByLabelText("Reason"), "Only on the bench, nobody rides.");
  await user.click(dialog.getByRole("button", { name: "Overrule it" }));
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  expect(asked[0]?.body).toEqual({ finding: "fuse.none@main", reason: "Only on the bench, nobody rides." });
});

test("a refused reason keeps the dialog and what was written", async () => {
  serve({
    "PUT /api/setups/7/overrules": () => ({ status: 422, body: { code: "invalid", message: "Write a reason of a few words." } }),
  });
  const { user } = page();
  await user.click(screen.getByRole("button", { name: "Overrule…" }));
  await user.type(screen.getByLabelText("Reason"), "ok");
  await user.click(screen.getByRole("button", { name: "Overrule it" }));
  expect((await screen.findByRole("alert")).textContent).toBe("Write a reason of a few words.");
  expect(screen.getByLabelText<HTMLTextAreaElement>("Reason").value).toBe("ok");
});

test("leaving it open sends nothing", async () => {
  const asked = serve({});
  const { user } = page();
  await user.click(screen.getByRole("button", { name: "Overrule…" }));
  await user.click(screen.getByRole("button", { name: "Leave it open" }));
  expect(screen.queryByRole("dialog")).toBeNull();
  expect(asked).toEqual([]);
});

test("an overruled stop shows its reason and can be a stop again", async () => {
  const asked = serve({ "DELETE /api/setups/7/overrules/fuse.none%40main": () => ({ status: 204 }) });
  const { user } = page({ row: rowOf({ overrules: [saidOf()] }) });
  expect(article(stop.title).getByText("Overruled")).toBeDefined();
  expect(article(stop.title).getByText("“Bench only.”")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Take it back" }));
  await waitFor(() =>
    expect(asked.map((a) => `${a.method} ${decodeURIComponent(a.path)}`)).toEqual([
      "DELETE /api/setups/7/overrules/fuse.none@main",
    ]),
  );
});

const question = findingOf({
  id: "look.plus_lead",
  key: "look.plus_lead",
  gate: "power",
  title: "Was the plus lead measured?",
  question: "plus_lead",
  answers: [
    { answer: "yes", label: "Seen: yes", patch },
    { answer: "no", label: "Seen: no", patch: [] },
    { answer: "cannot tell", label: "Can't tell", patch: [] },
  ],
});

test("a question is answered in one tap where it stands, and is no stop of the plan", async () => {
  const { user, onFix } = page({ findings: [question, stop] });
  expect(screen.getAllByRole("heading", { level: 3 }).map((h) => h.textContent)).toEqual([stop.title, question.title]);
  expect(article(question.title).getByText("To look at")).toBeDefined();
  expect(article(question.title).getByText("before first power")).toBeDefined();
  expect(article(question.title).queryByRole("button", { name: "Looked at…" })).toBeNull();
  await user.click(article(question.title).getByRole("button", { name: "Seen: yes" }));
  expect(onFix).toHaveBeenCalledWith(patch, "Was the plus lead measured? Seen: yes");
});

test("what only has to be looked at is closed by what was seen", async () => {
  const unlike = findingOf({
    id: "pack.mixed.parallel",
    key: "pack.mixed.parallel",
    gate: "power",
    observable: true,
    title: "Charge the packs first",
  });
  const asked = serve({ "PUT /api/setups/7/observations": () => ({ body: saidOf() }) });
  const { user } = page({ findings: [unlike] });
  await user.click(screen.getByRole("button", { name: "Looked at…" }));
  await user.type(screen.getByLabelText("What you saw"), "Both at 41.9 V now.");
  await user.click(screen.getByRole("button", { name: "Write it down" }));
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  expect(asked[0]?.body).toEqual({ finding: "pack.mixed.parallel", text: "Both at 41.9 V now." });
});

test("what no look can close says what to do, beside its fixes", () => {
  const speed = findingOf({
    key: "ride.cap@speed",
    gate: "ride",
    title: "Faster than an unknown child should go",
    instruction: "Enter who rides.",
  });
  page({ findings: [speed], fixes: [{ key: speed.key, fixes: [{ label: "Limiter at mark 2.4", patch, price }] }] });
  expect(article(speed.title).getByText("Enter who rides.")).toBeDefined();
  expect(article(speed.title).queryByRole("button", { name: "Looked at…" })).toBeNull();
  expect(article(speed.title).getByRole("button", { name: "Overrule…" })).toBeDefined();
});

test("an overruling that fell says so and can be said again", () => {
  page({ row: rowOf({ overrules: [saidOf({ fallen: true })] }) });
  expect(article(stop.title).getByText("Stop")).toBeDefined();
  expect(article(stop.title).getByText(/the numbers rose since/)).toBeDefined();
  expect(article(stop.title).getByRole("button", { name: "Overrule…" })).toBeDefined();
});

test("a stop of the machine as found is said so", () => {
  page({ findings: [findingOf({ as_found: true })] });
  expect(article(stop.title).getByText("as found")).toBeDefined();
});
