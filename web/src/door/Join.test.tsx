import { screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { serve, show } from "../testing/render";
import { invited, JOIN, Join } from "./Join";

const session = {
  signed_in: false,
  username: null,
  demo: false,
  first_visit: false,
  needs_code: false,
  keeper: "",
  keeps_server: false,
};
const told = { garage: "Plum Yard", role: "viewer", by: "ada", expires: "2026-03-31T10:00:00Z" };

test("a link makes an account in the garage it was made for, and is gone from the address", async () => {
  window.history.replaceState(null, "", `/${JOIN}abc`);
  expect(invited()).toBe("abc");
  const away = vi.fn();
  const asked = serve({
    "POST /api/session/invitation": () => ({ body: told }),
    "POST /api/session/join": () => ({ status: 204 }),
  });
  const { user } = show(<Join session={session} token="abc" away={away} />);
  expect(await screen.findByRole("heading", { name: "Plum Yard" })).toBeDefined();
  expect(screen.getByText(/ada invites you to look/)).toBeDefined();
  await user.type(screen.getByLabelText("Your name"), "cleo");
  await user.type(screen.getByLabelText("Password"), "willow-lane-3");
  await user.click(screen.getByRole("button", { name: "Come in" }));
  await waitFor(() => expect(away).toHaveBeenCalled());
  const body = { token: "abc", username: "cleo", password: "willow-lane-3", code: "" };
  expect(asked.find((one) => one.path.endsWith("/join"))?.body).toEqual(body);
  expect(invited()).toBe("");
});

test("a link that is over says so, and leads to signing in", async () => {
  const away = vi.fn();
  serve({
    "POST /api/session/invitation": () => ({
      status: 404,
      body: { code: "invitation_over", message: "This invitation is over." },
    }),
  });
  const { user } = show(<Join session={session} token="abc" away={away} />);
  expect((await screen.findByRole("alert")).textContent).toBe("This invitation is over.");
  await user.click(screen.getByRole("button", { name: "Sign in instead" }));
  expect(away).toHaveBeenCalled();
});

test("whoever is signed in already comes into one more garage, or leaves it", async () => {
  const away = vi.fn();
  const asked = serve({
    "POST /api/session/invitation": () => ({ body: told }),
    "POST /api/session/accept": () => ({ body: { id: 5, name: "Plum Yard" } }),
  });
  const { user } = show(
    <Join session={{ ...session, signed_in: true, username: "bo", keeper: "k.2" }} token="abc" away={away} />,
  );
  await user.click(await screen.findByRole("button", { name: "Not now" }));
  expect(away).toHaveBeenCalledTimes(1);
  await user.click(screen.getByRole("button", { name: "Come in as bo" }));
  await waitFor(() => expect(away).toHaveBeenCalledTimes(2));
  expect(asked.find((one) => one.path.endsWith("/accept"))?.body).toEqual({ token: "abc" });
  expect(localStorage.getItem("gecko-garage:k.2")).toBe("5");
});
