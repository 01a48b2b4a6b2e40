/** Small wires and what was opened: key and switches, what the old part also did, settings inside the controller, covers and seals. */

import type { Hookup } from "../../api/client";
import { choices, MOST, valuesOf } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { smallWires as say } from "../../texts/hookup";
import { CheckField, NumberField, SelectField, TextField, useForm } from "../../ui/Field";
import { Glyph, type Mark } from "../../ui/Glyph";

const CONTROLS = [
  ["key", say.aKeyOrLock],
  ["speed_switch", say.aSwitchForThe],
  ["reverse", say.aSwitchForReverse],
  ["indicator", say.aDisplayOrCharge],
  ["learning_plug", say.aLearningPlug],
  ["charge_socket", say.aChargeSocketOn],
] as const;
const JOBS = valuesOf("Setup.does_now");
const KINDS = choices("Opening.kind", { cover: say.aCover, seal: say.aSealAgainstWater, "cable entry": say.aNewCableEntry });

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
          label={say.forwardNeutralAndReverse}
          pointer="/controls/direction"
          options={[
            ["none", say.none],
            ...(direct ? [] : [["at the controller", say.atTheController] as const]),
            ...(brushless ? [] : [["in the motor leads", say.inTheMotorLeads] as const]),
          ]}
        />
      </div>
      {(read(doc, "/controls/learning_plug") === true || harness.includes("learning")) && (
        <p className="border-l-4 border-amber pl-2">{say.joinedTheWheelStarts}</p>
      )}
      <Toggles label={say.besidesTheirJob} pointer="/stock/also_did" offered={JOBS} />
      {did.length > 0 && <Toggles label={say.doesNow} pointer="/does_now" offered={did} />}
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
            <label htmlFor="firmware">{say.settingsInsideTheController}</label>
          </div>
          {inside?.changed === true && (
            <div className="grid grid-cols-[repeat(auto-fill,minmax(200px,1fr))] items-end gap-3">
              <TextField label={say.versionBefore} pointer="/controller/firmware/version_before" />
              <CheckField label={say.settingsBeforeAreNoted} pointer="/controller/firmware/settings_noted" />
              <CheckField label={say.theOldFileAnd} pointer="/controller/firmware/way_back" />
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
      <h3 className="text-[16px]">{say.cablesThroughATube}</h3>
      {cables.map((_cable, i) => {
        const found = plan.cables[i];
        return (
          <section key={i} aria-label={say.cable(i)} className="grid gap-2 border-t border-line pt-2">
            <div className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] items-end gap-2">
              <TextField label={say.whereItRuns} pointer={`/cables/${i}/label`} />
              <NumberField label={say.conductors} pointer={`/cables/${i}/conductors`} plain whole />
              <NumberField label={say.copperOfEach} pointer={`/cables/${i}/mm2`} unit="mm²" plain />
              <button
                type="button"
                className="btn quiet"
                aria-label={say.takeCableOut(i)}
                onClick={() => set(cables.filter((_c, k) => k !== i))}
              >
                {say.takeOut}
              </button>
            </div>
            <Toggles label={say.itCarriesTheWires} pointer={`/cables/${i}/carries`} offered={PLACES} />
            {found && found.needs > 0 && (
              <div aria-live="polite">
                <p className="flex items-center gap-2 font-bold">
                  <Glyph mark={MARKS[found.state] ?? "note"} /> {say.wiresConductors(found.needs, found.has)}
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
          onClick={() => set([...cables, { label: say.throughTheStem, conductors: 6, mm2: 0.22, carries: [] }])}
        >
          {say.addACable}
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
      {openings.length === 0 && <p className="text-ink2">{say.noteEachCoverBefore}</p>}
      <ul className="grid gap-2">
        {openings.map((one, i) => (
          <li key={i} className="grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] items-end gap-2 border-t border-line pt-2">
            <TextField label={say.what} pointer={`/openings/${i}/label`} />
            <SelectField label={say.itIs} pointer={`/openings/${i}/kind`} options={KINDS} />
            <NumberField label={say.screwsOrClips} pointer={`/openings/${i}/fasteners`} plain whole />
            <TextField label={say.turnedBy} pointer={`/openings/${i}/drive`} />
            <TextField label={say.keptIn} pointer={`/openings/${i}/kept`} />
            <TextField label={say.plugsToUnclip} pointer={`/openings/${i}/unclip`} />
            <TextField label={say.photoIs} pointer={`/openings/${i}/photo`} />
            <CheckField label={say.closedAgain} pointer={`/openings/${i}/closed`} />
            <button
              type="button"
              className="btn quiet"
              aria-label={say.takeNamedOut(String(one.label))}
              onClick={() => set(openings.filter((_o, k) => k !== i))}
            >
              {say.takeOut}
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
                  label: { cover: say.cover, seal: say.lidWithAGasket, "cable entry": say.cableEntry }[kind],
                  kind,
                  fasteners: kind === "cable entry" ? 0 : 4,
                },
              ])
            }
          >
            {say.add(words)}
          </button>
        ))}
      </div>
    </div>
  );
}
