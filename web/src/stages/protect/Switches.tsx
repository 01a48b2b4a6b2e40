/** Everything in the main path that a hand, a key or a coil opens. */

import { memo } from "react";
import { choices } from "../../lib/choices";
import { read } from "../../lib/pointer";
import { switches as say } from "../../texts/protect";
import { NumberField, SelectField, useForm } from "../../ui/Field";
import { TakePart } from "../../ui/TakePart";
import { Grid } from "../Heading";

const PLACES = [
  ["/cut_off", say.cutOff, say.addACutOff],
  ["/key_switch", say.keyThatCarriesThe, say.addAKeyThat],
  ["/contactor", say.contactorOrRelay, say.addAContactorOr],
  ["/pedal_switch", say.pedalSwitch, say.addAPedalSwitch],
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
            <TakePart kind="switches" path={path} label={name} none={say.chooseOne} stays={["side", "reach"]} />
            <Grid min={118}>
              <SelectField
                label={say.kind}
                pointer={`${path}/kind`}
                options={choices("Switch.kind", { "pullable plug": say.plugToPull })}
              />
              <NumberField label={say.breaks} pointer={`${path}/rating_a`} unit="A" />
              <NumberField label={say.atDcVolts} pointer={`${path}/dc_volts_v`} unit="V" />
              <SelectField
                label={say.sitsIn}
                pointer={`${path}/side`}
                options={choices("Switch.side", { positive: "plus", negative: "minus" })}
              />
              {path === "/cut_off" && (
                <SelectField
                  label={say.whoReachesIt}
                  pointer={`${path}/reach`}
                  options={choices("Switch.reach", {
                    rider: say.theRider,
                    "adult beside it": say.anAdultBesideIt,
                    "out of reach": say.nobodyUnderWay,
                  })}
                />
              )}
              <button
                type="button"
                className="btn quiet self-end"
                onClick={() => edit(path, null)}
                aria-label={say.no(name.toLowerCase())}
              >
                {say.takeItOut}
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
