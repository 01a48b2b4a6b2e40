import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import type { Changes, Chooser, DrivePlan, Evaluation, Ranges, Sprocket } from "../../api/client";
import { formOf, madeUp, serve, show } from "../../testing/render";
import { ChangesSection } from "./ChangesSection";
import { CourseSection } from "./CourseSection";
import { GearsSection } from "./GearsSection";
import { HeatSection } from "./HeatSection";
import { LaunchSection } from "./LaunchSection";
import { LimitsSection } from "./LimitsSection";
import { RidersSection } from "./RidersSection";
import { RideSection } from "./RideSection";
import { SprocketsSection, withChoice } from "./SprocketsSection";
import { SureSection } from "./SureSection";

const line = (y: number[], step = 60) => ({ x: y.map((_, i) => i * step), y });
const LAWN = { name: "Lawn laps", segments: [{ surface: "short grass", grade: 0, length_m: 60, share: 0.8, stop_s: 8 }] };

const launch = {
  marks: [{ speed_m_s: 4.4704, time_s: 3.2, distance_m: 7 }],
  time_s: 6,
  distance_m: 20,
  peak_a: 28,
  rms_a: 22,
  motor_peak_a: 42,
  largest_m_s2: 4,
  lifts_m_s2: 3,
  wheelie_margin: 0.75,
  wheelie_share: 0.72,
  slips_until_s: null,
  longer: [
    { longer_m: 0, wheelie_margin: 0.75 },
    { longer_m: 0.2, wheelie_margin: 1.1 },
  ],
  speed: line([0, 2, 4], 1),
  acceleration: line([4, 3, 1], 1),
  pack: line([10, 28, 28], 1),
  motor: line([42, 40, 30], 1),
} as NonNullable<DrivePlan["launch"]>;

test("the launch says when the front lifts and what a longer wheelbase would do", () => {
  show(<LaunchSection launch={launch} />);
  expect(screen.getByText(/Below 72 % of the motor amps it stays down/)).toBeDefined();
  expect(screen.getByText("0.75 × the launch").className).toContain("hottext");
  expect(screen.getByText("1.10 × the launch").className).not.toContain("hottext");
  const slider = screen.getByRole("slider", { name: "Seconds from rest" });
  fireEvent.change(slider, { target: { value: "750" } });
  // Three quarters of two seconds, half way between 2 and 4 m/s.
  expect(slider.getAttribute("aria-valuetext")).toBe("1.50 s");
  expect(screen.getByText("6.7 mph")).toBeDefined();
});

const round = {
  charge: 1,
  time_s: [0, 4, 4, 14, 16, 24],
  place_m: [0, 8, 8, 55, 60, 60],
  speed_m_s: [0, 4, 4, 4, 0, 0],
  pack_a: [18, 28, 9, 9, 0, 0],
  motor_a: [42, 30, 14, 14, 0, 0],
  volts_v: [40, 39, 41, 41, 42, 42],
  power_w: [720, 1092, 369, 369, 0, 0],
  climb_m: [0, 0, 0, 0, 0, 0],
  doing: ["full throttle, battery", "full throttle, battery", "holds its speed", "holds its speed", "brakes", "stands"],
};
const ride = {
  course: "Lawn laps",
  run_time_s: 1800,
  distance_m: 4000,
  ends_by: "guard",
  rounds: 75,
  mean_a: 9,
  wh_per_km: 30,
  top_m_s: 4,
  mean_m_s: 2.2,
  end_volts_v: 31,
  round_lines: [round, { ...round, charge: 0.5 }],
  charge: line([1, 0.5, 0.1], 900),
  volts: line([39, 36, 31], 900),
  amps: line([9, 9.5, 10], 900),
  speed: line([2, 2, 2], 900),
  winding: line([25, 90, 110], 900),
  case: line([25, 50, 60], 900),
  energy: [
    { name: "rolling", energy_wh: 80, share: 0.4 },
    { name: "winding", energy_wh: 120, share: 0.6 },
    { name: "spinning wheels", energy_wh: 0, share: 0 },
  ],
  balance: 1.0001,
} as NonNullable<DrivePlan["ride"]>;

test("a round is gone through by time or place, with what the rider does there", async () => {
  const { user } = show(<RideSection ride={ride} />);
  expect(screen.getByText(/because the low-volt guard switches off/)).toBeDefined();
  expect(screen.getByText(/2.49 mi/)).toBeDefined();
  const slider = screen.getByRole("slider", { name: "Seconds into the round" });
  fireEvent.change(slider, { target: { value: "400" } });
  expect(slider.getAttribute("aria-valuetext")).toBe("9.6 s, holds its speed");
  await user.click(screen.getByRole("button", { name: "place" }));
  fireEvent.change(screen.getByRole("slider", { name: "Place on the course" }), { target: { value: "1000" } });
  expect(screen.getByText("stands")).toBeDefined();
  await user.click(screen.getByRole("button", { name: "the whole ride" }));
  const whole = screen.getByRole("slider", { name: "Minutes into the ride" });
  fireEvent.change(whole, { target: { value: "500" } });
  expect(screen.getByText("50 %")).toBeDefined();
  expect(screen.getByText("60.0 % · 120 Wh")).toBeDefined();
  expect(screen.queryByText("spinning wheels")).toBeNull();
});

test("a steady ride has no rounds to choose", () => {
  show(<RideSection ride={{ ...ride, course: "Standard ride", rounds: null, round_lines: [] }} />);
  expect(screen.queryByRole("button", { name: "one round" })).toBeNull();
  expect(screen.getByRole("slider", { name: "Minutes into the ride" })).toBeDefined();
});

test("heat tells parts, days and rest, and marks what is over", () => {
  const heat = {
    parts: [
      { name: "Motor winding", limit_c: 155, course_c: 156, flat_out_c: null, to_limit_s: 240, basis: "x" },
      { name: "Controller", limit_c: 85, course_c: 40, flat_out_c: 60, to_limit_s: null, basis: "y" },
    ],
    stalled_to_stop_s: 40,
    cool_down: {
      start_winding_c: 150,
      start_case_c: 70,
      cool_s: 1500,
      touch_s: 600,
      winding: line([150, 80, 30], 900),
      case: line([70, 75, 30], 900),
    },
    days: [{ ambient_c: 10, winding_c: 140, run_time_s: 1800, ends_by: "guard", full_load_to_stop_s: null }],
    flat_out_winding: line([25, 120, 155]),
    flat_out_case: line([25, 50, 60]),
    course_winding: line([25, 100, 156]),
    course_case: line([25, 50, 70]),
    caution_c: 130,
    stop_c: 155,
  } as NonNullable<DrivePlan["heat"]>;
  show(<HeatSection heat={heat} />);
  const winding = screen.getByRole("row", { name: /Motor winding/ });
  expect(within(winding).getByText("beyond it")).toBeDefined();
  expect(within(winding).getByText("4 min")).toBeDefined();
  expect(screen.getByText(/Cool again after 25 min; a hand can rest on the case after 10 min/)).toBeDefined();
  expect(screen.getByText(/at its end in 40 s/)).toBeDefined();
});

test("a gear that does not move says so", () => {
  const gear = {
    name: "High",
    kind: "gear",
    in_use: true,
    moves: true,
    top_speed_m_s: 2,
    push_n: 200,
    stall_a: 50,
    launch_s: 2,
    hill_grade: 0.2,
    hill_ends_by: "traction",
    wheelie_margin: 0.8,
    wheelie_share: 0.7,
    full_load_to_stop_s: null,
    note: "",
  } as DrivePlan["gears"][number];
  show(<GearsSection gears={[gear, { ...gear, name: "One out", in_use: false, moves: false, note: "It stands still." }]} />);
  expect(screen.getByText("70 % of the amps")).toBeDefined();
  expect(within(screen.getByRole("row", { name: /One out/ })).getByText("does not move")).toBeDefined();
});

test("hill, stop and turn name what ends each", () => {
  const plan = {
    known: true,
    hills: {
      pace_m_s: 1.2,
      motor_grade: 0.4,
      traction_grade: 0.23,
      tips_back_grade: 10,
      holds_grade: 0.23,
      holds_ends_by: "traction",
      starts_grade: 0.2,
      starts_ends_by: "motor:phase",
    },
    stops: [{ brake: "disc", axles: "both", in_use: true, deceleration_m_s2: 5, distance_m: 9, against_stock: 1.4 }],
    turns: [{ radius_m: 3, slides_m_s: 4, tips_m_s: null }],
    reaction_s: 1.5,
  } as unknown as DrivePlan;
  show(<LimitsSection plan={plan} />);
  expect(screen.getByText("23 %: it slips")).toBeDefined();
  expect(screen.getByText("20 %: motor amps")).toBeDefined();
  expect(screen.getByText("any")).toBeDefined();
  expect(screen.getByText("leans")).toBeDefined();
  expect(screen.getByText("1.4 ×")).toBeDefined();
});

const choice = (more: Partial<Sprocket>): Sprocket =>
  ({
    label: "",
    side: "motor",
    motor_teeth: 12,
    wheel_teeth: 80,
    wheel_diameter_m: 0.3,
    ratio: 6.7,
    in_use: false,
    top_speed_m_s: 6,
    launch_s: 5,
    hill_grade: 0.1,
    hill_ends_by: "motor:phase",
    wheelie_margin: 2,
    motor_20min_c: 90,
    run_time_s: 1800,
    stock_torque: 1,
    chain_pull_n: 180,
    links: 146,
    centre_m: 0.3,
    patch: [],
    ...more,
  }) as Sprocket;

test("trying a sprocket hands over the setup with it", async () => {
  const tryOut = vi.fn();
  const doc = { drivetrain: { kind: "chain", motor_teeth: 12, wheel_teeth: 80, ratio: { value: 7, basis: "assumed" } } };
  const patch: Sprocket["patch"] = [
    { op: "add", path: "/drivetrain/motor_teeth", value: 13 },
    { op: "add", path: "/drivetrain/ratio", value: null },
  ];
  const sprockets = {
    chain: "25",
    pitch_m: 0.00635,
    why_none: "",
    choices: [choice({ side: "as set up", in_use: true }), choice({ motor_teeth: 13, top_speed_m_s: 6.4, patch })],
  } as NonNullable<Chooser["sprockets"]>;
  const { user } = show(<SprocketsSection sprockets={sprockets} doc={doc} tryOut={tryOut} />);
  await user.click(screen.getByRole("button", { name: "Try" }));
  expect(tryOut.mock.calls[0]?.[0].label).toBe("With 13 teeth");
  expect(tryOut.mock.calls[0]?.[0].doc.drivetrain).toEqual({ kind: "chain", motor_teeth: 13, wheel_teeth: 80, ratio: null });
  expect(withChoice(doc, choice({ patch: [] }))).toEqual(doc);
});

test("changes come with their price", async () => {
  const tryOut = vi.fn();
  const tried = {
    changes: [
      {
        lever: "volts",
        label: "One more pack in series",
        detail: "63 V",
        top_speed_m_s: 8,
        top_gain_m_s: 0.44704,
        launch_gain_s: -0.4,
        hill_gain: 0.02,
        run_time_gain_s: -300,
        winding_gain_k: 10,
        stop_gain_m: 2,
        limit_at_top: "volts",
        worst_station: "Controller",
        worst_share: 1.26,
        worst_before: 0.84,
        document: madeUp({ a: 1 }),
      },
    ],
    held_back: { station: null, limit: "volts", title: "Volts", sentence: "It brings [[0.44704|speed]].", state: "close" },
  } as NonNullable<Changes["tried"]>;
  const { user } = show(<ChangesSection tried={tried} tryOut={tryOut} />);
  expect(screen.getByText("It brings 1.0 mph.")).toBeDefined();
  for (const text of ["+1.0 mph", "−0.4 s", "+2 %", "−5 min", "+18 °F", "+6.6 ft"]) expect(screen.getByText(text)).toBeDefined();
  await user.click(screen.getByRole("button", { name: "Try" }));
  expect(tryOut).toHaveBeenCalledWith({ label: "One more pack in series", doc: { a: 1 } });
});

test("the riders' label goes to the printer alone", async () => {
  const print = vi.fn(() => expect(document.documentElement.dataset.printing).toBe("riders"));
  vi.stubGlobal("print", print);
  const choose = vi.fn();
  const rider = {
    name: "Kit",
    age_years: 7,
    mass_kg: 24,
    cap_m_s: 3.57632,
    cap_basis: "by age",
    top_speed_m_s: 7,
    duty: 0.5,
    mark: 0.48,
    marks_measured: 0,
    mode: null,
    mode_speed_m_s: null,
    lifts_front: true,
    over_weight: false,
    line: "knob at 4.8",
  } as DrivePlan["riders"][number];
  const { user } = show(
    <RidersSection riders={[rider, { ...rider, name: "Bo" }]} note="A starting point." build="Fern" rides="Bo" choose={choose} />,
  );
  expect(screen.getAllByText("knob at 4.8")).toHaveLength(2);
  expect(screen.getAllByText(/a launch lifts the front/)).toHaveLength(2);
  expect(screen.queryByRole("button", { name: "Count with Bo" })).toBeNull();
  await user.click(screen.getByRole("button", { name: "Count with Kit" }));
  expect(choose).toHaveBeenCalledWith("Kit");
  await user.click(screen.getByRole("button", { name: "Print the label" }));
  expect(print).toHaveBeenCalledOnce();
  expect(document.documentElement.dataset.printing).toBeUndefined();
});

test("how sure: the range and what widens it", () => {
  const evaluation = { outcome: { top_speed_m_s: 6, run_time_s: null } } as unknown as Evaluation;
  const ranges = {
    outcomes: { top_speed_m_s: { low: 5, median: 6, high: 7 } },
    widest: {
      top_speed_m_s: [{ path: "/x", name: "motor's speed", share: 0.71, basis: "assumed", how: "hold a tachometer to it" }],
    },
  } as unknown as Ranges;
  show(<SureSection evaluation={evaluation} ranges={ranges} />);
  expect(screen.getByText(/motor's speed \(71 % of the doubt\): hold a tachometer to it/)).toBeDefined();
  expect(screen.getByText("11.2 mph – 15.7 mph")).toBeDefined();
});

test("a course is chosen, changed, and read from a file", async () => {
  const asked = serve({
    "GET /api/courses": () => ({ body: [LAWN] }),
    "POST /api/courses/read": ({ body }) =>
      String(body.text).startsWith("0,0")
        ? { body: { course: { ...LAWN, name: "yard" }, said: ["2 of 9 points had no height."] } }
        : { status: 422, body: { code: "invalid", message: "This file is empty." } },
  });
  const { wrap, edits } = formOf({ course: null });
  const { user, again } = show(wrap(<CourseSection />));
  await user.click(await screen.findByRole("button", { name: "Lawn laps" }));
  expect(edits).toEqual([["/course", LAWN]]);
  const file = screen.getByLabelText("Course file, GPX or CSV");
  await user.upload(file, new File(["0,0\n60,1"], "yard.csv", { type: "text/csv" }));
  await waitFor(() => expect(edits.at(-1)).toEqual(["/course", { ...LAWN, name: "yard" }]));
  expect(asked.at(-1)?.body).toEqual({ name: "yard", text: "0,0\n60,1", upload: null });
  await user.upload(file, new File([""], "none.csv", { type: "text/csv" }));
  expect(await screen.findByText("This file is empty.")).toBeDefined();

  // A large one goes part by part, and the server is told which it is.
  const long = formOf({ course: { ...LAWN, segments: Array.from({ length: 30 }, () => ({ ...LAWN.segments[0] })) } });
  serve({
    "POST /api/uploads": ({ body }) => ({ body: { id: 8, name: body.name, size: body.size, received: 0, most_part: 4_000_000 } }),
    "PUT /api/uploads/8/parts/0": () => ({
      body: { id: 8, name: "t", size: 1_000_001, received: 1_000_001, most_part: 4_000_000 },
    }),
    "POST /api/courses/read": ({ body }) => ({ body: { course: { ...LAWN, name: `${body.upload} ${body.text}` }, said: [] } }),
  });
  again(long.wrap(<CourseSection />));
  // Looked for by what is cheap to find: among two hundred fields a search by label takes seconds.
  await user.upload(
    document.querySelector<HTMLInputElement>("input[type=file]") as HTMLInputElement,
    new File(["x".repeat(1_000_001)], "track.gpx"),
  );
  await waitFor(() => expect(long.edits.at(-1)).toEqual(["/course", { ...LAWN, name: "8 " }]));
  expect(screen.getAllByText("Pace")).toHaveLength(20);
  await user.click(screen.getByText("Show 10 more of 30"));
  expect(screen.getAllByText("Pace")).toHaveLength(30);

  const own = formOf({ course: LAWN });
  again(own.wrap(<CourseSection />));
  await user.selectOptions(screen.getByLabelText("Pace"), "coast");
  const [pointer, value] = own.edits.at(-1) ?? [];
  expect(pointer).toBe("/course");
  expect((value as typeof LAWN).segments[0]).toMatchObject({ coast: true, share: null, length_m: 60 });
  await user.click(screen.getByRole("button", { name: "One more stretch" }));
  const [, longer] = own.edits.at(-1) as unknown as [string, typeof LAWN];
  expect(longer.segments).toHaveLength(2);
  await user.click(screen.getByRole("button", { name: "Standard ride" }));
  expect(own.edits.at(-1)).toEqual(["/course", null]);
});
