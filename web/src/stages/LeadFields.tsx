/** The fields of a lead and of a fuse, wherever they stand in the document. */
import { choices, valuesOf } from "../lib/choices";
import { read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { type UnitChoice, wire } from "../lib/units";
import { CheckField, NumberField, SelectField, TextField, useForm } from "../ui/Field";
import { Grid } from "./Heading";

const wireOptions = (units: UnitChoice) => valuesOf("Lead.awg").map((g) => [String(g), wire(g, units)] as const);

export function LeadFields({ path }: { path: string }) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const metric = read(doc, `${path}/mm2`) != null;
  return (
    <Grid min={148}>
      {metric ? (
        <NumberField label="Copper, one wire" pointer={`${path}/mm2`} unit="mm²" plain />
      ) : (
        <SelectField label="Wire" pointer={`${path}/awg`} options={wireOptions(units)} />
      )}
      <NumberField label="Length one way" pointer={`${path}/length_m`} kind="span" />
      <SelectField
        label="Insulation"
        pointer={`${path}/insulation`}
        options={choices("Lead.insulation", { "60": "60 °C", "75": "75 °C", "105": "105 °C" })}
      />
      <SelectField label="Made of" pointer={`${path}/material`} options={choices("Lead.material")} />
      <NumberField label="Wires in the bundle" pointer={`${path}/bundle_conductors`} plain whole />
      <NumberField label="Wires side by side" pointer={`${path}/strands`} plain whole />
      <SelectField
        label="Ends joined by"
        pointer={`${path}/joint`}
        options={choices("Lead.joint", { unknown: "not known", crimped: "crimp", soldered: "solder" })}
      />
      <TextField label="Colour, plus" pointer={`${path}/colour`} />
      <TextField label="Colour, minus" pointer={`${path}/colour_back`} />
      <NumberField label="Air around it" pointer={`${path}/air_c`} kind="temp" plain />
      <div className="grid gap-1">
        <CheckField label="lugs at both ends" pointer={`${path}/lugged_ends`} />
        <button type="button" className="btn quiet !min-h-8" onClick={() => edit(`${path}/mm2`, metric ? null : 4)}>
          {metric ? "Choose by gauge" : "Enter mm² instead"}
        </button>
      </div>
    </Grid>
  );
}

export function FuseFields({ path }: { path: string }) {
  return (
    <Grid min={148}>
      <NumberField label="Fuse" pointer={`${path}/rating_a`} unit="A" plain />
      <SelectField label="Kind" pointer={`${path}/kind`} options={choices("Fuse.kind")} />
      <NumberField label="Its DC volts" pointer={`${path}/dc_volts_v`} unit="V" plain />
      <SelectField
        label="Sits in the"
        pointer={`${path}/side`}
        options={choices("Fuse.side", { positive: "plus lead", negative: "minus lead", unknown: "not known" })}
      />
      <NumberField label="From the packs" pointer={`${path}/distance_m`} kind="span" />
      <NumberField label="Breaks a short of" pointer={`${path}/breaking_a`} unit="A" plain />
      <NumberField label="Holder stands" pointer={`${path}/holder_a`} unit="A" />
      <NumberField label="Holder's DC volts" pointer={`${path}/holder_v`} unit="V" />
    </Grid>
  );
}
