import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { UndoProvider } from "../bin/Undo";
import { type Answers, serve, show } from "../testing/render";
import { PhotoStrip } from "./PhotoStrip";
import { PhotosOf } from "./PhotosOf";

const photo = {
  id: 3,
  width: 40,
  height: 60,
  part_id: 4,
  setup_id: null,
  place: "",
  trial_id: null,
  entry_id: null,
  caption: "its label",
  when: "2026-03-01T10:00:00Z",
  by_name: "ada",
};

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

test("of a build each thing shows its own photos, and how many; one more goes to that thing", async () => {
  const of = (id: number, more: object) => ({ ...photo, id, part_id: null, ...more });
  const asked = serve({
    "GET /api/builds/2/photos": () => ({
      body: [
        of(5, { setup_id: 7, place: "fuse" }),
        of(6, { setup_id: 7, place: "plug" }),
        of(7, { trial_id: 9 }),
        of(8, { entry_id: 9 }),
      ],
    }),
    "POST /api/uploads": () => ({ body: { id: 9, name: "x.jpg", size: 4, received: 0, most_part: 4 } }),
    "PUT /api/uploads/9/parts/0": () => ({ body: { id: 9, name: "x.jpg", size: 4, received: 4, most_part: 4 } }),
    "POST /api/garages/1/photos": () => ({ body: photo }),
  });
  const { user } = show(
    <UndoProvider>
      <PhotosOf garageId={1} shows={{ build: 2, setup: 7, place: "fuse" }} title="Photos of the fuse" />
      <PhotosOf garageId={1} shows={{ build: 2, trial: 9 }} title="Photos of the run" />
      <PhotosOf garageId={1} shows={{ build: 2, entry: 10 }} title="Photos of the entry" />
    </UndoProvider>,
  );
  expect(await screen.findByRole("button", { name: "Photos of the run: 1" })).toBeDefined();
  expect(screen.getByRole("button", { name: "Photos of the entry: add one" })).toBeDefined();
  expect(asked.filter((one) => one.method === "GET").length).toBe(1);
  await user.click(screen.getByRole("button", { name: "Photos of the fuse: 1" }));
  const dialog = within(await screen.findByRole("dialog", { name: "Photos of the fuse" }));
  expect(dialog.getAllByRole("listitem").length).toBe(1);
  await user.upload(
    dialog.getByLabelText("Photo, from the camera or a file"),
    new File(["abcd"], "x.jpg", { type: "image/jpeg" }),
  );
  await waitFor(() =>
    expect(asked.find((one) => one.path === "/api/garages/1/photos")?.body).toEqual({
      upload: 9,
      caption: "",
      place: "fuse",
      setup: 7,
    }),
  );
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
