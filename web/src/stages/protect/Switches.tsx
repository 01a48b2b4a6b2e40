/** Everything in the main path that a hand, a key or a coil opens. */

import { memo } from "react";
import { choices } from "../../lib/choices";
import { read } from "../../lib/pointer";
import { NumberField, SelectField, useForm } from "../../ui/Field";
import { Grid } from "../Heading";

const PLACES = [
  ["/cut_off", "Cut-off", "Add a cut-off"],
  ["/key_switch", "Key that carries the current", "Add a key that carries the current"],
  ["/contactor", "Contactor or relay", "Add a contactor or relay"],
  ["/pedal_switch", "Pedal switch", "Add a pedal switch"],
] as const;

export const Switches = memo(function Switches() {
  const { doc, edit } = useForm();
  const direct = ["none", "knob module"].includes(String(read(doc, "/controller/kind")));
  const shown = PLACES.filter(([path]) => path !== "/pedal_switch" || direct || read(doc, path));
  return (
    <div className="mb-3 grid gap-3">
      {shown.map(([path, name]) =>
        read(doc, path) ? (
          <section key={path} aria-label={name}>
            <Grid min={118}>
              <SelectField
                label={name}
                pointer={`${path}/kind`}
                options={choices("Switch.kind", { "pullable plug": "plug to pull" })}
              />
              <NumberField label="Breaks" pointer={`${path}/rating_a`} unit="A" />
              <NumberField label="At DC volts" pointer={`${path}/dc_volts_v`} unit="V" />
              <SelectField
                label="Sits in"
                pointer={`${path}/side`}
                options={choices("Switch.side", { positive: "plus", negative: "minus" })}
              />
              {path === "/cut_off" && (
                <SelectField
                  label="Who reaches it"
                  pointer={`${path}/reach`}
                  options={choices("Switch.reach", {
                    rider: "the rider",
                    "adult beside it": "an adult beside it",
                    "out of reach": "nobody under way",
                  })}
                />
              )}
              <button
                type="button"
                className="btn quiet self-end"
                onClick={() => edit(path, null)}
                aria-label={`No ${name.toLowerCase()}`}
              >
                Take it out
              </button>
            </Grid>
          </section>
        ) : null,
      )}
      <div className="flex flex-wrap gap-2">
        {shown.map(([path, , add]) =>
          read(doc, path) ? null : (
            <button
              key={path}
              type="button"
              className="btn"
              onClick={() => edit(path, { kind: path === "/contactor" ? "contactor" : "switch" })}
            >
              {add}
            </button>
          ),
        )}
      </div>
    </div>
  );
});
