/** The plugs of a place: the main and motor path, or a row. */
import { choices } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { plugs as say } from "../../texts/protect";
import { CheckField, NumberField, SelectField, useForm } from "../../ui/Field";
import { TakePart } from "../../ui/TakePart";
import { Grid } from "../Heading";

export function Plugs({ path, add }: { path: string; add: string }) {
  const { doc, edit } = useForm();
  const list = (read(doc, path) ?? []) as Doc[];
  return (
    <div className="mt-3 grid gap-3">
      {list.map((_, i) => (
        <section key={i} className="border-l-4 border-line pl-3" aria-label={say.plug(i)}>
          <TakePart kind="plugs" path={`${path}/${i}`} label={say.plugOfYours} own stays={["place", "live_pins"]} />
          <Grid min={118}>
            <SelectField label={say.plug(i)} pointer={`${path}/${i}/kind`} options={choices("Plug.kind")} />
            {path === "/plugs" && (
              <SelectField
                label={say.where}
                pointer={`${path}/${i}/place`}
                options={choices("Plug.place", { main: say.fromThePacks, motor: say.toTheMotor })}
              />
            )}
            <NumberField label={say.contactsPassed} pointer={`${path}/${i}/poles`} plain whole />
            <NumberField label={say.stands} pointer={`${path}/${i}/rating_a`} unit="A" />
            <NumberField label={say.dcVolts} pointer={`${path}/${i}/dc_volts_v`} unit="V" />
          </Grid>
          <div className="flex flex-wrap items-center gap-x-4">
            <CheckField label={say.brownedOrMelted} pointer={`${path}/${i}/browned`} />
            <CheckField label={say.bareLivePins} pointer={`${path}/${i}/live_pins`} />
            <button
              type="button"
              className="btn quiet !min-h-8"
              onClick={() =>
                edit(
                  path,
                  list.filter((_p, at) => at !== i),
                )
              }
            >
              {say.takeItOut}
            </button>
          </div>
        </section>
      ))}
      <div>
        <button type="button" className="btn" onClick={() => edit(path, [...list, { kind: "two-pole 60", poles: 2 }])}>
          {add}
        </button>
      </div>
    </div>
  );
}
