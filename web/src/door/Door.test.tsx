import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Session } from "../api/client";
import { type Answers, serve, show } from "../testing/render";
import { Door } from "./Door";

const session = (more: Partial<Session> = {}) =>
  ({ signed_in: false, first_visit: false, needs_code: false, ...more }) as Session;
function page(of: Session, answers: Answers = {}) {
  const asked = serve(answers);
  return { asked, ...show(<Door session={of} />) };
}

test("the first visit makes the account and names the garage", async () => {
  const { user, asked } = page(session({ first_visit: true }), { "POST /api/session/sign-up": () => ({ body: session() }) });
  await user.type(screen.getByLabelText("Your name"), "ada");
  await user.type(screen.getByLabelText("Password"), "long enough words");
  await user.type(screen.getByLabelText("Name of the garage"), "Shed");
  await user.click(screen.getByRole("button", { name: "Open the garage" }));
  await waitFor(() =>
    expect(asked[0]?.body).toEqual({ username: "ada", password: "long enough words", garage: "Shed", code: "" }),
  );
});

test("later ones sign in, over the house's network with its code", async () => {
  const { user, asked } = page(session({ needs_code: true }), { "POST /api/session/sign-in": () => ({ body: session() }) });
  expect(screen.queryByLabelText("Name of the garage")).toBeNull();
  await user.type(screen.getByLabelText("Your name"), "ada");
  await user.type(screen.getByLabelText("Password"), "words");
  await user.type(screen.getByLabelText("Code"), "123456{Enter}");
  await waitFor(() => expect(asked[0]?.body).toEqual({ username: "ada", password: "words", code: "123456" }));
});

test("what was wrong is said, and what was typed stays", async () => {
  const wrong = () => ({ status: 401, body: { code: "sign_in", message: "Name and password do not fit together." } });
  const { user } = page(session(), { "POST /api/session/sign-in": wrong });
  await user.type(screen.getByLabelText("Your name"), "ada");
  await user.type(screen.getByLabelText("Password"), "wrong{Enter}");
  expect((await screen.findByRole("alert")).textContent).toBe("Name and password do not fit together.");
  expect(screen.getByLabelText<HTMLInputElement>("Your name").value).toBe("ada");
});

test("a password is not shown while it is typed", () => {
  page(session());
  expect(screen.getByLabelText("Password").getAttribute("type")).toBe("password");
});
