/** Accessories beside the drive, each on its own branch: lamps, horn, meter, a socket behind a converter. */

import { memo } from "react";
import { choices, MOST } from "../../lib/choices";
import { type Doc, type Json, read } from "../../lib/pointer";
import { CheckField, LookField, NumberField, SelectField, TextField, useForm } from "../../ui/Field";
import { Grid } from "../Heading";
import { FuseFields, LeadFields } from "../LeadFields";

const plate = (value: number): Doc => ({ value, basis: "nameplate" });

export const LAMPS: Doc = {
  label: "Lamps",
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
              <TextField label="What it is" pointer={`${path}/label`} />
              <NumberField label="Draws" pointer={`${path}/amps_a`} unit="A" />
              <SelectField label="Taken from" pointer={`${path}/taps`} options={choices("Auxiliary.taps")} />
              <SelectField
                label="Comes back by"
                pointer={`${path}/returns`}
                options={choices("Auxiliary.returns", { "own lead": "its own lead", frame: "the frame" })}
              />
              <SelectField
                label="It is"
                pointer={`${path}/kind`}
                options={choices("Auxiliary.kind", {
                  lamp: "a lamp",
                  horn: "a horn",
                  sound: "a sound box",
                  other: "something else",
                })}
              />
              <SelectField
                label="Switched by"
                pointer={`${path}/switch`}
                options={choices("Auxiliary.switch", {
                  none: "the cut-off alone",
                  switch: "a switch",
                  "push button": "a push button",
                })}
              />
              <NumberField label="Made for" pointer={`${path}/rated_v`} unit="V" />
              <CheckField label="always on" pointer={`${path}/always_on`} />
              {part("fuse", { kind: "blade", rating_a: 5, dc_volts_v: volts }, "Give it a fuse", "No fuse")}
              {part("lead", LAMPS.lead, "Enter its lead", "No lead")}
              {part(
                "converter",
                { input_min_v: plate(20), input_max_v: plate(60), output_v: plate(12), output_a: plate(5) },
                "Behind a converter",
                "No converter",
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
                Take it out
              </button>
            </Grid>
            {branch.converter != null && (
              <div className="mt-2">
                <Grid min={148}>
                  <NumberField label="Converter from" pointer={`${path}/converter/input_min_v`} unit="V" />
                  <NumberField label="up to" pointer={`${path}/converter/input_max_v`} unit="V" />
                  <NumberField label="gives" pointer={`${path}/converter/output_v`} unit="V" />
                  <NumberField label="at most" pointer={`${path}/converter/output_a`} unit="A" />
                  <NumberField label="draws idle" pointer={`${path}/converter/standby_a`} unit="A" />
                  <NumberField label="Efficiency" pointer={`${path}/converter/efficiency`} kind="grade" />
                  <LookField label="Its two minus are apart" pointer={`${path}/converter/isolated`} />
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
            Add an accessory
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
