/** The fields of one run: its wire and its own fuse. Like rows share one run, and what is changed is changed in each. */
import type { ReactNode } from "react";
import type { RunOut } from "../../api/client";
import { type Doc, type Json, read, write } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { type UnitChoice, wire } from "../../lib/units";
import { CheckField, FormProvider, NumberField, SelectField, useForm } from "../../ui/Field";
import { Grid } from "../Heading";
import { Plugs } from "./Plugs";

export const GAUGES = [18, 16, 14, 12, 10, 8, 6, 4, 2] as const;
const FUSE_KINDS = ["blade", "large blade", "bolt-down", "cartridge"].map((k) => [k, k] as const);

/** The places in the document a run stands for. */
export function placesOf(run: Pick<RunOut, "path" | "rows">): { lead: string; fuse: string }[] {
  const name = run.path.split("/").at(-1) ?? "lead";
  if (run.rows.length) return run.rows.map((r) => ({ lead: `/bank/rows/${r}/${name}`, fuse: `/bank/rows/${r}/fuse` }));
  return [{ lead: run.path, fuse: run.path === "/main_lead" ? "/main_fuse" : run.path.replace(/lead$/, "fuse") }];
}

/** A document with some fields of the part at a place changed, its others kept. */
export const merged = (doc: Doc, pointer: string, values: Doc): Doc =>
  write(doc, pointer, { ...((read(doc, pointer) as Doc | null) ?? {}), ...values });

function Together({ run, children }: { run: RunOut; children: ReactNode }) {
  const form = useForm();
  const first = `/bank/rows/${run.rows[0]}/`;
  const edit = (pointer: string, value: Json) => {
    if (run.rows.length < 2 || !pointer.startsWith(first)) return form.edit(pointer, value);
    const rest = pointer.slice(first.length);
    const changed = run.rows.reduce((doc, r) => write(doc, `/bank/rows/${r}/${rest}`, value), form.doc);
    form.edit("/bank", changed.bank as Json);
  };
  return <FormProvider value={{ ...form, edit }}>{children}</FormProvider>;
}

const wireOptions = (units: UnitChoice) => GAUGES.map((g) => [String(g), wire(g, units)] as const);

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
      <NumberField label="Length one way" pointer={`${path}/length_m`} kind="length" />
      <SelectField
        label="Insulation"
        pointer={`${path}/insulation`}
        options={[
          ["60", "60 °C"],
          ["75", "75 °C"],
          ["105", "105 °C"],
          ["silicone", "silicone"],
        ]}
      />
      <NumberField label="Wires in the bundle" pointer={`${path}/bundle_conductors`} plain whole />
      <NumberField label="Wires side by side" pointer={`${path}/strands`} plain whole />
      <SelectField
        label="Ends joined by"
        pointer={`${path}/joint`}
        options={[
          ["unknown", "not known"],
          ["crimped", "crimp"],
          ["soldered", "solder"],
          ["twist cap", "twist cap"],
        ]}
      />
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
      <SelectField label="Kind" pointer={`${path}/kind`} options={FUSE_KINDS} />
      <NumberField label="Its DC volts" pointer={`${path}/dc_volts_v`} unit="V" plain />
      <SelectField
        label="Sits in the"
        pointer={`${path}/side`}
        options={[
          ["positive", "plus lead"],
          ["negative", "minus lead"],
          ["unknown", "not known"],
        ]}
      />
      <NumberField label="From the packs" pointer={`${path}/distance_m`} kind="length" />
      <NumberField label="Holder stands" pointer={`${path}/holder_a`} unit="A" />
      <NumberField label="Holder's DC volts" pointer={`${path}/holder_v`} unit="V" />
    </Grid>
  );
}

export function RunFields({ run }: { run: RunOut }) {
  const { doc } = useForm();
  const [place] = placesOf(run);
  if (!place) return null;
  return (
    <Together run={run}>
      {run.rows.length > 1 && (
        <p className="mb-2 text-small text-ink3">These rows are alike: what you change here changes in each.</p>
      )}
      <LeadFields path={place.lead} />
      {run.own_fuse && read(doc, place.fuse) != null && (
        <div className="mt-3">
          <FuseFields path={place.fuse} />
        </div>
      )}
      {run.kind === "row" && (
        <Plugs path={`/bank/rows/${run.rows[0]}/plugs`} add={run.rows.length > 1 ? "A plug in each row" : "A plug in this row"} />
      )}
    </Together>
  );
}
