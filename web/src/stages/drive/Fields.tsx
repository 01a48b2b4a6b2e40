/** Drive's fields: motor, controller with modes and knob, gearing and chain, wheel, rider and ground. */

import { memo } from "react";
import type { Overview } from "../../api/client";
import { choices, MOST } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { fields as say } from "../../texts/drive";
import { shown } from "../../texts/units";
import { CheckField, LookField, ManyField, NumberField, SegmentField, SelectField, TextField, useForm } from "../../ui/Field";
import { TakePart } from "../../ui/TakePart";
import { Block, Grid } from "../Heading";

const THROTTLES = say.throttles;
/** What is of the machine beside the throttle, whichever throttle it is. Speeds measured at the marks of the old one say nothing of another. */
const OF_THE_MACHINE = [
  "levers",
  "brake_cut_off_present",
  "brake_cut_off_wired",
  "foot_switch_wired",
  "limiter_mark",
  "limiter_reachable",
];
/** What is of the frame and the wheel, whichever gearing it is. How a sprocket lines up and what covers the chain is looked at anew. */
const OF_THE_FRAME = ["centre_m", "frame_mount", "wheel_bolts", "mount_homemade"];
const YES_NO = [
  ["true", say.yes],
  ["false", say.no],
] as const;

export const MotorFields = memo(function MotorFields() {
  return (
    <Block title={say.motor} line={say.enterWhatTheLabel}>
      <TakePart kind="motors" path="/motor" label={say.takeACommonOne} />
      <MotorLabel />
    </Block>
  );
});

/** What a motor's own label says, and what was measured on it. */
export function MotorLabel() {
  const { doc, edit } = useForm();
  const series = read(doc, "/motor/wiring") === "series";
  const brushless = ["hub", "brushless mid"].includes(String(read(doc, "/motor/kind")));
  return (
    <>
      <Grid min={128}>
        <SelectField label={say.kind} pointer="/motor/kind" options={choices("Motor.kind")} />
        <SelectField
          label={say.howMany}
          pointer="/motor/wiring"
          options={choices("Motor.wiring", {
            single: say.one,
            parallel: say.twoInParallelHigh,
            series: say.twoInSeriesLow,
          })}
          onPick={(v) =>
            edit("/motor", {
              ...(read(doc, "/motor") ?? { kind: "brushed" }),
              wiring: v,
              count: v === "single" ? 1 : 2,
            })
          }
        />
        <NumberField label={say.plateVolts} pointer="/motor/volts_v" unit="V" />
        <NumberField label={say.plateWattsEach} pointer="/motor/power_w" unit="W" />
        <NumberField label={say.ratedSpeed} pointer="/motor/speed_rpm" unit="rpm" />
        <NumberField label={say.noLoadSpeed} pointer="/motor/no_load_rpm" unit="rpm" />
      </Grid>
      <details className="mt-3">
        <summary className="font-bold">{say.otherDataKvStall}</summary>
        <div className="mt-2">
          <Grid min={128}>
            <NumberField label="Kv" pointer="/motor/kv_rpm_per_v" unit="rpm/V" />
            <NumberField label={say.wheelOnTheStand} pointer="/motor/stand_wheel_rpm" unit="rpm" />
            <NumberField label={say.voltsOnTheStand} pointer="/motor/stand_v" unit="V" />
            <NumberField label={say.windingCold} pointer="/motor/resistance_ohm" unit="Ω" />
            <NumberField label={say.stallAmpsEach} pointer="/motor/stall_a" unit="A" />
            <NumberField label={say.noLoadAmpsEach} pointer="/motor/no_load_a" unit="A" />
            <NumberField label={say.mostItTurns} pointer="/motor/max_rpm" unit="rpm" />
            <NumberField label={say.motorMassEach} pointer="/motor/mass_kg" kind="mass" />
            <NumberField label={say.efficiencyAtItsPlate} pointer="/motor/efficiency" kind="grade" />
            {brushless && <CheckField label={say.hasHallSensors} pointer="/motor/has_halls" />}
          </Grid>
          <p className="mt-2 text-small text-ink3">{say.onTheStandWheel(series)}</p>
        </div>
      </details>
    </>
  );
}

function Modes() {
  const { doc, edit } = useForm();
  const modes = read(doc, "/controller/modes") ?? [];
  const chosen = read(doc, "/controller/mode");
  const set = (next: Doc[]) => edit("/controller/modes", next);
  return (
    <div className="mt-3">
      <p className="mb-1 text-small font-bold text-ink2">{say.speedModes}</p>
      {modes.length === 0 && <p className="mb-1 text-small text-ink3">{say.noneEnteredAMode}</p>}
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
              {say.inUse}
            </label>
            <TextField label={say.name} pointer={`/controller/modes/${i}/name`} />
            <NumberField label={say.duty} pointer={`/controller/modes/${i}/duty`} kind="grade" plain />
            <NumberField label={say.current} pointer={`/controller/modes/${i}/current`} kind="grade" plain />
            <button
              type="button"
              className="btn quiet"
              aria-label={say.takeModeOut(String(modes[i]?.name))}
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
              {say.takeOut}
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
                name: ["low", "middle", "high"][modes.length] ?? say.mode(modes.length),
                duty: [0.4, 0.7, 1][modes.length] ?? 1,
                current: 1,
              },
            ])
          }
        >
          {say.addAMode}
        </button>
        {chosen && (
          <button type="button" className="btn quiet" onClick={() => edit("/controller/mode", null)}>
            {say.noModeInUse}
          </button>
        )}
        {modes.length > 0 && <LookField label={say.theRiderCannotChange} pointer="/controller/modes_locked" />}
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
      <summary className="font-bold">{say.theKnobsScaleMeasured(marks.length)}</summary>
      <p className="mt-1 text-small text-ink3">{say.aMarkIsNo}</p>
      <ul className="mt-2 grid gap-2">
        {marks.map((_, i) => (
          <li key={i} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <NumberField label={say.markShareOfThe} pointer={`/throttle/knob/${i}/mark`} kind="grade" plain />
            <NumberField label={say.speedThere} pointer={`/throttle/knob/${i}/speed_m_s`} kind="speed" />
            <button
              type="button"
              className="btn quiet"
              aria-label={say.takeMeasuredMarkOut(i)}
              onClick={() => set(marks.filter((_m, k) => k !== i))}
            >
              {say.takeOut}
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
        {say.addAMeasuredMark}
      </button>
    </details>
  );
}

export const ControllerFields = memo(function ControllerFields() {
  const { doc } = useForm();
  const direct = read(doc, "/controller/kind") === "none";
  // A module knows no throttle: the stock pedal goes on switching what it gives.
  const module = read(doc, "/controller/kind") === "knob module";
  return (
    <Block title={say.controller}>
      <TakePart kind="controllers" path="/controller" label={say.takeACommonOne} />
      <Grid min={128}>
        <SelectField
          label={say.kind}
          pointer="/controller/kind"
          options={choices("Controller.kind", {
            none: say.nonePedalStraightTo,
            "knob module": say.knobModuleBeforeThe,
          })}
        />
        {!direct && (
          <>
            <NumberField label={say.labelVolts} pointer="/controller/nominal_v" unit="V" />
            <NumberField label={say.mostVolts} pointer="/controller/max_v" unit="V" />
            <NumberField label={say.lowCutOff} pointer="/controller/undervoltage_v" unit="V" />
            <NumberField label={say.bankSideLimit} pointer="/controller/battery_limit_a" unit="A" />
            <NumberField label={say.motorSideLimit} pointer="/controller/phase_limit_a" unit="A" />
            <NumberField label={say.extraSpeedItStates} pointer="/controller/extra_speed" kind="grade" />
            {!module && (
              <>
                {read(doc, "/controller/kind") === "brushless" && (
                  <CheckField label={say.worksOnlyWithHall} pointer="/controller/needs_halls" />
                )}
                <SelectField
                  label={say.readsAThrottle}
                  pointer="/controller/throttle"
                  options={choices("Controller.throttle", THROTTLES)}
                />
                <SelectField label={say.throttleThereIs} pointer="/throttle/kind" options={choices("Throttle.kind", THROTTLES)} />
                <LookField label={say.hasBrakeLevers} pointer="/throttle/levers" />
                <LookField label={say.brakeLeverHasA} pointer="/throttle/brake_cut_off_present" />
                <LookField label={say.brakeCutOffWired} pointer="/throttle/brake_cut_off_wired" />
                <CheckField label={say.hasAnInputFor} pointer="/controller/brake_cut_off_input" />
              </>
            )}
            <LookField label={say.riderCanReachThe} pointer="/throttle/limiter_reachable" />
            <CheckField label={say.preChargePath} pointer="/controller/precharge" />
          </>
        )}
        {direct && <NumberField label={say.pedalSwitchStands} pointer="/pedal_switch/rating_a" unit="A" />}
        {read(doc, "/vehicle/family") === "quad" && (
          <LookField label={say.footSwitchWired} pointer="/throttle/foot_switch_wired" />
        )}
        <LookField label={say.snapsBackWhenLet} pointer="/throttle/returns" />
      </Grid>
      {!direct && (
        <div className="mt-3 max-w-[420px]">
          <TakePart kind="throttles" path="/throttle" label={say.throttleOfYours} own stays={OF_THE_MACHINE} />
        </div>
      )}
      {!direct && (
        <>
          <Modes />
          <KnobMarks />
          <details className="mt-3">
            <summary className="font-bold">{say.softStartReverseRelease}</summary>
            <div className="mt-2 grid gap-3">
              <ManyField label={say.doesBeside} pointer="/controller/does" options={choices("Controller.does")} />
              <ManyField label={say.throttleDoesBeside} pointer="/throttle/does" options={choices("Throttle.does")} />
              <Grid min={128}>
                <NumberField label={say.softStart} pointer="/controller/ramp_s" unit="s" />
                <NumberField label={say.reverseShareOfDuty} pointer="/controller/reverse_duty" kind="grade" plain />
                <NumberField label={say.putsBackOnRelease} pointer="/controller/regen_a" unit="A" />
                <NumberField label={say.itsEfficiency} pointer="/controller/efficiency" kind="grade" />
                <NumberField label={say.drawsAtRest} pointer="/controller/idle_a" unit="A" />
                <NumberField label={say.lengthWithPlugs} pointer="/controller/length_m" kind="small" />
                <NumberField label={say.width} pointer="/controller/width_m" kind="small" />
                <NumberField label={say.height} pointer="/controller/height_m" kind="small" />
                <SelectField
                  label={say.heldBy}
                  pointer="/controller/mounting"
                  options={choices("Controller.mounting", { screwed: "screws" })}
                />
                <CheckField label={say.waitsUntilItStands} pointer="/controller/reverse_locked" />
                <SegmentField label={say.closedInNoAir} pointer="/controller/enclosed" options={YES_NO} />
                <SegmentField label={say.inTheSpray} pointer="/controller/in_spray" options={YES_NO} />
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
    <Block title={say.gearingAndWheel}>
      <div className="grid gap-x-3 md:grid-cols-2">
        <TakePart kind="gearboxes" path="/drivetrain" label={say.gearingOfYours} own stays={OF_THE_FRAME} />
        <TakePart kind="wheels" path="/wheel" label={say.wheelOfYours} own />
      </div>
      <Grid min={128}>
        <SelectField label={say.drive} pointer="/drivetrain/kind" options={choices("Drivetrain.kind")} />
        {kind === "chain" && (
          <>
            <NumberField label={say.motorTeeth} pointer="/drivetrain/motor_teeth" plain whole />
            <NumberField label={say.wheelTeeth} pointer="/drivetrain/wheel_teeth" plain whole />
            <TextField label={say.chainSizeStamped} pointer="/drivetrain/chain_pitch" />
          </>
        )}
        {kind !== "hub" && (
          <NumberField label={kind === "chain" ? say.ratioIfNotBy : say.ratio} pointer="/drivetrain/ratio" unit=": 1" />
        )}
        <NumberField label={say.wheelAcross} pointer="/wheel/diameter_m" kind="small" />
        <SelectField
          label={say.tyre}
          pointer="/wheel/tyre"
          options={choices("Wheel.tyre", { "banded plastic": say.plasticRubberBand })}
        />
      </Grid>
      <details className="mt-3">
        <summary className="font-bold">{say.whatItLosesAnd}</summary>
        <div className="mt-2">
          <Grid min={128}>
            <NumberField label={say.efficiencyOfTheGearing} pointer="/drivetrain/efficiency" kind="grade" />
            <NumberField label={say.standsAtTheWheel} pointer="/drivetrain/load_limit_nm" unit="N·m" />
          </Grid>
        </div>
      </details>
      {kind === "hub" && (
        <div className="mt-3">
          <LookField label={say.torqueArmsOnThe} pointer="/drivetrain/torque_arm" />
        </div>
      )}
      {kind === "chain" && (
        <details className="mt-3">
          <summary className="font-bold">{say.doesItFitChain}</summary>
          <div className="mt-2">
            <Grid min={128}>
              <NumberField label={say.centreToCentre} pointer="/drivetrain/centre_m" kind="small" />
              <NumberField label={say.links} pointer="/drivetrain/links" plain whole />
              <NumberField label={say.chainsInnerWidth} pointer="/drivetrain/chain_width_m" kind="small" />
              <TextField label={say.motorSprocketFor} pointer="/drivetrain/motor_sprocket_pitch" />
              <TextField label={say.wheelSprocketFor} pointer="/drivetrain/wheel_sprocket_pitch" />
              <TextField label={say.motorsShaft} pointer="/drivetrain/shaft" />
              <TextField label={say.sprocketsBore} pointer="/drivetrain/sprocket_bore" />
              <TextField label={say.motorsBolts} pointer="/drivetrain/motor_mount" />
              <TextField label={say.boltsOfTheFrame} pointer="/drivetrain/frame_mount" />
              <TextField label={say.boltsOfTheWheels} pointer="/drivetrain/wheel_sprocket_bolts" />
              <TextField label={say.boltsOfTheWheel} pointer="/drivetrain/wheel_bolts" />
              <LookField label={say.chainIsCovered} pointer="/drivetrain/chain_guard" />
              <LookField label={say.motorMountIsHomemade} pointer="/drivetrain/mount_homemade" />
              <SegmentField label={say.straightEdgeFlatOn} pointer="/drivetrain/in_line" options={YES_NO} />
              <SegmentField label={say.slackAdjustable} pointer="/drivetrain/slack_adjustable" options={YES_NO} />
              <CheckField label={say.onTheOtherSide} pointer="/drivetrain/other_side" />
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
      <fieldset aria-label={say.whoElseRidesIt}>
        <span className="block text-small font-bold text-ink2">{say.whoElseRidesIt}</span>
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
              {String(one.name || say.somebody)}
            </button>
          ))}
        </div>
      </fieldset>
      <fieldset aria-label={say.whoRidesAlong}>
        <span className="block text-small font-bold text-ink2">{say.whoRidesAlongOn}</span>
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
    <Block title={say.riderAndGround}>
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
        <TextField label={say.name} pointer="/rider/name" />
        <NumberField label={say.age} pointer="/rider/age_years" unit={say.years} plain />
        <NumberField label={say.ridersMass} pointer="/rider/mass_kg" kind="mass" />
        <NumberField
          label={say.speedCap}
          pointer="/rider/cap_m_s"
          kind="speed"
          {...(cap == null ? {} : { typical: shown(cap, "speed", units) })}
        />
        <SelectField label={say.ground} pointer="/ground/surface" options={choices("Ground.surface")} />
        <NumberField label={say.steepestSlope} pointer="/ground/hill_grade" kind="grade" plain />
        <NumberField label={say.warmDay} pointer="/ground/ambient_c" kind="temp" plain />
        <NumberField label={say.packsTemperature} pointer="/ground/pack_c" kind="temp" plain />
        <CheckField label={say.standsWhileRiding} pointer="/rider/standing" />
        <CheckField label={say.inRainOrPuddles} pointer="/ground/rain" />
        <SelectField label={say.brake} pointer="/vehicle/brake" options={choices("Vehicle.brake")} />
        <SelectField label={say.braked} pointer="/vehicle/braked_axles" options={choices("Vehicle.braked_axles")} />
        {transplant && (
          <>
            <SelectField
              label={say.electricBrake}
              pointer="/vehicle/fail_safe_brake"
              options={choices("Vehicle.fail_safe_brake", { "held by power": say.worksHeldOpenBy })}
            />
            <NumberField label={say.itsCoil} pointer="/vehicle/fail_safe_brake_v" unit="V" />
            <SegmentField label={say.anotherParkingBrake} pointer="/vehicle/parking_brake" options={YES_NO} />
          </>
        )}
      </Grid>
      {grownUp && (
        <div className="mt-3">
          <TextField label={say.wantsTheFrontTo} pointer="/rider/wheelie_wanted" />
        </div>
      )}
      <details className="mt-3">
        <summary className="font-bold">{say.whatItRollsAnd}</summary>
        <div className="mt-2">
          <Grid min={128}>
            <NumberField label={say.rollingResistance} pointer="/ground/rolling_resistance" />
            <NumberField label={say.grip} pointer="/ground/friction" />
            <NumberField label={say.dragAreaRiderOn} pointer="/vehicle/drag_area_m2" unit="m²" />
          </Grid>
          <p className="mt-2 text-small text-ink3">{say.rollingResistanceThePull}</p>
        </div>
      </details>
      <WhoElse riders={riders} />
      <p className="mt-2 text-small text-ink3">{say.aSpeedCapIs}</p>
    </Block>
  );
});
