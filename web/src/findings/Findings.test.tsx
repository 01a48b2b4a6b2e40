import { screen, waitFor, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { FindingFixes } from "../api/client";
import { findingOf, rowOf, serve, show } from "../testing/render";
import { Findings } from "./Findings";

const patch = [{ op: "add", path: "/main_fuse", value: { rating_a: 30 } }];
const fixes: FindingFixes[] = [{ key: "fuse.none@main", fixes: [{ label: "30 A blade × [[12|awg]]", patch }] }];
const stop = findingOf();
const caution = findingOf({
  id: "pack.sag",
  key: "pack.sag",
  severity: "caution",
  title: "The packs sag deeply",
  blocks: false,
  stage: "power",
});
const note = findingOf({
  id: "ride.road",
  key: "ride.road",
  severity: "note",
  title: "Private ground, helmet on",
  blocks: false,
});

function page(more: Partial<Parameters<typeof Findings>[0]> = {}) {
  const onFix = vi.fn();
  return {
    onFix,
    ...show(<Findings findings={[stop, caution, note]} fixes={fixes} row={rowOf()} onFix={onFix} saved {...more} />),
  };
}
const article = (title: string) => within(screen.getByRole("heading", { name: title }).closest("article") as HTMLElement);

test("each finding says its weight in a word, not by colour alone, and its numbers in the reader's units", () => {
  page();
  expect(article(stop.title).getByText("Stop")).toBeDefined();
  expect(article(caution.title).getByText("Caution")).toBeDefined();
  expect(article(note.title).getByText("Note")).toBeDefined();
  expect(article(stop.title).getByText("A short draws 10.0 mph.")).toBeDefined();
});

test("nothing found is said", () => {
  page({ findings: [] });
  expect(screen.getByText("Nothing to mend here.")).toBeDefined();
});

test("a checked fix is a button with its patch; without one stands what to do", async () => {
  const { user, onFix } = page();
  await user.click(article(stop.title).getByRole("button", { name: "30 A blade × 12 AWG" }));
  expect(onFix).toHaveBeenCalledWith(patch, "30 A blade × [[12|awg]]");
  expect(article(stop.title).queryByText(stop.instruction)).toBeNull();
  expect(article(caution.title).getByText(caution.instruction)).toBeDefined();
});

test("only a stop that blocks, in a saved setup, can be overruled", () => {
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

test("leaving it a stop sends nothing", async () => {
  const asked = serve({});
  const { user } = page();
  await user.click(screen.getByRole("button", { name: "Overrule…" }));
  await user.click(screen.getByRole("button", { name: "Leave it a stop" }));
  expect(screen.queryByRole("dialog")).toBeNull();
  expect(asked).toEqual([]);
});

test("an overruled stop shows its reason and can be a stop again", async () => {
  const asked = serve({ "DELETE /api/setups/7/overrules/fuse.none%40main": () => ({ status: 204 }) });
  const overrules = [{ finding: stop.key, title: stop.title, reason: "Bench only.", created: "2026-05-02T10:00:00Z" }];
  const { user } = page({ row: rowOf({ overrules }) });
  expect(article(stop.title).getByText("Overruled")).toBeDefined();
  expect(article(stop.title).getByText("“Bench only.”")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Make it a stop again" }));
  await waitFor(() =>
    expect(asked.map((a) => `${a.method} ${decodeURIComponent(a.path)}`)).toEqual([
      "DELETE /api/setups/7/overrules/fuse.none@main",
    ]),
  );
});
