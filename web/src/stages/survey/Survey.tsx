/** Survey: what is there. The machine, its stock electrics, the questions that decide, and the baseline run. */

import { Link } from "react-router";
import { choices } from "../../lib/choices";
import { read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { survey as say } from "../../texts/survey";
import { withUnit } from "../../texts/units";
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
    [say.stockVolts, stock === null ? null : `${stock} V`],
    [say.wheel, wheel === null ? null : withUnit(wheel, "small", units)],
    [say.wheelbase, base === null ? null : withUnit(base, "length", units)],
    [say.massAsFound, mass === null ? null : withUnit(mass, "mass", units)],
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
            <dd className={text ? "font-bold" : "text-ink3 italic"}>{text ?? (known ? say.typicalOfItsKind : say.open)}</dd>
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
      <Heading title={say.survey} line={say.whatIsThereBefore} />
      <Facts doc={draft.doc} known={plan.evaluation?.outcome != null} />
      {missing.length > 0 && (
        <div className="my-3 rounded-lg border border-amberline bg-ambertint px-3 py-2">
          <b>{say.stillOpen}</b>
          <ul className="list-disc pl-5">
            {missing.map((g) => (
              <li key={g.path}>{g.message}</li>
            ))}
          </ul>
        </div>
      )}
      <LookList plan={plan} apply={apply} />
      <div className="mt-4 grid grid-cols-2 gap-6 max-wide:grid-cols-1">
        <Block title={say.theMachine}>
          <Grid>
            <SelectField label={say.family} pointer="/vehicle/family" options={choices("Vehicle.family")} />
            <NumberField label={say.massAsFoundPacks} pointer="/vehicle/mass_kg" kind="mass" />
            <NumberField label={say.wheelbase} pointer="/vehicle/wheelbase_m" kind="span" />
            <NumberField label={say.track} pointer="/vehicle/track_m" kind="span" />
            <NumberField label={say.heightOfMass} pointer="/vehicle/com_height_m" kind="span" />
            <NumberField label={say.massAheadOfRear} pointer="/vehicle/com_ahead_of_rear_m" kind="span" />
            <NumberField label={say.frontAxleCarriesRider} pointer="/vehicle/front_axle_kg" kind="mass" />
            <NumberField label={say.rearAxleCarriesRider} pointer="/vehicle/rear_axle_kg" kind="mass" />
            <SelectField
              label={say.driven}
              pointer="/vehicle/driven_axle"
              options={choices("Vehicle.driven_axle", { all: say.allWheels })}
            />
            <SelectField label={say.riderSits} pointer="/vehicle/seat" options={choices("Vehicle.seat")} />
            <SelectField label={say.brake} pointer="/vehicle/brake" options={choices("Vehicle.brake")} />
            <SelectField label={say.brakedAxles} pointer="/vehicle/braked_axles" options={choices("Vehicle.braked_axles")} />
          </Grid>
        </Block>
        <Block title={say.stockElectrics}>
          <Grid>
            <NumberField label={say.stockVolts} pointer="/stock/volts_v" unit="V" />
            <NumberField label={say.stockCapacity} pointer="/stock/capacity_ah" unit="Ah" />
            <NumberField label={say.stockFuse} pointer="/stock/fuse_a" unit="A" />
            <NumberField label={say.packsItCameWith} pointer="/stock/packs_kg" kind="mass" />
            <NumberField label={say.driveItCameWith} pointer="/stock/drive_kg" kind="mass" />
          </Grid>
          <div className="mt-3">
            <TextField label={say.worthKeeping} pointer="/stock/notes" long />
          </div>
        </Block>
        <Block title={say.whichLeadIsPlus} line={say.theColourIsNo}>
          <TextField label={say.whatYouFound} pointer="/vehicle/plus_lead_note" />
        </Block>
        <Block title={say.theMakersLimits} line={say.offTheLabelOr}>
          <Grid>
            <NumberField label={say.highestSpeed} pointer="/vehicle/max_speed_m_s" kind="speed" />
            <NumberField label={say.leastAge} pointer="/vehicle/least_age_years" unit={say.years} plain />
            <NumberField label={say.load} pointer="/vehicle/max_load_kg" kind="mass" />
            <NumberField label={say.seats} pointer="/vehicle/seats" plain whole />
            <NumberField label={say.partsAdded} pointer="/vehicle/extra_mass_kg" kind="mass" />
            <SegmentField
              label={say.suspension}
              pointer="/vehicle/suspension"
              options={[
                ["true", say.yes],
                ["false", say.no],
              ]}
            />
          </Grid>
        </Block>
        <Block title={say.aCircuitBoardBetween} line={say.moreVoltsCanKill}>
          <SegmentField
            label={say.circuitBoard}
            pointer="/vehicle/board_in_path"
            options={choices("Vehicle.board_in_path", { yes: say.yes, no: say.no, unknown: say.notLookedYet })}
          />
          {read(draft.doc, "/vehicle/board_in_path") === "yes" && (
            <CheckField label={say.theNewWiringBypasses} pointer="/vehicle/board_bypassed" />
          )}
        </Block>
      </div>
      <section className="mt-5 flex flex-wrap items-center gap-3 rounded-lg bg-sunk px-4 py-3">
        <Glyph mark={base ? "now" : "open"} size={18} />
        <p className="flex-1">
          {say.baselineRunEveryGain}
          {row.is_baseline && top != null && <> {say.thisPlanExpectsAs(top, units)}</>}
        </p>
        {base && (
          <Link className="btn go" to={`/builds/${build.id}/setups/${base.id}/prove`}>
            {say.enterTheBaselineRun}
          </Link>
        )}
      </section>
    </>
  );
}
