import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { UndoProvider } from "../bin/Undo";
import { type Answers, serve, show } from "../testing/render";
import { PhotoStrip } from "./PhotoStrip";

const photo = { id: 3, width: 40, height: 60, place: "", caption: "its label", when: "2026-03-01T10:00:00Z", by_name: "ada" };

function strip(answers: Answers = {}) {
  const asked = serve({
    "GET /api/garages/1/photos": () => ({ body: [photo] }),
    "POST /api/uploads": () => ({ body: { id: 9, name: "x.jpg", size: 4, received: 0, most_part: 4 } }),
    "PUT /api/uploads/9/parts/0": () => ({ body: { id: 9, name: "x.jpg", size: 4, received: 4, most_part: 4 } }),
    "POST /api/garages/1/photos": () => ({ body: photo }),
    "DELETE /api/garages/1/photos/3": () => ({ status: 204 }),
    ...answers,
  });
  const node = (
    <UndoProvider>
      <PhotoStrip garageId={1} shows={{ part: 4 }} title="Photos" />
    </UndoProvider>
  );
  return { asked, ...show(node) };
}

test("a photo is sent with what it shows, and of which thing it is", async () => {
  const { user, asked } = strip();
  await user.type(await screen.findByLabelText(/What the next photo shows/), "its plug");
  await user.upload(
    screen.getByLabelText("Photo, from the camera or a file"),
    new File(["abcd"], "x.jpg", { type: "image/jpeg" }),
  );
  await waitFor(() =>
    expect(asked.find((one) => one.method === "POST" && one.path === "/api/garages/1/photos")?.body).toEqual({
      upload: 9,
      caption: "its plug",
      place: "",
      part: 4,
    }),
  );
});

test("a photo is shown large, and goes to the bin", async () => {
  const { user, asked } = strip();
  await user.click(await screen.findByRole("button", { name: "its label, large" }));
  const dialog = within(await screen.findByRole("dialog", { name: "its label" }));
  expect(dialog.getByRole("img", { name: "its label" }).getAttribute("src")).toBe("/api/garages/1/photos/3/picture");
  await user.click(dialog.getByRole("button", { name: "Delete it" }));
  await waitFor(() => expect(asked.some((one) => one.method === "DELETE")).toBe(true));
  expect(screen.queryByRole("dialog")).toBeNull();
});

test("a file that is no picture is told", async () => {
  const { user } = strip({
    "POST /api/garages/1/photos": () => ({
      status: 422,
      body: { code: "no_picture", message: "This is no picture that can be read." },
    }),
  });
  await user.upload(
    await screen.findByLabelText("Photo, from the camera or a file"),
    new File(["abcd"], "x.jpg", { type: "image/jpeg" }),
  );
  expect(await screen.findByText("This is no picture that can be read.")).toBeDefined();
});
