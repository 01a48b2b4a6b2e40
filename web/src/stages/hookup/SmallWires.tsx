/** Small wires and what was opened: key and switches, what the old part also did, settings inside the controller, covers and seals. */

import type { Hookup } from "../../api/client";
import { choices, MOST, valuesOf } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { CheckField, NumberField, SelectField, TextField, useForm } from "../../ui/Field";
import { Glyph, type Mark } from "../../ui/Glyph";

const CONTROLS = [
  ["key", "A key or lock"],
  ["speed_switch", "A switch for the speed modes"],
  ["reverse", "A switch for reverse alone"],
  ["indicator", "A display or charge indicator"],
  ["learning_plug", "A learning plug"],
  ["charge_socket", "A charge socket on the machine"],
] as const;
const JOBS = valuesOf("Setup.does_now");
const KINDS = choices("Opening.kind", { cover: "a cover", seal: "a seal against water", "cable entry": "a new cable entry" });

/** Any number of some words, each a button that stays pressed. */
export function Toggles({ label, pointer, offered }: { label: string; pointer: string; offered: readonly string[] }) {
  const { doc, edit } = useForm();
  const chosen = (read(doc, pointer) as string[] | undefined) ?? [];
  return (
    <fieldset>
      <legend className="text-small text-ink2">{label}</legend>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {offered.map((job) => (
          <button
            key={job}
            type="button"
            className="btn"
            aria-pressed={chosen.includes(job)}
            onClick={() => edit(pointer, chosen.includes(job) ? chosen.filter((one) => one !== job) : [...chosen, job])}
          >
            {job}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

export function SmallWires() {
  const { doc, edit } = useForm();
  const direct = ["none", "knob module"].includes(String(read(doc, "/controller/kind")));
  const brushless = ["hub", "brushless mid"].includes(String(read(doc, "/motor/kind")));
  const did = (read(doc, "/stock/also_did") as string[] | undefined) ?? [];
  const harness = (read(doc, "/controls/harness") as string[] | undefined) ?? [];
  const inside = read(doc, "/controller/firmware");
  return (
    <div className="grid gap-4">
      <div className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-4">
        {CONTROLS.filter(([key]) => !direct || key === "charge_socket").map(([key, words]) => (
          <CheckField key={key} label={words} pointer={`/controls/${key}`} />
        ))}
        <SelectField
          label="Forward, neutral and reverse switch"
          pointer="/controls/direction"
          options={[
            ["none", "none"],
            ...(direct ? [] : [["at the controller", "at the controller"] as const]),
            ...(brushless ? [] : [["in the motor leads", "in the motor leads"] as const]),
          ]}
        />
      </div>
      {(read(doc, "/controls/learning_plug") === true || harness.includes("learning")) && (
        <p className="border-l-4 border-amber pl-2">
          <b>Joined, the wheel starts at once and without throttle.</b> Wheel free, hands clear. Let it learn, unplug, wait until
          it stands. If it learned the wrong direction, plug in and out once more. Never ride with it joined.
        </p>
      )}
      <Toggles label="The parts that were replaced also did" pointer="/stock/also_did" offered={JOBS} />
      {did.length > 0 && <Toggles label="Something in this setup does now" pointer="/does_now" offered={did} />}
      {!direct && (
        <div>
          <div className="flex min-h-9 items-center gap-2">
            <input
              id="firmware"
              type="checkbox"
              className="size-5 accent-[var(--leaf-deep)]"
              checked={inside?.changed === true}
              onChange={(e) => edit("/controller/firmware", e.target.checked ? { changed: true } : null)}
            />
            <label htmlFor="firmware">Settings inside the controller were changed, by an app, a cable or a display</label>
          </div>
          {inside?.changed === true && (
            <div className="grid grid-cols-[repeat(auto-fill,minmax(200px,1fr))] items-end gap-3">
              <TextField label="Version before" pointer="/controller/firmware/version_before" />
              <CheckField label="Settings before are noted" pointer="/controller/firmware/settings_noted" />
              <CheckField label="The old file and its tool are kept" pointer="/controller/firmware/way_back" />
            </div>
          )}
        </div>
      )}
    </div>
  );
}

/** Functions whose wires run through a tube together; a plug of its own kind has none that are known. */
const PLACES = valuesOf("SignalCable.carries").filter((job) => job !== "other");
const MARKS: Record<string, Mark> = { fits: "done", "with one ground": "caution", "too few": "stop", wrong: "stop" };

export function Cables({ plan }: { plan: Hookup }) {
  const { doc, edit } = useForm();
  const cables = read(doc, "/cables") ?? [];
  const set = (list: Doc[]) => edit("/cables", list);
  return (
    <div className="grid gap-3">
      <h3 className="text-[16px]">Cables through a tube or stem</h3>
      {cables.map((_cable, i) => {
        const found = plan.cables[i];
        return (
          <section key={i} aria-label={`Cable ${i + 1}`} className="grid gap-2 border-t border-line pt-2">
            <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-2">
              <TextField label="Where it runs" pointer={`/cables/${i}/label`} />
              <NumberField label="Conductors" pointer={`/cables/${i}/conductors`} plain whole />
              <NumberField label="Copper of each" pointer={`/cables/${i}/mm2`} unit="mm²" plain />
              <button
                type="button"
                className="btn quiet"
                aria-label={`Take cable ${i + 1} out`}
                onClick={() => set(cables.filter((_c, k) => k !== i))}
              >
                Take out
              </button>
            </div>
            <Toggles label="It carries the wires of" pointer={`/cables/${i}/carries`} offered={PLACES} />
            {found && found.needs > 0 && (
              <div aria-live="polite">
                <p className="flex items-center gap-2 font-bold">
                  <Glyph mark={MARKS[found.state] ?? "note"} /> {found.needs} wires, {found.has} conductors
                </p>
                {found.said.map((said) => (
                  <p key={said}>{said}</p>
                ))}
              </div>
            )}
          </section>
        );
      })}
      <div>
        <button
          type="button"
          className="btn"
          disabled={cables.length >= MOST["Setup.cables"]}
          onClick={() => set([...cables, { label: "Through the stem", conductors: 6, mm2: 0.22, carries: [] }])}
        >
          Add a cable
        </button>
      </div>
    </div>
  );
}

export function Openings() {
  const { doc, edit } = useForm();
  const openings = read(doc, "/openings") ?? [];
  const set = (list: Doc[]) => edit("/openings", list);
  return (
    <div className="grid gap-3">
      {openings.length === 0 && (
        <p className="text-ink2">
          Note each cover before it comes off: how many screws, what turns them, where they wait. Take a photo of the wires first.
        </p>
      )}
      <ul className="grid gap-2">
        {openings.map((one, i) => (
          <li key={i} className="grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] items-end gap-2 border-t border-line pt-2">
            <TextField label="What" pointer={`/openings/${i}/label`} />
            <SelectField label="It is" pointer={`/openings/${i}/kind`} options={KINDS} />
            <NumberField label="Screws or clips" pointer={`/openings/${i}/fasteners`} plain whole />
            <TextField label="Turned by" pointer={`/openings/${i}/drive`} />
            <TextField label="Kept in" pointer={`/openings/${i}/kept`} />
            <TextField label="Plugs to unclip" pointer={`/openings/${i}/unclip`} />
            <TextField label="Photo is" pointer={`/openings/${i}/photo`} />
            <CheckField label="Closed again" pointer={`/openings/${i}/closed`} />
            <button
              type="button"
              className="btn quiet"
              aria-label={`Take ${String(one.label)} out`}
              onClick={() => set(openings.filter((_o, k) => k !== i))}
            >
              Take out
            </button>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-1.5">
        {KINDS.map(([kind, words]) => (
          <button
            key={kind}
            type="button"
            className="btn"
            disabled={openings.length >= MOST["Setup.openings"]}
            onClick={() =>
              set([
                ...openings,
                {
                  label: { cover: "Cover", seal: "Lid with a gasket", "cable entry": "Cable entry" }[kind],
                  kind,
                  fasteners: kind === "cable entry" ? 0 : 4,
                },
              ])
            }
          >
            Add {words}
          </button>
        ))}
      </div>
    </div>
  );
}
