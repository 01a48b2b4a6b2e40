/** Survey: what is there. The machine, its stock electrics, the questions that decide, and the baseline run. */

import { Link } from "react-router";
import { choices } from "../../lib/choices";
import { read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { withUnit } from "../../lib/units";
import { CheckField, NumberField, SegmentField, SelectField, TextField } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { MachineDrawing } from "../../ui/MachineDrawing";
import { Block, Grid, Heading } from "../Heading";
import type { StageProps } from "../stage";
import { LookList } from "./LookList";

function Facts({ doc, known }: { doc: StageProps["draft"]["doc"]; known: boolean }) {
  const { units } = useSettings();
  const value = (pointer: string) => (read(doc, `${pointer}/value`) as number | undefined) ?? null;
  const base = value("/vehicle/wheelbase_m");
  const wheel = value("/wheel/diameter_m");
  const mass = value("/vehicle/mass_kg");
  const stock = value("/stock/volts_v");
  const family = String(read(doc, "/vehicle/family") ?? "kart");
  const rows: [string, string | null][] = [
    ["Stock volts", stock === null ? null : `${stock} V`],
    ["Wheel", wheel === null ? null : withUnit(wheel, "small", units)],
    ["Wheelbase", base === null ? null : withUnit(base, "length", units)],
    ["Mass as found", mass === null ? null : withUnit(mass, "mass", units)],
  ];
  return (
    <div className="card grid grid-cols-[220px_1fr] items-center gap-4 p-4 max-desk:grid-cols-1">
      <MachineDrawing family={family} width={220} />
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2">
        {rows.map(([name, text], i) => (
          <div key={name} className={`rounded-md border px-2 py-1 ${text ? "border-ink" : "border-dashed border-strong"}`}>
            <dt className="text-small text-ink3">
              {i + 1} {name}
            </dt>
            <dd className={text ? "font-bold" : "text-ink3 italic"}>{text ?? (known ? "typical of its kind" : "open")}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

export function Survey({ build, row, draft, plan, apply }: StageProps) {
  const { units } = useSettings();
  const base = build.setups.find((s) => s.is_baseline);
  const top = plan.evaluation?.outcome?.top_speed_m_s;
  const missing = plan.evaluation?.gaps.filter((g) => g.kind === "missing") ?? [];
  return (
    <>
      <Heading title="Survey" line="What is there, before anything is cut or bought. Skip what you cannot read." />
      <Facts doc={draft.doc} known={plan.evaluation?.outcome != null} />
      {missing.length > 0 && (
        <div className="my-3 rounded-lg border border-amberline bg-ambertint px-3 py-2">
          <b>Still open</b>
          <ul className="list-disc pl-5">
            {missing.map((g) => (
              <li key={g.path}>{g.message}</li>
            ))}
          </ul>
        </div>
      )}
      <LookList plan={plan} apply={apply} />
      <div className="mt-4 grid grid-cols-2 gap-6 max-wide:grid-cols-1">
        <Block title="The machine">
          <Grid>
            <SelectField label="Family" pointer="/vehicle/family" options={choices("Vehicle.family")} />
            <NumberField label="Mass as found, packs in" pointer="/vehicle/mass_kg" kind="mass" />
            <NumberField label="Wheelbase" pointer="/vehicle/wheelbase_m" kind="span" />
            <NumberField label="Track" pointer="/vehicle/track_m" kind="span" />
            <NumberField label="Height of mass" pointer="/vehicle/com_height_m" kind="span" />
            <NumberField label="Mass ahead of rear axle" pointer="/vehicle/com_ahead_of_rear_m" kind="span" />
            <NumberField label="Front axle carries, rider on" pointer="/vehicle/front_axle_kg" kind="mass" />
            <NumberField label="Rear axle carries, rider on" pointer="/vehicle/rear_axle_kg" kind="mass" />
            <SelectField
              label="Driven"
              pointer="/vehicle/driven_axle"
              options={choices("Vehicle.driven_axle", { all: "all wheels" })}
            />
            <SelectField label="Rider sits" pointer="/vehicle/seat" options={choices("Vehicle.seat")} />
            <SelectField label="Brake" pointer="/vehicle/brake" options={choices("Vehicle.brake")} />
            <SelectField label="Braked axles" pointer="/vehicle/braked_axles" options={choices("Vehicle.braked_axles")} />
          </Grid>
        </Block>
        <Block title="Stock electrics">
          <Grid>
            <NumberField label="Stock volts" pointer="/stock/volts_v" unit="V" />
            <NumberField label="Stock capacity" pointer="/stock/capacity_ah" unit="Ah" />
            <NumberField label="Stock fuse" pointer="/stock/fuse_a" unit="A" />
            <NumberField label="Packs it came with weigh" pointer="/stock/packs_kg" kind="mass" />
            <NumberField label="Drive it came with weighs" pointer="/stock/drive_kg" kind="mass" />
          </Grid>
          <div className="mt-3">
            <TextField label="Worth keeping" pointer="/stock/notes" long />
          </div>
        </Block>
        <Block title="Which lead is plus?" line="The colour is no proof. Read the marking on the old battery, or measure.">
          <TextField label="What you found" pointer="/vehicle/plus_lead_note" />
        </Block>
        <Block title="The maker's limits" line="Off the label or the manual: they come first.">
          <Grid>
            <NumberField label="Highest speed" pointer="/vehicle/max_speed_m_s" kind="speed" />
            <NumberField label="Least age" pointer="/vehicle/least_age_years" unit="years" plain />
            <NumberField label="Load" pointer="/vehicle/max_load_kg" kind="mass" />
            <NumberField label="Seats" pointer="/vehicle/seats" plain whole />
            <NumberField label="Parts added" pointer="/vehicle/extra_mass_kg" kind="mass" />
            <SegmentField
              label="Suspension"
              pointer="/vehicle/suspension"
              options={[
                ["true", "Yes"],
                ["false", "No"],
              ]}
            />
          </Grid>
        </Block>
        <Block title="A circuit board between pedal and motor?" line="More volts can kill it. Follow the wires from the pedal.">
          <SegmentField
            label="Circuit board"
            pointer="/vehicle/board_in_path"
            options={choices("Vehicle.board_in_path", { yes: "Yes", no: "No", unknown: "Not looked yet" })}
          />
          {read(draft.doc, "/vehicle/board_in_path") === "yes" && (
            <CheckField label="The new wiring bypasses it" pointer="/vehicle/board_bypassed" />
          )}
        </Block>
      </div>
      <section className="mt-5 flex flex-wrap items-center gap-3 rounded-lg bg-sunk px-4 py-3">
        <Glyph mark={base ? "now" : "open"} size={18} />
        <p className="flex-1">
          <b>Baseline run.</b> Every gain is measured against it: fresh charge, timed both ways.
          {row.is_baseline && top != null && <> This plan expects {withUnit(top, "speed", units)} as found.</>}
        </p>
        {base && (
          <Link className="btn go" to={`/builds/${build.id}/setups/${base.id}/prove`}>
            Enter the baseline run
          </Link>
        )}
      </section>
    </>
  );
}
