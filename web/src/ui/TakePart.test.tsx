import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Doc } from "../lib/pointer";
import { formOf, serve, show } from "../testing/render";
import { TakePart } from "./TakePart";

const throttle = (key: string) => ({
  id: 4,
  key,
  kind: "throttles",
  label: "Thumb throttle",
  letter: "",
  about: {},
  document: { kind: "hall", rack: { key } },
});
const SHIPPED = { throttles: [{ id: "t", label: "A twist grip", group: "Throttles", part: { kind: "hall" } }] };

const shelf = (rack: unknown[]) =>
  serve({
    "GET /api/parts": () => ({ body: SHIPPED }),
    "GET /api/garages": () => ({ body: [{ id: 2, name: "Tideline Shed" }] }),
    "GET /api/garages/2/rack": () => ({ body: rack }),
  });

const Slot = ({ own = true }) => (
  <TakePart kind="throttles" path="/throttle" label="Throttle of yours" own={own} stays={["levers", "knob"]} />
);

test("another part brings its own figures and leaves what is of the machine", async () => {
  shelf([throttle("k1")]);
  const { wrap, edits } = formOf({ throttle: { kind: "potentiometer", returns: true, levers: true } });
  const { user } = show(wrap(<Slot />));
  await user.selectOptions(await screen.findByLabelText("Throttle of yours"), "Thumb throttle");
  const put = edits.at(-1)?.[1] as Doc;
  expect(put).toEqual({ kind: "hall", rack: { key: "k1" }, levers: true });
});

test("where only one's own are offered there is no list while the rack has none, and none that ship", async () => {
  const asked = shelf([]);
  const { wrap } = formOf({ throttle: { kind: "hall" } });
  const { again } = show(wrap(<Slot />));
  await expect.poll(() => asked.some((one) => one.path.endsWith("/rack"))).toBe(true);
  expect(screen.queryByLabelText("Throttle of yours")).toBeNull();
  again(wrap(<Slot own={false} />));
  expect(await screen.findByRole("option", { name: "A twist grip" })).toBeDefined();
});
