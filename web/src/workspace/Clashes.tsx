/** Where two people changed the same field: what either has there, and which is taken. All else is joined already. */
import { useState } from "react";
import type { Clash } from "../api/client";
import { useSettings } from "../lib/settings";
import type { Answers, Draft } from "../lib/useDraft";
import { type Kind, plainNumber, type UnitChoice, withUnit } from "../texts/units";
import { clashes as say } from "../texts/workspace";
import { Dialog } from "../ui/Dialog";

/** Units by the end of a field's name: all the document is in SI. */
const ENDINGS: [RegExp, Kind, string][] = [
  [/_m_s$/, "speed", ""],
  [/_ah$/, "plain", "Ah"],
  [/_ohm$/, "plain", "Ω"],
  [/_rpm$/, "plain", "rpm"],
  [/_kg$/, "mass", ""],
  [/_c$/, "temp", ""],
  [/_m$/, "length", ""],
  [/_v$/, "plain", "V"],
  [/_a$/, "plain", "A"],
  [/_w$/, "plain", "W"],
  [/_s$/, "plain", "s"],
];

const endingOf = (name: string) => ENDINGS.find(([ending]) => ending.test(name));

/** A path as one reads it: "/bank/rows/0/units/1/capacity_ah" is "bank, rows 1, units 2, capacity". */
export function placeWords(path: string): string {
  const words: string[] = [];
  for (const step of path.split("/").filter(Boolean)) {
    const bare = endingOf(step)?.[0];
    if (/^\d+$/.test(step)) words.push(`${words.pop() ?? say.entry} ${Number(step) + 1}`);
    else words.push((bare ? step.replace(bare, "") : step).replaceAll("_", " "));
  }
  return words.join(", ");
}

/** What stands in a field, as one reads it. */
export function valueWords(value: unknown, path: string, units: UnitChoice): string {
  if (value === null || value === undefined || value === "") return "nothing";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") {
    const [, kind, own] = endingOf(path.split("/").at(-1) ?? "") ?? [/$/, "plain", ""];
    return kind === "plain" ? `${plainNumber(value)} ${own}`.trim() : withUnit(value, kind, units);
  }
  if (typeof value !== "object") return String(value);
  const object = value as Record<string, unknown>;
  if ("basis" in object) return `${valueWords(object.value, path, units)}, ${String(object.basis)}`;
  if (Array.isArray(value)) return value.length ? value.map((one) => valueWords(one, path, units)).join("; ") : "nothing";
  return String(object.answer ?? object.label ?? object.name ?? object.kind ?? say.asEnteredThere);
}

export function Clashes({ draft }: { draft: Draft }) {
  const { save } = draft;
  if (save.kind !== "conflict") return null;
  const asked = save.asked.filter((one) => one.path !== "");
  return (
    <Dialog
      open
      onOpenChange={() => {}}
      title={say.changedInTwoPlaces}
      description={asked.length ? say.thisSetupWasSaved : save.why}
    >
      {asked.length ? (
        <Fields key={save.version} asked={asked} settle={draft.settle} />
      ) : (
        <Whole draft={draft} theirs={save.theirs} settle={draft.settle} />
      )}
    </Dialog>
  );
}

function Fields({ asked, settle }: { asked: Clash[]; settle: (answers: Answers) => void }) {
  const { units } = useSettings();
  const [chosen, setChosen] = useState<Answers>({});
  const all = (side: "mine" | "theirs") => setChosen(Object.fromEntries(asked.map((one) => [one.path, side])));
  const open = asked.filter((one) => !chosen[one.path]).length;
  return (
    <>
      <div className="mb-2 flex flex-wrap gap-2">
        <button type="button" className="btn" onClick={() => all("mine")}>
          {say.mineEverywhere}
        </button>
        <button type="button" className="btn" onClick={() => all("theirs")}>
          {say.theirsEverywhere}
        </button>
      </div>
      <ul className="grid max-h-[50vh] gap-3 overflow-y-auto">
        {asked.map((one) => (
          <li key={one.path}>
            <fieldset className="grid grid-cols-2 gap-2">
              <legend className="mb-1 font-semibold first-letter:uppercase">{placeWords(one.path)}</legend>
              {(["mine", "theirs"] as const).map((side) => (
                <label key={side} className="flex min-h-11 items-center gap-2 rounded-lg border border-strong px-3 py-1">
                  <input
                    type="radio"
                    className="size-5 shrink-0 accent-[var(--leaf-deep)]"
                    name={one.path}
                    checked={chosen[one.path] === side}
                    onChange={() => setChosen((was) => ({ ...was, [one.path]: side }))}
                  />
                  <span className="min-w-0 break-words">
                    <span className="block text-small text-ink2">{side === "mine" ? say.mine : say.theirs}</span>
                    {valueWords(one[side], one.path, units)}
                  </span>
                </label>
              ))}
            </fieldset>
          </li>
        ))}
      </ul>
      <button type="button" className="btn go mt-3" disabled={open > 0} onClick={() => settle(chosen)}>
        {open > 0 ? say.stillToChoose(open) : say.saveItSo}
      </button>
      <p className="mt-3 text-small text-ink2">{say.eachVersionStaysIn}</p>
    </>
  );
}

/** Where what the draft was made from is not known any more, or both together make no setup: one of the two. */
function Whole({ draft, theirs, settle }: { draft: Draft; theirs: Draft["doc"]; settle: (answers: Answers) => void }) {
  const parts = [...new Set([...Object.keys(draft.doc), ...Object.keys(theirs)])].filter(
    (key) => JSON.stringify(draft.doc[key]) !== JSON.stringify(theirs[key]),
  );
  return (
    <>
      <p className="mb-3">{say.theyDifferIn(parts.map((part) => part.replaceAll("_", " ")).join(", "))}</p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn go" onClick={() => settle({ "": "mine" })}>
          {say.keepWhatIHave}
        </button>
        <button type="button" className="btn" onClick={() => settle({ "": "theirs" })}>
          {say.takeTheOtherVersion}
        </button>
      </div>
      <p className="mt-3 text-small text-ink2">{say.keepYoursAndThe}</p>
    </>
  );
}
