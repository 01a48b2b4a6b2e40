import { act, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { sendOrKeep } from "../lib/outbox";
import { serve, show } from "../testing/render";
import { Outbox } from "./Outbox";

const entry = {
  method: "POST" as const,
  url: "/api/builds/2/journal",
  body: { text: "squeaks" },
  words: "Journal of Clover: squeaks",
};

test("what waits is shown with what it is, and goes when the connection is back", async () => {
  let works = false;
  const asked = serve({
    "POST /api/builds/2/journal": () => {
      if (!works) throw new TypeError("no connection");
      return { body: { id: 1 } };
    },
  });
  show(<Outbox />);
  expect(screen.queryByText(/kept here/)).toBeNull();
  await act(async () => void (await sendOrKeep(entry)));
  expect(screen.getByText(/1 entry kept here, sent when the server answers/)).toBeDefined();
  expect(screen.getByText("Journal of Clover: squeaks")).toBeDefined();
  works = true;
  act(() => void window.dispatchEvent(new Event("online")));
  await waitFor(() => expect(screen.queryByText(/kept here/)).toBeNull());
  expect(asked.map((one) => one.body)).toEqual([{ text: "squeaks" }, { text: "squeaks" }]);
});

test("what is refused later says why and can be taken out", async () => {
  let said: { status: number; body: unknown } | null = null;
  serve({
    "POST /api/builds/2/journal": () => {
      if (!said) throw new TypeError("no connection");
      return said;
    },
  });
  const { user } = show(<Outbox />);
  await act(async () => void (await sendOrKeep(entry)));
  said = { status: 404, body: { code: "not_found", message: "This build is not here any more." } };
  act(() => void window.dispatchEvent(new Event("online")));
  expect(await screen.findByText("This build is not here any more.")).toBeDefined();
  URL.createObjectURL = () => "blob:";
  URL.revokeObjectURL = () => {};
  await user.click(screen.getByRole("button", { name: "Take it out, as a file" }));
  await waitFor(() => expect(screen.queryByText(/refused by the server/)).toBeNull());
});
