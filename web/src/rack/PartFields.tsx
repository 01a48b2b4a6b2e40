/** What the label of a part says, kind by kind, with the same fields a setup has for it. */
import type { ReactNode } from "react";
import { choices } from "../lib/choices";
import { read } from "../lib/pointer";
import { MotorLabel } from "../stages/drive/Fields";
import { Grid } from "../stages/Heading";
import { PackGuards, PackLabel } from "../stages/power/PackFields";
import { partFields as say } from "../texts/rack";
import { CheckField, LookField, ManyField, NumberField, SelectField, TextField, useForm } from "../ui/Field";
import { Ends } from "./Ends";
import { KitFields } from "./KitFields";
import { SLOT } from "./kinds";

function Controller() {
  const { doc } = useForm();
  const module = read(doc, "/controller/kind") === "knob module";
  return (
    <>
      <SelectField
        label={say.kind}
        pointer="/controller/kind"
        options={choices("Controller.kind", { "knob module": say.knobModule }, ["none"])}
      />
      <NumberField label={say.labelVolts} pointer="/controller/nominal_v" unit="V" />
      <NumberField label={say.mostVolts} pointer="/controller/max_v" unit="V" />
      <NumberField label={say.lowCutOff} pointer="/controller/undervoltage_v" unit="V" />
      <NumberField label={say.packSideLimit} pointer="/controller/battery_limit_a" unit="A" />
      <NumberField label={say.motorSideLimit} pointer="/controller/phase_limit_a" unit="A" />
      {!module && (
        <>
          <SelectField label={say.readsAThrottle} pointer="/controller/throttle" options={choices("Controller.throttle")} />
          <CheckField label={say.needsHalls} pointer="/controller/needs_halls" />
          <CheckField label={say.brakeInput} pointer="/controller/brake_cut_off_input" />
        </>
      )}
      <ManyField label={say.doesBeside} pointer="/controller/does" options={choices("Controller.does")} />
      <NumberField label={say.softStart} pointer="/controller/ramp_s" unit="s" />
      <NumberField label={say.putsBack} pointer="/controller/regen_a" unit="A" />
      <NumberField label={say.length} pointer="/controller/length_m" kind="small" />
      <NumberField label={say.width} pointer="/controller/width_m" kind="small" />
      <NumberField label={say.height} pointer="/controller/height_m" kind="small" />
    </>
  );
}

function Hardware() {
  const { doc } = useForm();
  const what = String(read(doc, "/hardware/what") ?? "");
  const turns = what === "sprocket" || what === "chain";
  return (
    <>
      <SelectField label={say.whatItIs} pointer="/hardware/what" options={choices("Hardware.what")} />
      {what === "sprocket" && <NumberField label={say.teeth} pointer="/hardware/teeth" plain whole />}
      {turns && <TextField label={say.chainSize} pointer="/hardware/pitch" />}
      {what === "chain" && <NumberField label={say.links} pointer="/hardware/links" plain whole />}
      <TextField label={say.fits} pointer="/hardware/fits" />
      {!turns && <NumberField label={say.rated} pointer="/hardware/rating_a" unit="A" />}
      {!turns && <NumberField label={say.atDcVolts} pointer="/hardware/dc_volts_v" unit="V" />}
      <NumberField label={say.mass} pointer="/hardware/mass_kg" kind="mass" />
    </>
  );
}

const PACK = SLOT.packs ?? "";

const FIELDS: Record<string, () => ReactNode> = {
  controllers: () => <Controller />,
  hardware: () => <Hardware />,
  chargers: () => (
    <>
      <SelectField label={say.chemistry} pointer="/chargers/0/chemistry" options={choices("Charger.chemistry", { lfp: "LFP" })} />
      <NumberField label={say.endVolts} pointer="/chargers/0/end_v" unit="V" />
      <NumberField label={say.ampsAPort} pointer="/chargers/0/amps_a" unit="A" />
      <NumberField label={say.ports} pointer="/chargers/0/ports" plain whole />
      <SelectField label={say.plugOfIt} pointer="/chargers/0/plug" options={choices("Charger.plug")} />
    </>
  ),
  throttles: () => (
    <>
      <SelectField label={say.kind} pointer="/throttle/kind" options={choices("Throttle.kind")} />
      <LookField label={say.returns} pointer="/throttle/returns" />
      <ManyField label={say.doesBeside} pointer="/throttle/does" options={choices("Throttle.does")} />
    </>
  ),
  gearboxes: () => (
    <>
      <SelectField label={say.kind} pointer="/drivetrain/kind" options={choices("Drivetrain.kind")} />
      <NumberField label={say.ratio} pointer="/drivetrain/ratio" unit=": 1" />
      <NumberField label={say.efficiency} pointer="/drivetrain/efficiency" kind="grade" />
      <NumberField label={say.standsNm} pointer="/drivetrain/load_limit_nm" unit="N·m" />
    </>
  ),
  wheels: () => (
    <>
      <NumberField label={say.across} pointer="/wheel/diameter_m" kind="small" />
      <SelectField label={say.tyre} pointer="/wheel/tyre" options={choices("Wheel.tyre")} />
    </>
  ),
  fuses: () => (
    <>
      <SelectField label={say.kind} pointer="/main_fuse/kind" options={choices("Fuse.kind")} />
      <NumberField label={say.rated} pointer="/main_fuse/rating_a" unit="A" plain />
      <NumberField label={say.dcVolts} pointer="/main_fuse/dc_volts_v" unit="V" plain />
      <NumberField label={say.breaks} pointer="/main_fuse/breaking_a" unit="A" plain />
    </>
  ),
  wires: () => (
    <>
      <SelectField label={say.gauge} pointer="/reel/awg" options={choices("WireReel.awg")} />
      <NumberField label={say.copper} pointer="/reel/mm2" unit="mm²" plain />
      <SelectField label={say.insulation} pointer="/reel/insulation" options={choices("WireReel.insulation")} />
      <TextField label={say.colour} pointer="/reel/colour" />
      <NumberField label={say.left} pointer="/reel/metres" kind="length" plain />
    </>
  ),
  plugs: () => (
    <>
      <SelectField label={say.kind} pointer="/plugs/0/kind" options={choices("Plug.kind")} />
      <NumberField label={say.poles} pointer="/plugs/0/poles" plain whole />
      <NumberField label={say.rated} pointer="/plugs/0/rating_a" unit="A" />
      <NumberField label={say.dcVolts} pointer="/plugs/0/dc_volts_v" unit="V" />
      <CheckField label={say.browned} pointer="/plugs/0/browned" />
    </>
  ),
  switches: () => (
    <>
      <SelectField label={say.kind} pointer="/cut_off/kind" options={choices("Switch.kind")} />
      <NumberField label={say.breaks} pointer="/cut_off/rating_a" unit="A" />
      <NumberField label={say.atDcVolts} pointer="/cut_off/dc_volts_v" unit="V" />
    </>
  ),
  guards: () => (
    <>
      <SelectField label={say.kind} pointer="/guard/kind" options={choices("Guard.kind")} />
      <NumberField label={say.setPoint} pointer="/guard/volts_v" unit="V" />
      <NumberField label={say.comesBackAt} pointer="/guard/reset_v" unit="V" />
      <NumberField label={say.rated} pointer="/guard/rating_a" unit="A" />
    </>
  ),
  converters: () => (
    <>
      <NumberField label={say.from} pointer="/auxiliaries/0/converter/input_min_v" unit="V" />
      <NumberField label={say.upTo} pointer="/auxiliaries/0/converter/input_max_v" unit="V" />
      <NumberField label={say.gives} pointer="/auxiliaries/0/converter/output_v" unit="V" />
      <NumberField label={say.atMost} pointer="/auxiliaries/0/converter/output_a" unit="A" />
    </>
  ),
};

/** Kinds whose parts are no slot of a setup, and so have no ends of their own. */
const WITHOUT_ENDS = ["wires", "hardware", "converters", "kits"];

/** What a part's label says, and what it ends in. partId: of a part that is on the rack already. */
export function PartFields({ kind, partId }: { kind: string; partId?: number }) {
  return (
    <>
      <LabelFields kind={kind} {...(partId === undefined ? {} : { partId })} />
      {!WITHOUT_ENDS.includes(kind) && <Ends at={SLOT[kind] ?? ""} />}
    </>
  );
}

function LabelFields({ kind, partId }: { kind: string; partId?: number }) {
  if (kind === "packs")
    return (
      <>
        <PackLabel path={PACK} />
        <Grid min={152}>
          <NumberField label={say.length} pointer={`${PACK}/length_m`} kind="small" />
          <NumberField label={say.width} pointer={`${PACK}/width_m`} kind="small" />
          <NumberField label={say.height} pointer={`${PACK}/height_m`} kind="small" />
          <NumberField label={say.mass} pointer={`${PACK}/mass_kg`} kind="mass" />
        </Grid>
        <div className="flex flex-wrap gap-x-5">
          <PackGuards path={PACK} />
        </div>
      </>
    );
  if (kind === "motors")
    return (
      <div>
        <MotorLabel />
      </div>
    );
  if (kind === "kits") return <KitFields partId={partId} fields={(one) => <PartFields kind={one} />} />;
  const fields = FIELDS[kind];
  return fields ? <Grid min={150}>{fields()}</Grid> : null;
}
