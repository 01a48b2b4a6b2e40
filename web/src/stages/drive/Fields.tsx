/** Drive's fields: motor, controller with modes and knob, gearing and chain, wheel, rider and ground. */

import { memo } from "react";
import type { Overview } from "../../api/client";
import { choices, MOST } from "../../lib/choices";
import { useParts } from "../../lib/parts";
import { type Doc, read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { shown } from "../../lib/units";
import { CheckField, LookField, NumberField, SegmentField, SelectField, TextField, useForm } from "../../ui/Field";
import { PickPart } from "../../ui/PickPart";
import { Block, Grid } from "../Heading";

const THROTTLES = { hall: "three-wire Hall", unknown: "not known" };
const YES_NO = [
  ["true", "yes"],
  ["false", "no"],
] as const;

export const MotorFields = memo(function MotorFields() {
  const { doc, edit } = useForm();
  const series = read(doc, "/motor/wiring") === "series";
  const brushless = ["hub", "brushless mid"].includes(String(read(doc, "/motor/kind")));
  return (
    <Block
      title="Motor"
      line="Enter what the label gives; the best known of the speeds counts, and what is measured beats what it suggests."
    >
      <Grid min={128}>
        <SelectField label="Kind" pointer="/motor/kind" options={choices("Motor.kind")} />
        <SelectField
          label="How many"
          pointer="/motor/wiring"
          options={choices("Motor.wiring", {
            single: "one",
            parallel: "two, in parallel (high)",
            series: "two, in series (low)",
          })}
          onPick={(v) =>
            edit("/motor", {
              ...(read(doc, "/motor") ?? { kind: "brushed" }),
              wiring: v,
              count: v === "single" ? 1 : 2,
            })
          }
        />
        <NumberField label="Plate volts" pointer="/motor/volts_v" unit="V" />
        <NumberField label="Plate watts, each" pointer="/motor/power_w" unit="W" />
        <NumberField label="Rated speed" pointer="/motor/speed_rpm" unit="rpm" />
        <NumberField label="No-load speed" pointer="/motor/no_load_rpm" unit="rpm" />
      </Grid>
      <details className="mt-3">
        <summary className="font-bold">Other data: Kv, stall, a reading on the stand, resistance</summary>
        <div className="mt-2">
          <Grid min={128}>
            <NumberField label="Kv" pointer="/motor/kv_rpm_per_v" unit="rpm/V" />
            <NumberField label="Wheel on the stand" pointer="/motor/stand_wheel_rpm" unit="rpm" />
            <NumberField label="Volts on the stand" pointer="/motor/stand_v" unit="V" />
            <NumberField label="Winding, cold" pointer="/motor/resistance_ohm" unit="Ω" />
            <NumberField label="Stall amps, each" pointer="/motor/stall_a" unit="A" />
            <NumberField label="No-load amps, each" pointer="/motor/no_load_a" unit="A" />
            <NumberField label="Most it turns" pointer="/motor/max_rpm" unit="rpm" />
            <NumberField label="Motor mass, each" pointer="/motor/mass_kg" kind="mass" />
            <NumberField label="Efficiency at its plate" pointer="/motor/efficiency" kind="grade" />
            {brushless && <CheckField label="has Hall sensors" pointer="/motor/has_halls" />}
          </Grid>
          <p className="mt-2 text-small text-ink3">
            On the stand: wheel off the ground, guards on, hands and clothes clear, full throttle, tachometer on the wheel.
            {series && " The volts are those of the packs; each motor sees half."}
          </p>
        </div>
      </details>
    </Block>
  );
});

function Modes() {
  const { doc, edit } = useForm();
  const modes = read(doc, "/controller/modes") ?? [];
  const chosen = read(doc, "/controller/mode");
  const set = (next: Doc[]) => edit("/controller/modes", next);
  return (
    <div className="mt-3">
      <p className="mb-1 text-small font-bold text-ink2">Speed modes</p>
      {modes.length === 0 && (
        <p className="mb-1 text-small text-ink3">None entered. A mode caps the duty (speed), the current (push), or both.</p>
      )}
      <ul className="grid gap-2">
        {modes.map((_, i) => (
          <li
            key={i}
            className="grid grid-cols-[auto_repeat(auto-fill,minmax(100px,1fr))] items-end gap-2 border-t border-line pt-2"
          >
            <label className="flex min-h-9 items-center gap-1.5">
              <input
                type="radio"
                name="mode"
                className="size-5 accent-[var(--leaf-deep)]"
                checked={chosen === modes[i]?.name}
                onChange={() => edit("/controller/mode", String(modes[i]?.name ?? ""))}
              />
              in use
            </label>
            <TextField label="Name" pointer={`/controller/modes/${i}/name`} />
            <NumberField label="Duty" pointer={`/controller/modes/${i}/duty`} kind="grade" plain />
            <NumberField label="Current" pointer={`/controller/modes/${i}/current`} kind="grade" plain />
            <button
              type="button"
              className="btn quiet"
              aria-label={`Take mode ${String(modes[i]?.name)} out`}
              onClick={() => {
                const left = modes.filter((_m, k) => k !== i);
                const control = read(doc, "/controller") ?? {};
                edit("/controller", {
                  ...control,
                  modes: left,
                  mode: left.some((m) => m.name === chosen) ? chosen : null,
                });
              }}
            >
              Take out
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="btn"
          disabled={modes.length >= MOST["Controller.modes"]}
          onClick={() =>
            set([
              ...modes,
              {
                name: ["low", "middle", "high"][modes.length] ?? `mode ${modes.length + 1}`,
                duty: [0.4, 0.7, 1][modes.length] ?? 1,
                current: 1,
              },
            ])
          }
        >
          Add a mode
        </button>
        {chosen && (
          <button type="button" className="btn quiet" onClick={() => edit("/controller/mode", null)}>
            No mode in use
          </button>
        )}
        {modes.length > 0 && <LookField label="The rider cannot change it" pointer="/controller/modes_locked" />}
      </div>
    </div>
  );
}

function KnobMarks() {
  const { doc, edit } = useForm();
  const marks = read(doc, "/throttle/knob") ?? [];
  const throttle = read(doc, "/throttle") ?? { kind: "unknown" };
  const set = (next: Doc[]) => edit("/throttle", { ...throttle, knob: next });
  return (
    <details className="mt-3">
      <summary className="font-bold">
        The knob's scale: {marks.length ? `${marks.length} measured marks` : "taken as even"}
      </summary>
      <p className="mt-1 text-small text-ink3">
        A mark is no percentage. Ride at full throttle on the level with about half charge, and note mark and speed.
      </p>
      <ul className="mt-2 grid gap-2">
        {marks.map((_, i) => (
          <li key={i} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <NumberField label="Mark, share of the scale" pointer={`/throttle/knob/${i}/mark`} kind="grade" plain />
            <NumberField label="Speed there" pointer={`/throttle/knob/${i}/speed_m_s`} kind="speed" />
            <button
              type="button"
              className="btn quiet"
              aria-label={`Take measured mark ${i + 1} out`}
              onClick={() => set(marks.filter((_m, k) => k !== i))}
            >
              Take out
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn mt-2"
        disabled={marks.length >= MOST["Throttle.knob"]}
        onClick={() =>
          set([...marks, { mark: [0.5, 1, 0.3, 0.7][marks.length] ?? 0.9, speed_m_s: { value: 3, basis: "measured" } }])
        }
      >
        Add a measured mark
      </button>
    </details>
  );
}

export const ControllerFields = memo(function ControllerFields() {
  const { doc, edit } = useForm();
  const parts = useParts();
  const direct = read(doc, "/controller/kind") === "none";
  // A module knows no throttle: the stock pedal goes on switching what it gives.
  const module = read(doc, "/controller/kind") === "knob module";
  return (
    <Block title="Controller">
      <PickPart
        label="Take a common one"
        className="mb-3 block"
        parts={parts.controllers}
        onPick={(part) => edit("/controller", part)}
      />
      <Grid min={128}>
        <SelectField
          label="Kind"
          pointer="/controller/kind"
          options={choices("Controller.kind", {
            none: "none: pedal straight to motor",
            "knob module": "knob module before the stock pedal",
          })}
        />
        {!direct && (
          <>
            <NumberField label="Label volts" pointer="/controller/nominal_v" unit="V" />
            <NumberField label="Most volts" pointer="/controller/max_v" unit="V" />
            <NumberField label="Low cut-off" pointer="/controller/undervoltage_v" unit="V" />
            <NumberField label="Bank-side limit" pointer="/controller/battery_limit_a" unit="A" />
            <NumberField label="Motor-side limit" pointer="/controller/phase_limit_a" unit="A" />
            <NumberField label="Extra speed it states" pointer="/controller/extra_speed" kind="grade" />
            {!module && (
              <>
                {read(doc, "/controller/kind") === "brushless" && (
                  <CheckField label="Works only with Hall sensors" pointer="/controller/needs_halls" />
                )}
                <SelectField
                  label="Reads a throttle"
                  pointer="/controller/throttle"
                  options={choices("Controller.throttle", THROTTLES)}
                />
                <SelectField label="Throttle there is" pointer="/throttle/kind" options={choices("Throttle.kind", THROTTLES)} />
                <LookField label="Has brake levers" pointer="/throttle/levers" />
                <LookField label="Brake lever has a sensor" pointer="/throttle/brake_cut_off_present" />
                <LookField label="Brake cut-off wired" pointer="/throttle/brake_cut_off_wired" />
                <CheckField label="Has an input for the lever" pointer="/controller/brake_cut_off_input" />
              </>
            )}
            <LookField label="Rider can reach the limiter" pointer="/throttle/limiter_reachable" />
            <CheckField label="Pre-charge path" pointer="/controller/precharge" />
          </>
        )}
        {direct && <NumberField label="Pedal switch stands" pointer="/pedal_switch/rating_a" unit="A" />}
        {read(doc, "/vehicle/family") === "quad" && <LookField label="Foot switch wired" pointer="/throttle/foot_switch_wired" />}
        <LookField label="Snaps back when let go" pointer="/throttle/returns" />
      </Grid>
      {!direct && (
        <>
          <Modes />
          <KnobMarks />
          <details className="mt-3">
            <summary className="font-bold">Soft start, reverse, release, and where it sits</summary>
            <div className="mt-2">
              <Grid min={128}>
                <NumberField label="Soft start" pointer="/controller/ramp_s" unit="s" />
                <NumberField label="Reverse, share of duty" pointer="/controller/reverse_duty" kind="grade" plain />
                <NumberField label="Puts back on release" pointer="/controller/regen_a" unit="A" />
                <NumberField label="Its efficiency" pointer="/controller/efficiency" kind="grade" />
                <NumberField label="Draws at rest" pointer="/controller/idle_a" unit="A" />
                <NumberField label="Length with plugs" pointer="/controller/length_m" kind="small" />
                <NumberField label="Width" pointer="/controller/width_m" kind="small" />
                <NumberField label="Height" pointer="/controller/height_m" kind="small" />
                <SelectField
                  label="Held by"
                  pointer="/controller/mounting"
                  options={choices("Controller.mounting", { screwed: "screws" })}
                />
                <CheckField label="Waits until it stands before reverse" pointer="/controller/reverse_locked" />
                <SegmentField label="Closed in, no air" pointer="/controller/enclosed" options={YES_NO} />
                <SegmentField label="In the spray" pointer="/controller/in_spray" options={YES_NO} />
              </Grid>
            </div>
          </details>
        </>
      )}
    </Block>
  );
});

export const GearingFields = memo(function GearingFields() {
  const { doc } = useForm();
  const kind = String(read(doc, "/drivetrain/kind") ?? "");
  return (
    <Block title="Gearing and wheel">
      <Grid min={128}>
        <SelectField label="Drive" pointer="/drivetrain/kind" options={choices("Drivetrain.kind")} />
        {kind === "chain" && (
          <>
            <NumberField label="Motor teeth" pointer="/drivetrain/motor_teeth" plain whole />
            <NumberField label="Wheel teeth" pointer="/drivetrain/wheel_teeth" plain whole />
            <TextField label="Chain size, stamped" pointer="/drivetrain/chain_pitch" />
          </>
        )}
        {kind !== "hub" && (
          <NumberField label={kind === "chain" ? "Ratio, if not by teeth" : "Ratio"} pointer="/drivetrain/ratio" unit=": 1" />
        )}
        <NumberField label="Wheel across" pointer="/wheel/diameter_m" kind="small" />
        <SelectField
          label="Tyre"
          pointer="/wheel/tyre"
          options={choices("Wheel.tyre", { "banded plastic": "plastic, rubber band" })}
        />
      </Grid>
      <details className="mt-3">
        <summary className="font-bold">What it loses and what it stands</summary>
        <div className="mt-2">
          <Grid min={128}>
            <NumberField label="Efficiency of the gearing" pointer="/drivetrain/efficiency" kind="grade" />
            <NumberField label="Stands at the wheel" pointer="/drivetrain/load_limit_nm" unit="N·m" />
          </Grid>
        </div>
      </details>
      {kind === "hub" && (
        <div className="mt-3">
          <LookField label="Torque arms on the axle" pointer="/drivetrain/torque_arm" />
        </div>
      )}
      {kind === "chain" && (
        <details className="mt-3">
          <summary className="font-bold">Does it fit: chain, shaft, mount, line, slack</summary>
          <div className="mt-2">
            <Grid min={128}>
              <NumberField label="Centre to centre" pointer="/drivetrain/centre_m" kind="small" />
              <NumberField label="Links" pointer="/drivetrain/links" plain whole />
              <NumberField label="Chain's inner width" pointer="/drivetrain/chain_width_m" kind="small" />
              <TextField label="Motor sprocket for" pointer="/drivetrain/motor_sprocket_pitch" />
              <TextField label="Wheel sprocket for" pointer="/drivetrain/wheel_sprocket_pitch" />
              <TextField label="Motor's shaft" pointer="/drivetrain/shaft" />
              <TextField label="Sprocket's bore" pointer="/drivetrain/sprocket_bore" />
              <TextField label="Motor's bolts" pointer="/drivetrain/motor_mount" />
              <TextField label="Bolts of the frame" pointer="/drivetrain/frame_mount" />
              <TextField label="Bolts of the wheel's sprocket" pointer="/drivetrain/wheel_sprocket_bolts" />
              <TextField label="Bolts of the wheel" pointer="/drivetrain/wheel_bolts" />
              <LookField label="Chain is covered" pointer="/drivetrain/chain_guard" />
              <LookField label="Motor mount is homemade" pointer="/drivetrain/mount_homemade" />
              <SegmentField label="Straight edge flat on both" pointer="/drivetrain/in_line" options={YES_NO} />
              <SegmentField label="Slack adjustable" pointer="/drivetrain/slack_adjustable" options={YES_NO} />
              <CheckField label="On the other side than before" pointer="/drivetrain/other_side" />
            </Grid>
          </div>
        </details>
      )}
    </Block>
  );
});

/** Who else rides this machine, and who rides along: each is judged by the own cap. */
function WhoElse({ riders }: { riders: Overview["riders"] }) {
  const { doc, edit } = useForm();
  const also = read(doc, "/also") ?? [];
  const main = read(doc, "/rider/name");
  const along = read(doc, "/passenger/name");
  const others = riders.filter((r) => r.name !== main);
  const unknown = also.filter((one) => !riders.some((r) => r.name === one.name));
  if (others.length === 0 && also.length === 0) return null;
  const partOf = (r: Overview["riders"][number]) => ({ ...r.document, name: r.name });
  return (
    <div className="mt-3 grid gap-2">
      <fieldset aria-label="Who else rides it">
        <span className="block text-small font-bold text-ink2">Who else rides it</span>
        <div className="mt-1 flex flex-wrap gap-1.5">
          {others.map((r) => {
            const on = also.some((one) => one.name === r.name);
            return (
              <button
                key={r.id}
                type="button"
                className="btn"
                aria-pressed={on}
                onClick={() => edit("/also", on ? also.filter((one) => one.name !== r.name) : [...also, partOf(r)])}
              >
                {r.name}
              </button>
            );
          })}
          {unknown.map((one) => (
            <button
              key={String(one.name)}
              type="button"
              className="btn"
              aria-pressed="true"
              onClick={() =>
                edit(
                  "/also",
                  also.filter((other) => other !== one),
                )
              }
            >
              {String(one.name || "somebody")}
            </button>
          ))}
        </div>
      </fieldset>
      <fieldset aria-label="Who rides along">
        <span className="block text-small font-bold text-ink2">Who rides along on it</span>
        <div className="mt-1 flex flex-wrap gap-1.5">
          {others.map((r) => (
            <button
              key={r.id}
              type="button"
              className="btn"
              aria-pressed={along === r.name}
              onClick={() => edit("/passenger", along === r.name ? null : partOf(r))}
            >
              {r.name}
            </button>
          ))}
        </div>
      </fieldset>
    </div>
  );
}

export const RiderFields = memo(function RiderFields({
  riders,
  cap,
  grownUp,
}: {
  riders: Overview["riders"];
  cap: number | null | undefined;
  grownUp: boolean;
}) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const transplant = read(doc, "/vehicle/family") === "transplant" || read(doc, "/vehicle/fail_safe_brake") != null;
  return (
    <Block title="Rider and ground">
      {riders.length > 0 && (
        <div className="mb-3 flex flex-wrap gap-1.5">
          {riders.map((r) => (
            <button
              key={r.id}
              type="button"
              className="btn"
              aria-pressed={read(doc, "/rider/name") === r.name}
              onClick={() => edit("/rider", { ...r.document, name: r.name })}
            >
              {r.name}
            </button>
          ))}
        </div>
      )}
      <Grid min={128}>
        <TextField label="Name" pointer="/rider/name" />
        <NumberField label="Age" pointer="/rider/age_years" unit="years" plain />
        <NumberField label="Rider's mass" pointer="/rider/mass_kg" kind="mass" />
        <NumberField
          label="Speed cap"
          pointer="/rider/cap_m_s"
          kind="speed"
          {...(cap == null ? {} : { typical: shown(cap, "speed", units) })}
        />
        <SelectField label="Ground" pointer="/ground/surface" options={choices("Ground.surface")} />
        <NumberField label="Steepest slope" pointer="/ground/hill_grade" kind="grade" plain />
        <NumberField label="Warm day" pointer="/ground/ambient_c" kind="temp" plain />
        <NumberField label="Packs' temperature" pointer="/ground/pack_c" kind="temp" plain />
        <CheckField label="stands while riding" pointer="/rider/standing" />
        <CheckField label="in rain or puddles, too" pointer="/ground/rain" />
        <SelectField label="Brake" pointer="/vehicle/brake" options={choices("Vehicle.brake")} />
        <SelectField label="Braked" pointer="/vehicle/braked_axles" options={choices("Vehicle.braked_axles")} />
        {transplant && (
          <>
            <SelectField
              label="Electric brake"
              pointer="/vehicle/fail_safe_brake"
              options={choices("Vehicle.fail_safe_brake", { "held by power": "works, held open by power" })}
            />
            <NumberField label="Its coil" pointer="/vehicle/fail_safe_brake_v" unit="V" />
            <SegmentField label="Another parking brake" pointer="/vehicle/parking_brake" options={YES_NO} />
          </>
        )}
      </Grid>
      {grownUp && (
        <div className="mt-3">
          <TextField label="Wants the front to lift, because" pointer="/rider/wheelie_wanted" />
        </div>
      )}
      <details className="mt-3">
        <summary className="font-bold">What it rolls and grips with, and the wind it meets</summary>
        <div className="mt-2">
          <Grid min={128}>
            <NumberField label="Rolling resistance" pointer="/ground/rolling_resistance" />
            <NumberField label="Grip" pointer="/ground/friction" />
            <NumberField label="Drag area, rider on" pointer="/vehicle/drag_area_m2" unit="m²" />
          </Grid>
          <p className="mt-2 text-small text-ink3">
            Rolling resistance: the pull of a luggage scale that keeps it rolling, over the weight that rolls. Grip: the pull at
            which blocked wheels begin to slide, over the weight on them.
          </p>
        </div>
      </details>
      <WhoElse riders={riders} />
      <p className="mt-2 text-small text-ink3">
        A speed cap is a starting point. Local rules on where such machines may be ridden and the maker's limits come first.
      </p>
    </Block>
  );
});
