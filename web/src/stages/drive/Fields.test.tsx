import { screen, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { formOf, rackPartOf, serve, show } from "../../testing/render";
import { ControllerFields, GearingFields, MotorFields, RiderFields } from "./Fields";

const PARTS = { "GET /api/parts": () => ({ body: {} }) };

test("modes are added, put in use, and taken out with what uses them", async () => {
  serve(PARTS);
  const { wrap, edits } = formOf({
    controller: { kind: "brushed", modes: [{ name: "low", duty: 0.4, current: 1 }], mode: "low" },
  });
  const { user } = show(wrap(<ControllerFields />));
  await user.click(screen.getByRole("button", { name: "Add a mode" }));
  expect(edits.at(-1)).toEqual([
    "/controller/modes",
    [
      { name: "low", duty: 0.4, current: 1 },
      { name: "middle", duty: 0.7, current: 1 },
    ],
  ]);
  await user.click(screen.getByRole("button", { name: "Take mode low out" }));
  expect(edits.at(-1)).toEqual(["/controller", { kind: "brushed", modes: [], mode: null }]);
  await user.click(screen.getByRole("button", { name: "No mode in use" }));
  expect(edits.at(-1)).toEqual(["/controller/mode", null]);
});

test("measured marks of the knob start as measured figures", async () => {
  serve(PARTS);
  const { wrap, edits } = formOf({ controller: { kind: "brushed" }, throttle: { kind: "hall" } });
  const { user } = show(wrap(<ControllerFields />));
  await user.click(screen.getByText(/The knob's scale/));
  await user.click(screen.getByRole("button", { name: "Add a measured mark" }));
  expect(edits.at(-1)).toEqual([
    "/throttle",
    { kind: "hall", knob: [{ mark: 0.5, speed_m_s: { value: 3, basis: "measured" } }] },
  ]);
});

test("another throttle leaves the machine's levers, and not what was measured at the old one's marks", async () => {
  const own = rackPartOf({
    id: 4,
    key: "k4",
    kind: "throttles",
    label: "Thumb",
    letter: "",
    document: { kind: "hall", rack: { key: "k4" } } as never,
  });
  serve({
    ...PARTS,
    "GET /api/garages": () => ({ body: [{ id: 2, name: "Tideline Shed" }] }),
    "GET /api/garages/2/rack": () => ({ body: [own] }),
  });
  const knob = [{ mark: 0.5, speed_m_s: { value: 3, basis: "measured" } }];
  const throttle = { kind: "hall", levers: true, limiter_mark: 0.4, returns: true, knob };
  const { wrap, edits } = formOf({ controller: { kind: "brushed" }, throttle });
  const { user } = show(wrap(<ControllerFields />));
  await user.selectOptions(await screen.findByLabelText("Throttle or pedal of your rack"), "Thumb");
  expect(edits.at(-1)).toEqual(["/throttle", { kind: "hall", rack: { key: "k4" }, levers: true, limiter_mark: 0.4 }]);
});

test("without a controller there is a pedal switch and nothing to meter", () => {
  serve(PARTS);
  const { wrap } = formOf({ controller: { kind: "none" } });
  show(wrap(<ControllerFields />));
  expect(screen.getByLabelText("Pedal switch stands")).toBeDefined();
  expect(screen.queryByText("Speed modes")).toBeNull();
});

test("two motors in series are told to share the volts", async () => {
  const { wrap, edits } = formOf({ motor: { kind: "brushed", wiring: "series" } });
  const { user } = show(wrap(<MotorFields />));
  expect(screen.getByText(/each motor sees half/)).toBeDefined();
  await user.selectOptions(screen.getByLabelText("How many"), "single");
  expect(edits.at(-1)).toEqual(["/motor", { kind: "brushed", wiring: "single", count: 1 }]);
});

test("a chain asks for what must fit, a hub does not", () => {
  const { again } = show(formOf({ drivetrain: { kind: "chain" } }).wrap(<GearingFields />));
  expect(screen.getByLabelText("Chain size, stamped")).toBeDefined();
  expect(screen.getByText(/Does it fit/)).toBeDefined();
  again(formOf({ drivetrain: { kind: "hub" } }).wrap(<GearingFields />));
  expect(screen.queryByText(/Does it fit/)).toBeNull();
});

test("a rider of the garage is put in whole; the electric brake is asked for where there may be one", async () => {
  const { wrap, edits } = formOf({ vehicle: { family: "transplant" }, rider: { name: "Kit" } });
  const riders = [{ id: 1, name: "Bo", document: { age_years: 9 } }];
  const { user } = show(wrap(<RiderFields riders={riders} cap={3} grownUp={false} />));
  await user.click(screen.getAllByRole("button", { name: "Bo" })[0] as HTMLElement);
  expect(edits.at(-1)).toEqual(["/rider", { age_years: 9, name: "Bo" }]);
  const brake = screen.getByLabelText("Electric brake");
  expect(within(brake).getByText("released for good")).toBeDefined();
});

test("who else rides it and who rides along are put in whole", async () => {
  const { wrap, edits } = formOf({ vehicle: { family: "quad" }, rider: { name: "Kit" }, also: [{ name: "Cleo" }] });
  const riders = [{ id: 1, name: "Bo", document: { age_years: 9 } }];
  const { user } = show(wrap(<RiderFields riders={riders} cap={3} grownUp={false} />));
  await user.click(within(screen.getByRole("group", { name: "Who else rides it" })).getByRole("button", { name: "Bo" }));
  expect(edits.at(-1)).toEqual(["/also", [{ name: "Cleo" }, { age_years: 9, name: "Bo" }]]);
  await user.click(within(screen.getByRole("group", { name: "Who rides along" })).getByRole("button", { name: "Bo" }));
  expect(edits.at(-1)).toEqual(["/passenger", { age_years: 9, name: "Bo" }]);
});

test("only a grown-up is asked whether the front may lift", () => {
  const { wrap } = formOf({ vehicle: { family: "mini bike" }, rider: { name: "Kit", age_years: 18 } });
  const shown = show(wrap(<RiderFields riders={[]} cap={9} grownUp />));
  expect(screen.getByText(/Wants the front to lift/)).toBeDefined();
  shown.unmount();
  show(wrap(<RiderFields riders={[]} cap={9} grownUp={false} />));
  expect(screen.queryByText(/Wants the front to lift/)).toBeNull();
});
