import { screen, waitFor } from "@testing-library/react";
import { beforeEach, expect, test } from "vitest";
import type { Garage } from "../api/client";
import { keepFor } from "../lib/drafts";
import { chooseGarage, useGarage, useInGarageOf } from "../lib/garage";
import { type Answers, serve, show } from "../testing/render";
import { Garages } from "./Garages";

const garage = (id: number, name: string): Garage => ({ id, name, units: {}, house_rules: {}, emergency_number: "" });

function Here({ of }: { of?: { garage_id: number } | undefined }) {
  useInGarageOf(of);
  const here = useGarage();
  return (
    <>
      <p>In {here?.name ?? "none"}</p>
      <Garages here={here?.id ?? 0} />
    </>
  );
}

let there: Garage[];
beforeEach(() => {
  localStorage.clear();
  keepFor("k.1");
  there = [garage(1, "Plum Yard"), garage(4, "The club")];
});
const page = (answers: Answers = {}, of?: { garage_id: number }) => {
  const asked = serve({ "GET /api/garages": () => ({ body: there }), ...answers });
  return { asked, ...show(<Here of={of} />) };
};

test("one goes from garage to garage, and the device remembers", async () => {
  const { user, unmount } = page();
  expect(await screen.findByText("In Plum Yard")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Go to The club" }));
  expect(screen.getByText("In The club")).toBeDefined();
  expect(screen.getByRole("link", { name: "Save all of The club as one file" }).getAttribute("href")).toBe(
    "/api/garages/4/export",
  );
  unmount();
  page();
  expect(await screen.findByText("In The club")).toBeDefined();
});

test("whoever opens a machine is in its garage; one that is gone is not chosen", async () => {
  page({}, { garage_id: 4 });
  expect(await screen.findByText("In The club")).toBeDefined();
});

test("a garage that is no longer one's own gives way to the first", async () => {
  chooseGarage(77);
  page();
  expect(await screen.findByText("In Plum Yard")).toBeDefined();
});

test("another garage is made and gone into", async () => {
  const { user, asked } = page({
    "POST /api/garages": ({ body }) => {
      there = [...there, garage(9, String(body.name))];
      return { body: there[2] };
    },
  });
  await user.type(await screen.findByLabelText("Name of another garage"), "Barn");
  await user.click(screen.getByRole("button", { name: "Make it" }));
  expect(await screen.findByText("In Barn")).toBeDefined();
  expect(asked.find((one) => one.method === "POST")?.body).toEqual({ name: "Barn" });
});

test("the last member says the name once more, and then it is gone", async () => {
  const { user, asked } = page({
    "POST /api/session/leave-garage": ({ body }) => {
      if (body.confirm !== "The club")
        return { status: 409, body: { code: "last_one", message: "It goes with all its builds." } };
      there = there.slice(0, 1);
      return { status: 204 };
    },
  });
  await user.click(await screen.findByRole("button", { name: "Leave The club" }));
  await user.click(screen.getByRole("button", { name: "Leave it" }));
  expect((await screen.findByRole("alert")).textContent).toBe("It goes with all its builds.");
  const button = screen.getByRole<HTMLButtonElement>("button", { name: "Delete it and leave" });
  expect(button.disabled).toBe(true);
  await user.type(screen.getByLabelText("Name of the garage, once more"), "The club");
  await user.click(button);
  await waitFor(() => expect(screen.queryByText("The club")).toBeNull());
  expect(asked.filter((one) => one.method === "POST").at(-1)?.body).toEqual({ garage: 4, confirm: "The club" });
});
