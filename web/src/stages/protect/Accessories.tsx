/** Accessories beside the drive, each on its own branch: lamps, horn, meter, a socket behind a converter. */

import { memo } from "react";
import { choices, MOST } from "../../lib/choices";
import { type Doc, type Json, read } from "../../lib/pointer";
import { accessories as say } from "../../texts/protect";
import { CheckField, LookField, NumberField, SelectField, TextField, useForm } from "../../ui/Field";
import { TakePart } from "../../ui/TakePart";
import { Grid } from "../Heading";
import { FuseFields, LeadFields } from "../LeadFields";

const plate = (value: number): Doc => ({ value, basis: "nameplate" });

export const LAMPS: Doc = {
  label: say.lamps,
  kind: "lamp",
  amps_a: plate(2),
  fuse: null,
  lead: { awg: 16, length_m: { value: 1, basis: "assumed" } },
};

export const Accessories = memo(function Accessories() {
  const { doc, edit } = useForm();
  const list = (read(doc, "/auxiliaries") ?? []) as Doc[];
  const volts = dcClass(doc);
  return (
    <div className="grid gap-4">
      {list.map((branch, i) => {
        const path = `/auxiliaries/${i}`;
        const part = (name: string, start: Json, words: string, gone: string) =>
          branch[name] ? (
            <button type="button" className="btn quiet !min-h-8" onClick={() => edit(`${path}/${name}`, null)}>
              {gone}
            </button>
          ) : (
            <button type="button" className="btn" onClick={() => edit(`${path}/${name}`, start)}>
              {words}
            </button>
          );
        return (
          <section key={i} className="border-l-4 border-strong pl-3" aria-label={String(branch.label)}>
            <Grid min={148}>
              <TextField label={say.whatItIs} pointer={`${path}/label`} />
              <NumberField label={say.draws} pointer={`${path}/amps_a`} unit="A" />
              <SelectField label={say.takenFrom} pointer={`${path}/taps`} options={choices("Auxiliary.taps")} />
              <SelectField
                label={say.comesBackBy}
                pointer={`${path}/returns`}
                options={choices("Auxiliary.returns", { "own lead": say.itsOwnLead, frame: say.theFrame })}
              />
              <SelectField
                label={say.itIs}
                pointer={`${path}/kind`}
                options={choices("Auxiliary.kind", {
                  lamp: say.aLamp,
                  horn: say.aHorn,
                  sound: say.aSoundBox,
                  other: say.somethingElse,
                })}
              />
              <SelectField
                label={say.switchedBy}
                pointer={`${path}/switch`}
                options={choices("Auxiliary.switch", {
                  none: say.theCutOffAlone,
                  switch: say.aSwitch,
                  "push button": say.aPushButton,
                })}
              />
              <NumberField label={say.madeFor} pointer={`${path}/rated_v`} unit="V" />
              <CheckField label={say.alwaysOn} pointer={`${path}/always_on`} />
              {part("fuse", { kind: "blade", rating_a: 5, dc_volts_v: volts }, say.giveItAFuse, say.noFuse)}
              {part("lead", LAMPS.lead, say.enterItsLead, say.noLead)}
              {part(
                "converter",
                { input_min_v: plate(20), input_max_v: plate(60), output_v: plate(12), output_a: plate(5) },
                say.behindAConverter,
                say.noConverter,
              )}
              <button
                type="button"
                className="btn quiet !min-h-8"
                onClick={() =>
                  edit(
                    "/auxiliaries",
                    list.filter((_, at) => at !== i),
                  )
                }
              >
                {say.takeItOut}
              </button>
            </Grid>
            {branch.converter != null && (
              <div className="mt-2">
                <TakePart kind="converters" path={`${path}/converter`} label={say.converterOfTheList} />
                <Grid min={148}>
                  <NumberField label={say.converterFrom} pointer={`${path}/converter/input_min_v`} unit="V" />
                  <NumberField label={say.upTo} pointer={`${path}/converter/input_max_v`} unit="V" />
                  <NumberField label={say.gives} pointer={`${path}/converter/output_v`} unit="V" />
                  <NumberField label={say.atMost} pointer={`${path}/converter/output_a`} unit="A" />
                  <NumberField label={say.drawsIdle} pointer={`${path}/converter/standby_a`} unit="A" />
                  <NumberField label={say.efficiency} pointer={`${path}/converter/efficiency`} kind="grade" />
                  <LookField label={say.itsTwoMinusAre} pointer={`${path}/converter/isolated`} />
                </Grid>
              </div>
            )}
            {branch.fuse != null && (
              <div className="mt-2">
                <FuseFields path={`${path}/fuse`} />
              </div>
            )}
            {branch.lead != null && (
              <div className="mt-2">
                <LeadFields path={`${path}/lead`} />
              </div>
            )}
          </section>
        );
      })}
      {list.length < MOST["Setup.auxiliaries"] && (
        <div>
          <button type="button" className="btn" onClick={() => edit("/auxiliaries", [...list, LAMPS])}>
            {say.addAnAccessory}
          </button>
        </div>
      )}
    </div>
  );
});

/** DC volts of the main fuse that is there: an accessory's fuse sees the same packs. */
function dcClass(doc: Doc): number {
  return Number(read(doc, "/main_fuse/dc_volts_v") ?? 58);
}
