import { screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { BuildGlance, Garage, Import, Rider } from "../api/client";
import { keepFor } from "../lib/drafts";
import { type Answers, rackPartOf, serve, show } from "../testing/render";
import { GarageHome } from "./GarageHome";

const garage: Garage = { id: 1, name: "Shed", units: {}, house_rules: { wire_school: "careful" }, emergency_number: "" };
const glance = (id: number, more: Partial<BuildGlance> = {}): BuildGlance => ({
  id,
  name: `Build ${id}`,
  family: "quad",
  description: "",
  setups: 3,
  setup_id: 10 + id,
  setup_name: "Two packs",
  stations: [
    { id: "leads", name: "Leads", asks: 12, stands: 30, share: 0.4, state: "fine", unit: "A", weak: true },
  ] as unknown as BuildGlance["stations"],
  stages: { survey: "done", power: "done", protect: "stop", drive: "open", hookup: "open", prove: "open", care: "open" },
  next_stage: "protect",
  next_step: "There is no main fuse",
  stops: 1,
  looks: 2,
  worked_on: "",
  worked_on_stops: 0,
  worked_on_looks: 0,
  cautions: 0,
  top_speed_m_s: 4.4704,
  run_time_s: 1800,
  last_trial: null,
  trouble: "",
  ...more,
});
const part = rackPartOf();
const rider: Rider = { id: 5, name: "Ada", document: { age_years: 8, mass_kg: { value: 30, basis: "measured" } } };

const household = [
  { id: 1, username: "ada", role: "owner", you: true },
  { id: 2, username: "cleo", role: "builder", you: false },
];

function page(builds: BuildGlance[], answers: Answers = {}, total = builds.length) {
  const asked = serve({
    "GET /api/garages": () => ({ body: [garage] }),
    "GET /api/garages/1/rack": () => ({ body: [part] }),
    "GET /api/garages/1": () => ({ body: { garage, builds, total, riders: [rider] } }),
    "GET /api/session": () => ({ body: { signed_in: true, demo: false } }),
    "GET /api/garages/1/imports": () => ({ body: [] }),
    "GET /api/garages/1/invitations": () => ({ body: [] }),
    "GET /api/garages/1/security": () => ({ body: [] }),
    "GET /api/garages/1/members": () => ({ body: household }),
    "GET /api/parts": () => ({
      body: {
        packs: [{ id: "p", label: "10-cell pack", group: "Garden packs", part: { cells_in_series: 10 } }],
        fuses: [{ id: "f", label: "30 A blade", group: "Blade fuses", part: { rating_a: 30 } }],
      },
    }),
    ...answers,
  });
  return { asked, ...show(<GarageHome />) };
}
const sent = (asked: ReturnType<typeof serve>, method: string) =>
  asked.filter((a) => a.method === method).map((a) => [a.path, a.body]);

test("an empty garage says how to begin", async () => {
  page([]);
  const start = await screen.findByRole("link", { name: "Start your first build" });
  expect(start.getAttribute("href")).toBe("/start");
  expect(screen.getByText("0 builds")).toBeDefined();
});

test("a build that cannot be computed says why, and is listed like the others", async () => {
  page([glance(1, { trouble: "The most this planner takes is [[2|length]]; this is [[90|length]].", stations: [] }), glance(2)]);
  expect(await screen.findByText(/Cannot be computed: The most this planner takes is 6.6 ft; this is 295.* ft/)).toBeDefined();
  expect(screen.getByRole("heading", { name: "Build 2" })).toBeDefined();
});

test("unsaved work of another database is offered as a file and never applied", async () => {
  keepFor("now.1");
  for (const key of ["gecko-draft-3", "gecko-draft:before.1:7", "gecko-draft:now.1:7"]) localStorage.setItem(key, "{}");
  const { user } = page([glance(1)]);
  const here = within(await screen.findByRole("region", { name: "Unsaved work of another garage" }));
  expect(here.getAllByRole("button", { name: /^Keep/ }).length).toBe(2);
  await user.click(here.getByRole("button", { name: "Throw unsaved-setup-3.json away" }));
  expect(localStorage.getItem("gecko-draft-3")).toBeNull();
  await user.click(here.getByRole("button", { name: "Throw unsaved-setup-7.json away" }));
  expect(screen.queryByRole("region", { name: "Unsaved work of another garage" })).toBeNull();
  expect(localStorage.getItem("gecko-draft:now.1:7")).toBe("{}");
  localStorage.clear();
  keepFor("");
});

test("who keeps the server backs it up, and puts one back after a look at what is in it", async () => {
  const name = "gecko-20261129-103000-000.sqlite3";
  let list = [{ name, made: "2026-11-29T10:30:00Z", size: 2_345_000 }];
  const { user, asked } = page([glance(1)], {
    "GET /api/session": () => ({ body: { signed_in: true, demo: false, keeps_server: true } }),
    "GET /api/backups": () => ({ body: list }),
    "POST /api/backups": () => {
      list = [{ name: "gecko-20261129-113000-000.sqlite3", made: "2026-11-29T11:30:00Z", size: 2_345_000 }, ...list];
      return { body: list[0] };
    },
    [`GET /api/backups/${name}`]: () => ({
      body: { garages: 1, builds: 4, setups: 9, trials: 12, accounts: 2, latest: "2026-11-28 09:00:00" },
    }),
    [`POST /api/backups/${name}/restore`]: () => ({ status: 403, body: { code: "keeper_only", message: "Not you." } }),
  });
  await user.click(await screen.findByText("Backups"));
  await user.click(screen.getByRole("button", { name: "Back up now" }));
  await waitFor(() => expect(screen.getAllByRole("link", { name: "Save as file" }).length).toBe(2));
  await user.click(screen.getAllByRole("button", { name: "Put back…" })[1] as HTMLElement);
  const dialog = within(await screen.findByRole("dialog"));
  expect(await dialog.findByText("1 garage, 4 builds, 9 setups, 12 trials")).toBeDefined();
  await user.click(dialog.getByRole("button", { name: "Put it back" }));
  expect(await dialog.findByText("Not you.")).toBeDefined();
  expect(sent(asked, "POST").at(-1)).toEqual([`/api/backups/${name}/restore`, { confirm: name }]);
});

test("who does not keep the server sees nothing of its backups", async () => {
  page([glance(1)]);
  await screen.findByRole("heading", { name: "Build 1" });
  expect(screen.queryByText("Backups")).toBeNull();
});

test("a build shows its weak link, what it is planned for and what comes next", async () => {
  page([glance(1)]);
  expect(await screen.findByRole("heading", { name: "Build 1" })).toBeDefined();
  expect(screen.getByText("12 of 30 A")).toBeDefined();
  expect(screen.getByText("10.0 mph")).toBeDefined();
  expect(screen.getByText("There is no main fuse")).toBeDefined();
  expect(screen.getByRole("link", { name: "Open protect" }).getAttribute("href")).toBe("/builds/1/setups/11/protect");
  expect(screen.getByText("1 build, 1 stop to clear")).toBeDefined();
});

test("a ride that was timed counts before the plan", async () => {
  page([
    glance(1, {
      last_trial: { speed_m_s: 3.57632, setup: "As found", when: "2026-05-02T10:00:00Z" } as BuildGlance["last_trial"],
    }),
  ]);
  expect(await screen.findByText("8.0 mph")).toBeDefined();
  expect(screen.getByText("As found, 2 May")).toBeDefined();
});

test("a long list is shown in parts and says so", async () => {
  page([glance(1), glance(2)], {}, 130);
  expect(await screen.findByText("130 builds, 2 stops to clear in the 2 shown")).toBeDefined();
  expect(screen.getByRole("button", { name: "Show more of the 130 builds" })).toBeDefined();
});

test("a garage that cannot be read says so", async () => {
  page([], { "GET /api/garages/1": () => ({ status: 500, body: {} }) });
  expect((await screen.findByRole("alert")).textContent).toContain("Reload to try again");
});

const job = (more: Partial<Import> = {}): Import => ({
  id: 3,
  name: "shed.zip",
  state: "checking",
  share: 0.4,
  created: "2026-05-02T10:00:00Z",
  mine: true,
  came_in: null,
  error: null,
  ...more,
});

const importing = (jobs: () => Import[], more: Answers = {}): Answers => ({
  "GET /api/garages/1/imports": () => ({ body: jobs() }),
  "POST /api/uploads": ({ body }) => ({ body: { id: 8, name: body.name, size: body.size, received: 0, most_part: 5 } }),
  "POST /api/garages/1/imports": () => ({ body: job() }),
  ...more,
});
const put = (received: number) => () => ({ body: { id: 8, received } });
const pick = async (user: ReturnType<typeof page>["user"], text: string) =>
  user.upload(await screen.findByLabelText("File of a build or a garage"), new File([text], "shed.zip"));

test("a file goes out part by part, goes on where the server says, and is read in", async () => {
  let jobs: Import[] = [];
  const sentAlready = { status: 409, body: { code: "wrong_part", message: "Go on at byte 5.", received: 5 } };
  let first = true;
  const { user, asked } = page(
    [],
    importing(() => jobs, {
      "PUT /api/uploads/8/parts/0": () => {
        if (!first) return { body: { id: 8, received: 5 } };
        first = false;
        return sentAlready;
      },
      "PUT /api/uploads/8/parts/5": put(8),
      "POST /api/garages/1/imports": () => {
        jobs = [job()];
        return { body: jobs[0] };
      },
    }),
  );
  await pick(user, "{12345}\n");
  expect((await screen.findByRole("progressbar", { name: "Checking shed.zip" })).getAttribute("value")).toBe("40");
  expect(sent(asked, "PUT").map(([path]) => path)).toEqual(["/api/uploads/8/parts/0", "/api/uploads/8/parts/5"]);
  expect(sent(asked, "POST").at(-1)).toEqual(["/api/garages/1/imports", { upload: 8 }]);
  const came_in = {
    builds: [{ id: 9, name: "Clover" }],
    riders: 1,
    parts: 2,
    photos: 3,
    rules: true,
    members: ["ada, owner"],
    left_out: [
      {
        file: "builds/2.json",
        message: "builds/2.json: The file has 1 mistake.",
        problems: [{ path: "builds/2.json/name", message: "Name is missing." }],
      },
    ],
  };
  jobs = [job({ state: "done", share: 1, came_in })];
  const dialog = within(await screen.findByRole("dialog", { name: "It is in the garage" }, { timeout: 3000 }));
  expect(dialog.getByText("Clover")).toBeDefined();
  expect(dialog.getByText(/1 rider and 2 parts/)).toBeDefined();
  expect(dialog.getByText("With 3 photos.")).toBeDefined();
  expect(dialog.getByText("Left out, because it could not be read:")).toBeDefined();
  expect(dialog.getByText(/Name is missing/)).toBeDefined();
  expect(dialog.getByText(/house rules and emergency number are this garage's now/)).toBeDefined();
});

test("one under way can be stopped, also by who opens the page later", async () => {
  const { user, asked } = page(
    [],
    importing(() => [job({ state: "storing", share: 0.7 })], { "DELETE /api/garages/1/imports/3": () => ({ status: 204 }) }),
  );
  await user.click(within(await screen.findByRole("list", { name: "Being read in" })).getByRole("button", { name: "Stop" }));
  expect(sent(asked, "DELETE").map(([path]) => path)).toEqual(["/api/garages/1/imports/3"]);
});

test("a file that is no build lists what is wrong and where, until that is put away", async () => {
  const problems = [
    { path: "/setups/0/document/motor/kind", message: "Kind must be one of …" },
    { path: "/name", message: "Name is missing." },
  ];
  let jobs = [
    job({
      state: "failed",
      error: { code: "import_invalid", message: "The file does not fit.", problems, hint: "Export it again." },
    }),
  ];
  const { user } = page(
    [],
    importing(() => jobs, {
      "DELETE /api/garages/1/imports/3": () => {
        jobs = [];
        return { status: 204 };
      },
    }),
  );
  const dialog = within(await screen.findByRole("dialog", { name: "Nothing was imported" }));
  expect(dialog.getAllByRole("listitem").length).toBe(2);
  expect(dialog.getByText("/setups/0/document/motor/kind")).toBeDefined();
  expect(dialog.getByText("Export it again.")).toBeDefined();
  await user.keyboard("{Escape}");
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
});

test("what came of another member's import is told to that member", async () => {
  const came_in = {
    builds: [{ id: 9, name: "Clover" }],
    riders: 0,
    parts: 0,
    photos: 0,
    rules: false,
    members: [],
    left_out: [],
  };
  page(
    [glance(1)],
    importing(() => [job({ state: "done", share: 1, came_in, mine: false })]),
  );
  await screen.findByRole("heading", { name: "Build 1" });
  expect(screen.queryByRole("dialog")).toBeNull();
});

test("a file larger than the server takes is refused before it is sent", async () => {
  const { user, asked } = page(
    [],
    importing(() => [], {
      "POST /api/uploads": () => ({ status: 413, body: { code: "too_large", message: "This file has 9.0 MB." } }),
    }),
  );
  await pick(user, "far too much");
  expect(await screen.findByText("This file has 9.0 MB.")).toBeDefined();
  expect(sent(asked, "PUT")).toEqual([]);
});

test("a rider with an age that is none is told at once", async () => {
  const { user, asked } = page([], { "POST /api/garages/1/riders": () => ({ body: rider }) });
  expect(await screen.findByText("8 years · 66 lb")).toBeDefined();
  await user.type(screen.getByLabelText("Rider's name"), "Bo");
  await user.type(screen.getByLabelText("Rider's age"), "five");
  expect(screen.getByRole("alert").textContent).toContain("Enter the age in years");
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "Add" }).disabled).toBe(true);
  await user.clear(screen.getByLabelText("Rider's age"));
  await user.type(screen.getByLabelText("Rider's age"), "5");
  await user.click(screen.getByRole("button", { name: "Add" }));
  await waitFor(() =>
    expect(sent(asked, "POST")).toEqual([["/api/garages/1/riders", { document: { name: "Bo", age_years: 5 } }]]),
  );
});

test("a rider can leave, a house rule can change", async () => {
  const { user, asked } = page([], {
    "DELETE /api/garages/1/riders/5": () => ({ status: 204 }),
    "PATCH /api/garages/1": () => ({ body: garage }),
  });
  await user.click(await screen.findByRole("button", { name: "Remove Ada" }));
  await user.click(screen.getByText("House rules"));
  await user.selectOptions(screen.getByLabelText("Fuse and wire"), "common");
  await waitFor(() => expect(sent(asked, "PATCH")).toEqual([["/api/garages/1", { house_rules: { wire_school: "common" } }]]));
  expect(sent(asked, "DELETE").length).toBe(1);
  // Values keep their kind: a number stays a number, yes and no stay so; and each school says why.
  await user.selectOptions(screen.getByLabelText("Volts over the motor's plate"), "a little, to 1.25 times");
  await user.selectOptions(screen.getByLabelText("Fuses at a single pack"), "one at the pack and a main fuse");
  await waitFor(() =>
    expect(sent(asked, "PATCH").slice(1)).toEqual([
      ["/api/garages/1", { house_rules: { overvolt_limit: 1.25 } }],
      ["/api/garages/1", { house_rules: { sole_main_fuse: false } }],
    ]),
  );
  expect(screen.getByText(/made for walls that stand still/)).toBeDefined();
});

test("the units of the garage are the reader's, and a switch keeps them", async () => {
  const { user, asked } = page([glance(1)], { "PATCH /api/garages/1": () => ({ body: garage }) });
  await screen.findByText("10.0 mph");
  await user.click(screen.getAllByRole("button", { name: "km/h" })[0] as HTMLElement);
  expect(screen.getByText("16.1 km/h")).toBeDefined();
  await waitFor(() =>
    expect(sent(asked, "PATCH")).toEqual([["/api/garages/1", { units: expect.objectContaining({ speed: "km/h" }) }]]),
  );
});

test("the owner lets others in and takes them out", async () => {
  const { user, asked } = page([], {
    "POST /api/garages/1/members": () => ({ body: household[1] }),
    "DELETE /api/garages/1/members/2": () => ({ status: 204 }),
  });
  await user.click(await screen.findByText("Household"));
  expect(await screen.findByText("(you)")).toBeDefined();
  expect(screen.queryByRole("button", { name: "Take ada out" })).toBeNull();
  await user.type(screen.getByLabelText("Name to sign in with"), "dora");
  await user.type(screen.getByLabelText("First password"), "willow-lane-3");
  await user.click(screen.getByRole("button", { name: "Let them in" }));
  await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("First password").value).toBe(""));
  expect(sent(asked, "POST")).toEqual([
    ["/api/garages/1/members", { username: "dora", password: "willow-lane-3", role: "builder" }],
  ]);
  await user.click(screen.getByRole("button", { name: "Take cleo out" }));
  await waitFor(() => expect(sent(asked, "DELETE").length).toBe(1));
});

test("the owner says what somebody may do, and reads what happened around the accounts", async () => {
  const event = { id: 3, name: "cleo", what: "failed", text: "", address: "192.0.2.7", when: "2026-03-01T10:00:00Z" };
  const { user, asked } = page([], {
    "PATCH /api/garages/1/members/2": () => ({ body: { ...household[1], role: "viewer" } }),
    "GET /api/garages/1/security": () => ({ body: [event] }),
  });
  await user.click(await screen.findByText("Household"));
  await user.selectOptions(await screen.findByLabelText("What cleo may do"), "viewer");
  await waitFor(() => expect(sent(asked, "PATCH")).toEqual([["/api/garages/1/members/2", { role: "viewer" }]]));
  expect(await screen.findByText(/wrong password/)).toBeDefined();
  expect(screen.getByText(/from 192\.0\.2\.7/)).toBeDefined();
});

test("a link lets somebody in, is shown once, and can be taken back", async () => {
  const made = { id: 4, role: "viewer", by: "ada", created: "2026-03-01T10:00:00Z", expires: "2026-03-08T10:00:00Z", token: "" };
  let open = [] as (typeof made)[];
  const { user, asked } = page([], {
    "GET /api/garages/1/invitations": () => ({ body: open }),
    "POST /api/garages/1/invitations": () => {
      open = [made];
      return { body: { ...made, token: "abc" } };
    },
    "DELETE /api/garages/1/invitations/4": () => {
      open = [];
      return { status: 204 };
    },
  });
  await user.click(await screen.findByText("Household"));
  await user.selectOptions(await screen.findByLabelText("As what"), "viewer");
  await user.click(screen.getByRole("button", { name: "Make the link" }));
  expect((await screen.findByLabelText<HTMLInputElement>("The link")).value).toMatch(/\/#join=abc$/);
  expect(sent(asked, "POST").at(-1)).toEqual(["/api/garages/1/invitations", { role: "viewer", days: 7 }]);
  await user.click(await screen.findByRole("button", { name: /^Take the invitation/ }));
  await waitFor(() => expect(screen.queryByLabelText("The link")).toBeNull());
});

test("deleting the account shows what to take along, and asks for the password", async () => {
  const { user, asked } = page([], {
    "GET /api/session/devices": () => ({ body: [] }),
    "POST /api/session/delete-account": () => ({
      status: 409,
      body: { code: "is_owner", message: "Plum Yard would have no owner: make somebody else one first." },
    }),
  });
  await user.click(await screen.findByText("Your account"));
  await user.click(await screen.findByRole("button", { name: "Delete this account…" }));
  expect((await screen.findByRole("link", { name: /^Shed, all of it/ })).getAttribute("href")).toBe("/api/garages/1/export");
  await user.type(screen.getByLabelText("Your password"), "willow-lane-3");
  await user.click(screen.getByRole("button", { name: "Delete it for good" }));
  expect((await screen.findByRole("alert")).textContent).toContain("make somebody else one first");
  expect(sent(asked, "POST").at(-1)).toEqual(["/api/session/delete-account", { password: "willow-lane-3" }]);
});

test("one's own account: a new password, and every other browser signed out", async () => {
  const phone = "Mozilla/5.0 (Linux; Android 15) Mobile";
  let list = [
    {
      id: 1,
      browser: "Mozilla/5.0 (X11; Linux x86_64)",
      address: "192.0.2.1",
      created: "2026-03-01T10:00:00Z",
      seen: "2026-03-02T10:00:00Z",
      here: true,
    },
    { id: 2, browser: phone, address: "192.0.2.2", created: "2026-03-01T10:00:00Z", seen: "2026-03-01T10:00:00Z", here: false },
  ];
  let right = false;
  const { user, asked } = page([], {
    "GET /api/session/devices": () => ({ body: list }),
    "POST /api/session/password": () =>
      right
        ? { status: 204 }
        : { status: 422, body: { code: "wrong_password", message: "This is not your password of now.", field: "/old" } },
    "POST /api/session/sign-out-elsewhere": () => {
      list = list.slice(0, 1);
      return { status: 204 };
    },
  });
  await user.click(await screen.findByText("Your account"));
  await user.type(await screen.findByLabelText("Password now"), "guess");
  await user.type(screen.getByLabelText("New password"), "summer-wind-12");
  await user.click(screen.getByRole("button", { name: "Change the password" }));
  expect((await screen.findByRole("alert")).textContent).toBe("This is not your password of now.");
  right = true;
  await user.click(screen.getByRole("button", { name: "Change the password" }));
  expect(await screen.findByText(/Every other browser is signed out/)).toBeDefined();
  expect(sent(asked, "POST").at(-1)).toEqual(["/api/session/password", { old: "guess", new: "summer-wind-12" }]);
  expect(await screen.findByText(/phone, Android/)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Sign out everywhere else" }));
  await waitFor(() => expect(screen.queryByText(/phone, Android/)).toBeNull());
});

test("a name that is taken is told and stays to be changed", async () => {
  const taken = {
    status: 422,
    body: { code: "name_taken", message: "Somebody signs in with this name already. Choose another." },
  };
  const { user } = page([], { "POST /api/garages/1/members": () => taken });
  await user.click(await screen.findByText("Household"));
  await user.type(await screen.findByLabelText("Name to sign in with"), "cleo");
  await user.type(screen.getByLabelText("First password"), "willow-lane-3{Enter}");
  expect((await screen.findByRole("alert")).textContent).toContain("Choose another");
  expect(screen.getByLabelText<HTMLInputElement>("Name to sign in with").value).toBe("cleo");
});

test("a member neither lets in nor takes out, but may sign out", async () => {
  const guest = household.map((m) => ({ ...m, you: m.role === "builder" }));
  const { user, asked } = page([], {
    "GET /api/garages/1/members": () => ({ body: guest }),
    "POST /api/session/sign-out": () => ({ body: { signed_in: false } }),
  });
  await user.click(await screen.findByText("Household"));
  await screen.findByText("(you)");
  expect(screen.queryByLabelText("First password")).toBeNull();
  expect(screen.queryByRole("button", { name: /^Take .* out$/ })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Sign out" }));
  await waitFor(() => expect(sent(asked, "POST").map(([path]) => path)).toEqual(["/api/session/sign-out"]));
});

test("the demo has no way out, for it opens by itself", async () => {
  const { user } = page([], { "GET /api/session": () => ({ body: { signed_in: true, demo: true } }) });
  await user.click(await screen.findByText("Household"));
  expect(await screen.findByText(/opens without signing in/)).toBeDefined();
  expect(screen.queryByRole("button", { name: "Sign out" })).toBeNull();
});

test("what is open is said of the setup in use and of the one worked on", async () => {
  page([glance(1, { worked_on: "Gentle", worked_on_stops: 0, worked_on_looks: 1 })]);
  expect(await screen.findByText(/1 stop, 2 to look at/)).toBeDefined();
  expect(screen.getByText(/Worked on: Gentle/).textContent).toContain("1 to look at");
});

test("the emergency number is kept with the garage", async () => {
  const { user, asked } = page([], { "PATCH /api/garages/1": () => ({ body: garage }) });
  await user.type(await screen.findByLabelText(/Emergency number/), "112");
  await user.click(screen.getByRole("button", { name: "Keep" }));
  await waitFor(() => expect(sent(asked, "PATCH")).toEqual([["/api/garages/1", { emergency_number: "112" }]]));
});
