import { screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { type Answers, serve, show } from "../../testing/render";
import { GoalSection } from "./Goal";

const way = {
  levers: ["teeth"],
  label: "2 teeth more at the motor",
  detail: "14:88",
  top_speed_m_s: 8.1,
  run_time_s: 2100,
  hill_grade: 0.19,
  peak_a: 28,
  warm_c: 140,
  winding_stop_s: null,
  breaks_first: "Motor",
  share: 0.88,
  stops: [],
  cost: { low: 4.8, high: 16.8, planned: 1, unpriced: 0, currency: "USD" },
  document: { version: 1, marker: "taller" },
};
const answers: Answers = {
  "POST /api/drive/goal": ({ body }) => ({
    body:
      Number(body.value) > 20
        ? { now: 7, reached: false, sentence: "Now [[7|speed]]. Neither one change nor two reach it.", ways: [], short: [] }
        : {
            now: 7,
            reached: false,
            sentence: "Now [[7|speed]].",
            ways: [
              way,
              {
                ...way,
                label: "One more pack in series",
                winding_stop_s: 180,
                stops: ["Full packs are too much for the controller"],
              },
            ],
            short: [{ lever: "rows", label: "4 more rows beside", value: 7.15264, why: "the packs' volts hold it there" }],
          },
  }),
};

function page() {
  const asked = serve(answers);
  const tryOut = vi.fn();
  const doc = { version: 1 };
  return { asked, tryOut, ...show(<GoalSection of={{ doc, buildId: 2, isBaseline: false }} tryOut={tryOut} />) };
}

test("a speed is asked for in the reader's unit, and each way can be tried", async () => {
  const { asked, tryOut, user } = page();
  await user.type(screen.getByLabelText("Goal"), "18");
  expect(await screen.findByText("2 teeth more at the motor")).toBeDefined();
  expect(asked.at(-1)?.body).toMatchObject({ kind: "speed", build_id: 2 });
  expect(Number(asked.at(-1)?.body.value)).toBeCloseTo(8.0467, 3);
  expect(screen.getByText("Now 15.7 mph.")).toBeDefined();
  expect(screen.getByText(/motor at its end after 3 min/)).toBeDefined();
  expect(screen.getAllByText(/^To buy: .*5 to .*17, by planning values$/)).toHaveLength(2);
  expect(screen.getByText("Stops it then: Full packs are too much for the controller")).toBeDefined();
  expect(screen.getByText("4 more rows beside").closest("li")?.textContent).toBe(
    "4 more rows beside: 16.0 mph at most; the packs' volts hold it there.",
  );
  await user.click(screen.getAllByRole("button", { name: "Try" })[0] as HTMLElement);
  expect(tryOut).toHaveBeenCalledWith({ label: way.label, doc: way.document });
});

test("minutes and a hill go out in SI", async () => {
  const { asked, user } = page();
  await user.click(screen.getByRole("button", { name: "so long" }));
  await user.type(screen.getByLabelText("Goal"), "60");
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ kind: "time", value: 3600 }));
  expect(await screen.findByText(/Neither one change nor two reach it/)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "up that hill" }));
  await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ kind: "hill", value: 0.6 }));
});

test("what is no number is told and asks for nothing", async () => {
  const { asked, user } = page();
  await user.type(screen.getByLabelText("Goal"), "fast");
  expect(screen.getByRole("alert").textContent).toBe("Enter a number above zero.");
  expect(asked).toEqual([]);
});
