/** The fields of a lead and of a fuse, wherever they stand in the document. */
import { choices, valuesOf } from "../lib/choices";
import { useParts } from "../lib/parts";
import { type Doc, read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { leadFields as say } from "../texts/stages";
import { type UnitChoice, wire } from "../texts/units";
import { CheckField, NumberField, SelectField, TextField, useForm } from "../ui/Field";
import { PickPart } from "../ui/PickPart";
import { TakePart } from "../ui/TakePart";
import { Grid } from "./Heading";

const wireOptions = (units: UnitChoice) => valuesOf("Lead.awg").map((g) => [String(g), wire(g, units)] as const);

/** What a lead cut from a reel of the rack takes over from it; nothing is shown while there is none. */
function FromReel({ path }: { path: string }) {
  const { doc, edit } = useForm();
  const reels = (useParts().wires ?? []).filter((one) => one.own && !one.own.out);
  if (reels.length === 0) return null;
  return (
    <PickPart
      label={say.fromAReel}
      className="mb-3 block max-w-[420px]"
      none={say.noReel}
      parts={reels}
      onPick={({ awg = null, mm2 = null, insulation, colour }) =>
        edit(path, {
          ...((read(doc, path) as Doc | null) ?? {}),
          ...(awg !== null || mm2 !== null ? { awg: awg ?? 10, mm2 } : {}),
          ...(insulation ? { insulation } : {}),
          ...(colour ? { colour } : {}),
        } as Doc)
      }
    />
  );
}

export function LeadFields({ path }: { path: string }) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const metric = read(doc, `${path}/mm2`) != null;
  return (
    <>
      <FromReel path={path} />
      <Grid min={148}>
        {metric ? (
          <NumberField label={say.copperOneWire} pointer={`${path}/mm2`} unit="mm²" plain />
        ) : (
          <SelectField label={say.wire} pointer={`${path}/awg`} options={wireOptions(units)} />
        )}
        <NumberField label={say.lengthOneWay} pointer={`${path}/length_m`} kind="span" />
        <SelectField
          label={say.insulation}
          pointer={`${path}/insulation`}
          options={choices("Lead.insulation", { "60": "60 °C", "75": "75 °C", "105": "105 °C" })}
        />
        <SelectField label={say.madeOf} pointer={`${path}/material`} options={choices("Lead.material")} />
        <NumberField label={say.wiresInTheBundle} pointer={`${path}/bundle_conductors`} plain whole />
        <NumberField label={say.wiresSideBySide} pointer={`${path}/strands`} plain whole />
        <SelectField
          label={say.endsJoinedBy}
          pointer={`${path}/joint`}
          options={choices("Lead.joint", { unknown: say.notKnown, crimped: say.crimp, soldered: say.solder })}
        />
        <TextField label={say.colourPlus} pointer={`${path}/colour`} />
        <TextField label={say.colourMinus} pointer={`${path}/colour_back`} />
        <NumberField label={say.airAroundIt} pointer={`${path}/air_c`} kind="temp" plain />
        <div className="grid gap-1">
          <CheckField label={say.lugsAtBothEnds} pointer={`${path}/lugged_ends`} />
          <button type="button" className="btn quiet !min-h-8" onClick={() => edit(`${path}/mm2`, metric ? null : 4)}>
            {metric ? say.chooseByGauge : say.enterMmInstead}
          </button>
        </div>
      </Grid>
    </>
  );
}

export function FuseFields({ path }: { path: string }) {
  return (
    <>
      <TakePart kind="fuses" path={path} label={say.fuseOfYours} own stays={["side", "distance_m", "holder_a", "holder_v"]} />
      <Grid min={148}>
        <NumberField label={say.fuse} pointer={`${path}/rating_a`} unit="A" plain />
        <SelectField label={say.kind} pointer={`${path}/kind`} options={choices("Fuse.kind")} />
        <NumberField label={say.itsDcVolts} pointer={`${path}/dc_volts_v`} unit="V" plain />
        <SelectField
          label={say.sitsInThe}
          pointer={`${path}/side`}
          options={choices("Fuse.side", { positive: say.plusLead, negative: say.minusLead, unknown: say.notKnown })}
        />
        <NumberField label={say.fromThePacks} pointer={`${path}/distance_m`} kind="span" />
        <NumberField label={say.breaksAShortOf} pointer={`${path}/breaking_a`} unit="A" plain />
        <NumberField label={say.holderStands} pointer={`${path}/holder_a`} unit="A" />
        <NumberField label={say.holdersDcVolts} pointer={`${path}/holder_v`} unit="V" />
      </Grid>
    </>
  );
}
