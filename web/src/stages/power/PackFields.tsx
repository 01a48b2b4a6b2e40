/** Everything one pack says about itself, and the adapter it sits in. */
import { choices } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { CheckField, LookField, ManyField, NumberField, SelectField, TextField, useForm } from "../../ui/Field";
import { Grid } from "../Heading";
import { LeadFields } from "../LeadFields";

export function PackFields({ path }: { path: string }) {
  const { doc, edit } = useForm();
  const pack = (read(doc, path) as Doc | null) ?? {};
  const adapter = pack.adapter as Doc | null | undefined;
  return (
    <div className="grid gap-3">
      <Grid min={152}>
        <TextField label="Name" pointer={`${path}/label`} />
        <SelectField label="Chemistry" pointer={`${path}/chemistry`} options={choices("Pack.chemistry", { lfp: "LFP" })} />
        <NumberField label="Cells in series" pointer={`${path}/cells_in_series`} plain whole />
        {(pack.chemistry ?? "li-ion") === "li-ion" && (
          <SelectField
            label="Cells made for"
            pointer={`${path}/cell_kind`}
            options={choices("Pack.cell_kind", { power: "power, as in tools", energy: "range, as in scooters" })}
          />
        )}
        <NumberField label="Capacity" pointer={`${path}/capacity_ah`} unit="Ah" />
        <NumberField label="Charge now" pointer={`${path}/charge`} kind="grade" />
        <NumberField label="Resting volts now" pointer={`${path}/resting_v`} unit="V" />
        <SelectField label="Age" pointer={`${path}/age`} options={choices("Pack.age", { unknown: "not known" })} />
        <NumberField label="Its temperature" pointer={`${path}/temp_c`} kind="temp" plain />
        <NumberField label="Resistance" pointer={`${path}/resistance_ohm`} unit="Ω" />
        <NumberField label="Steady amps" pointer={`${path}/continuous_a`} unit="A" />
        <NumberField label="Amps for 10 s" pointer={`${path}/peak_10s_a`} unit="A" />
        <NumberField label="Switches off at" pointer={`${path}/trip_a`} unit="A" />
        <NumberField label="after" pointer={`${path}/trip_delay_s`} unit="s" />
        <NumberField label="Own low cut-off" pointer={`${path}/protection_low_v`} unit="V" />
        <NumberField label="Charge limit" pointer={`${path}/charge_limit_a`} unit="A" />
        {pack.chemistry === "lead" && <NumberField label="Peukert exponent" pointer={`${path}/peukert_exponent`} />}
      </Grid>
      <Grid min={152}>
        <SelectField
          label="Made by"
          pointer={`${path}/made`}
          options={choices("Pack.made", { "tool pack": "a tool's pack", "home-built": "welded at home" })}
        />
        <LookField label="Board of its own" pointer={`${path}/board`} />
        <NumberField label="Its board stands" pointer={`${path}/board_max_v`} unit="V" />
        <NumberField label="Opens a short at" pointer={`${path}/short_cut_off_a`} unit="A" />
      </Grid>
      <ManyField label="What happened to it" pointer={`${path}/damage`} options={choices("Pack.damage", { wet: "got wet" })} />
      <div className="flex flex-wrap gap-x-5">
        <CheckField label="the tool guards it" pointer={`${path}/guard_in_tool`} />
        <CheckField label="its board guards charging only" pointer={`${path}/charge_only_guard`} />
        <CheckField label="has its own charger" pointer={`${path}/own_charger`} />
        <CheckField label="a link can bypass it" pointer={`${path}/bypass_link`} />
      </div>
      {adapter ? (
        <section className="border-l-4 border-strong pl-3" aria-label="Its adapter">
          <Grid min={152}>
            <SelectField label="Sits in an" pointer={`${path}/adapter/kind`} options={choices("Adapter.kind")} />
            <SelectField
              label="Its electronics"
              pointer={`${path}/adapter/electronics`}
              options={choices("Adapter.electronics", { none: "has none", "in place": "still in place", unknown: "not known" })}
            />
            <NumberField label="Stands" pointer={`${path}/adapter/rating_a`} unit="A" />
            <NumberField label="One contact" pointer={`${path}/adapter/contact_ohm`} unit="Ω" />
            <CheckField label="plus and minus measured again" pointer={`${path}/adapter/polarity_rechecked`} />
            {adapter.lead == null && (
              <button
                type="button"
                className="btn"
                onClick={() => edit(`${path}/adapter/lead`, { awg: 12, length_m: { value: 0.15, basis: "assumed" } })}
              >
                Enter its leads
              </button>
            )}
            <button type="button" className="btn quiet" onClick={() => edit(`${path}/adapter`, null)}>
              No adapter
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
            It sits in an adapter or dock
          </button>
        </div>
      )}
    </div>
  );
}
