import { screen, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Evaluation } from "../../api/client";
import { planOf, show } from "../../testing/render";
import { LookList } from "./LookList";

const answers = [
  { answer: "yes", label: "Seen: yes", patch: [{ op: "add", path: "/throttle/returns", value: true }] },
  { answer: "no", label: "Seen: no", patch: [] },
  { answer: "cannot tell", label: "Can't tell", patch: [] },
];
const asked = (key: string, more = {}) => ({
  key,
  ask: `Was ${key} looked at?`,
  why: "It matters.",
  gate: "ride",
  answer: null,
  good: false,
  by: "",
  when: "",
  answers,
  ...more,
});

function page(survey: unknown[]) {
  const apply = vi.fn();
  return { apply, ...show(<LookList plan={planOf({ survey } as unknown as Evaluation)} apply={apply} />) };
}

test("an open question is answered in one tap and says what waits for it", async () => {
  const { user, apply } = page([
    asked("a"),
    asked("b", { answer: "yes", good: true, by: "ada", when: "2026-05-02T10:00+00:00" }),
  ]);
  expect(screen.getByRole("heading", { name: "To look at: 1 of 2" })).toBeDefined();
  const first = within(screen.getByText("Was a looked at?").closest("li") as HTMLElement);
  expect(first.getByText("Before the first ride.")).toBeDefined();
  await user.click(first.getByRole("button", { name: "Seen: yes" }));
  expect(apply).toHaveBeenCalledWith(answers[0]?.patch, "Was a looked at? Seen: yes");
});

test("an answer stands with who gave it and when, and cannot tell stays open", () => {
  page([
    asked("a", { answer: "yes", good: true, by: "ada", when: "2026-05-02T10:00+00:00" }),
    asked("b", { answer: "cannot tell", by: "bo", when: "2026-05-03T10:00+00:00" }),
  ]);
  expect(screen.getByText(/Seen, in order: ada, 2 May 2026/)).toBeDefined();
  expect(screen.getByText(/Could not tell: bo, 3 May 2026/)).toBeDefined();
  expect(screen.getByRole("heading", { name: "To look at: 1 of 2" })).toBeDefined();
});

test("nothing to ask shows nothing; all looked at says so", () => {
  const { again } = page([]);
  expect(screen.queryByRole("heading")).toBeNull();
  again(
    <LookList plan={planOf({ survey: [asked("a", { answer: "yes", good: true })] } as unknown as Evaluation)} apply={vi.fn()} />,
  );
  expect(screen.getByRole("heading", { name: "Looked at: all 1" })).toBeDefined();
});
