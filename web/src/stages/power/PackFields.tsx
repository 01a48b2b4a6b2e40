/** Everything one pack says about itself, and the adapter it sits in. */
import type { ReactNode } from "react";
import { choices } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { packFields as say } from "../../texts/power";
import { CheckField, LookField, ManyField, NumberField, SelectField, TextField, useForm } from "../../ui/Field";
import { RackSlot } from "../../ui/RackSlot";
import { Grid } from "../Heading";
import { LeadFields } from "../LeadFields";

/** What a pack's own label says, and who made it. */
export function PackLabel({ path, children }: { path: string; children?: ReactNode }) {
  const { doc } = useForm();
  const pack = (read(doc, path) as Doc | null) ?? {};
  return (
    <>
      <Grid min={152}>
        {children}
        <SelectField label={say.chemistry} pointer={`${path}/chemistry`} options={choices("Pack.chemistry", { lfp: "LFP" })} />
        <NumberField label={say.cellsInSeries} pointer={`${path}/cells_in_series`} plain whole />
        {(pack.chemistry ?? "li-ion") === "li-ion" && (
          <SelectField
            label={say.cellsMadeFor}
            pointer={`${path}/cell_kind`}
            options={choices("Pack.cell_kind", { power: say.powerAsInTools, energy: say.rangeAsInScooters })}
          />
        )}
        <NumberField label={say.capacity} pointer={`${path}/capacity_ah`} unit="Ah" />
        <NumberField label={say.resistance} pointer={`${path}/resistance_ohm`} unit="Ω" />
        <NumberField label={say.steadyAmps} pointer={`${path}/continuous_a`} unit="A" />
        <NumberField label={say.ampsFor10S} pointer={`${path}/peak_10s_a`} unit="A" />
        <NumberField label={say.switchesOffAt} pointer={`${path}/trip_a`} unit="A" />
        <NumberField label={say.after} pointer={`${path}/trip_delay_s`} unit="s" />
        <NumberField label={say.ownLowCutOff} pointer={`${path}/protection_low_v`} unit="V" />
        <NumberField label={say.chargeLimit} pointer={`${path}/charge_limit_a`} unit="A" />
        {pack.chemistry === "lead" && <NumberField label={say.peukertExponent} pointer={`${path}/peukert_exponent`} />}
      </Grid>
      <Grid min={152}>
        <SelectField
          label={say.madeBy}
          pointer={`${path}/made`}
          options={choices("Pack.made", { "tool pack": say.aToolsPack, "home-built": say.weldedAtHome })}
        />
        <LookField label={say.boardOfItsOwn} pointer={`${path}/board`} />
        <NumberField label={say.itsBoardStands} pointer={`${path}/board_max_v`} unit="V" />
        <NumberField label={say.opensAShortAt} pointer={`${path}/short_cut_off_a`} unit="A" />
      </Grid>
    </>
  );
}

/** What guards a pack. */
export function PackGuards({ path }: { path: string }) {
  return (
    <>
      <CheckField label={say.theToolGuardsIt} pointer={`${path}/guard_in_tool`} />
      <CheckField label={say.itsBoardGuardsCharging} pointer={`${path}/charge_only_guard`} />
    </>
  );
}

export function PackFields({ path }: { path: string }) {
  const { doc, edit } = useForm();
  const pack = (read(doc, path) as Doc | null) ?? {};
  const adapter = pack.adapter as Doc | null | undefined;
  return (
    <div className="grid gap-3">
      <RackSlot path={path} />
      <PackLabel path={path}>
        <TextField label={say.name} pointer={`${path}/label`} />
        <NumberField label={say.chargeNow} pointer={`${path}/charge`} kind="grade" />
        <NumberField label={say.restingVoltsNow} pointer={`${path}/resting_v`} unit="V" />
        <SelectField label={say.age} pointer={`${path}/age`} options={choices("Pack.age", { unknown: say.notKnown })} />
        <NumberField label={say.itsTemperature} pointer={`${path}/temp_c`} kind="temp" plain />
      </PackLabel>
      <ManyField label={say.whatHappenedToIt} pointer={`${path}/damage`} options={choices("Pack.damage", { wet: say.gotWet })} />
      <div className="flex flex-wrap gap-x-5">
        <PackGuards path={path} />
        <CheckField label={say.hasItsOwnCharger} pointer={`${path}/own_charger`} />
        <CheckField label={say.aLinkCanBypass} pointer={`${path}/bypass_link`} />
      </div>
      {adapter ? (
        <section className="border-l-4 border-strong pl-3" aria-label={say.itsAdapter}>
          <Grid min={152}>
            <SelectField label={say.sitsInAn} pointer={`${path}/adapter/kind`} options={choices("Adapter.kind")} />
            <SelectField
              label={say.itsElectronics}
              pointer={`${path}/adapter/electronics`}
              options={choices("Adapter.electronics", { none: say.hasNone, "in place": say.stillInPlace, unknown: say.notKnown })}
            />
            <NumberField label={say.stands} pointer={`${path}/adapter/rating_a`} unit="A" />
            <NumberField label={say.oneContact} pointer={`${path}/adapter/contact_ohm`} unit="Ω" />
            <CheckField label={say.plusAndMinusMeasured} pointer={`${path}/adapter/polarity_rechecked`} />
            {adapter.lead == null && (
              <button
                type="button"
                className="btn"
                onClick={() => edit(`${path}/adapter/lead`, { awg: 12, length_m: { value: 0.15, basis: "assumed" } })}
              >
                {say.enterItsLeads}
              </button>
            )}
            <button type="button" className="btn quiet" onClick={() => edit(`${path}/adapter`, null)}>
              {say.noAdapter}
            </button>
          </Grid>
          {adapter.lead != null && (
            <div className="mt-2">
              <LeadFields path={`${path}/adapter/lead`} />
            </div>
          )}
        </section>
      ) : (
        <div>
          <button
            type="button"
            className="btn"
            onClick={() => edit(`${path}/adapter`, { kind: "adapter", electronics: "unknown", polarity_rechecked: false })}
          >
            {say.itSitsInAn}
          </button>
        </div>
      )}
    </div>
  );
}
