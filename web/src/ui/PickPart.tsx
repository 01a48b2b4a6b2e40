/** A choice among parts: one's own first, then those that ship; from a list, or found by a few letters of its name. */
import { Command } from "cmdk";
import { useId, useState } from "react";
import type { Offered } from "../lib/parts";
import type { Doc } from "../lib/pointer";
import { decimals } from "../texts/locale";
import { pickPart as say } from "../texts/ui";
import { Dialog } from "./Dialog";

/** A longer list can be searched; no group of a list shows more than so many, nor does a search. */
const [SEARCHED_FROM, MOST_LISTED, MOST_FOUND] = [20, 60, 50];

/** A part's name, with what one should know before choosing it: that it is out of plans, not here yet, or not to be had again. */
function nameOf({ label, own }: Offered): string {
  const name = decimals(label);
  if (!own) return name;
  if (own.out) return say.outOfPlans(name, own.out.title);
  const words = [say.status[own.about.status ?? "on hand"], say.had[own.about.had ?? "unknown"]].filter(Boolean);
  return words.length > 0 ? say.withWords(name, words.join(", ")) : name;
}

/** The options of parts, under the words of each group where there are several. A part that is out of every plan says so and cannot be taken. */
export function PartOptions({ parts, chosen = "" }: { parts: Offered[]; chosen?: string }) {
  const groups = [...new Set(parts.map((p) => p.group))];
  const options = (group: string) => {
    const all = parts.filter((p) => p.group === group);
    // Of thousands the first ones, and the one that is there: the others are found by name.
    const listed = all.filter((p, i) => i < MOST_LISTED || p.id === chosen);
    return [
      ...listed.map((p) => (
        <option key={p.id} value={p.id} disabled={Boolean(p.own?.out)}>
          {nameOf(p)}
        </option>
      )),
      listed.length < all.length && (
        <option key="more" disabled>
          {say.moreByName(all.length - listed.length)}
        </option>
      ),
    ];
  };
  if (groups.length < 2) return groups.map(options);
  return groups.map((group) => (
    <optgroup key={group} label={group}>
      {options(group)}
    </optgroup>
  ));
}

/** Parts that have every word of a text in their name or group. */
export function foundBy(parts: readonly Offered[], text: string): Offered[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return parts.filter((part) => {
    const name = `${part.label} ${part.group}`.toLowerCase();
    return words.every((word) => name.includes(word));
  });
}

function Find({
  label,
  parts,
  onPick,
  close,
}: {
  label: string;
  parts: Offered[];
  onPick: (picked: Offered) => void;
  close: () => void;
}) {
  const [text, setText] = useState("");
  const found = foundBy(parts, text);
  return (
    <Dialog open onOpenChange={close} title={say.findOne(label)}>
      <Command shouldFilter={false} label={say.findOne(label)}>
        <Command.Input className="input" placeholder={say.aFewLetters} value={text} onValueChange={setText} />
        <Command.List label={say.found} className="mt-2 h-[min(56vh,480px)] overflow-y-auto">
          <Command.Empty className="p-3 text-ink2">{say.nothingOfThatName}</Command.Empty>
          {found.slice(0, MOST_FOUND).map((part) => (
            <Command.Item
              key={part.id}
              value={part.id}
              disabled={Boolean(part.own?.out)}
              onSelect={() => {
                onPick(part);
                close();
              }}
              className="flex cursor-pointer justify-between gap-3 rounded-md px-3 py-2 data-[disabled=true]:cursor-default data-[disabled=true]:text-ink3 data-[selected=true]:bg-focustint"
            >
              <b>{nameOf(part)}</b> <span className="text-right text-small text-ink3">{part.group}</span>
            </Command.Item>
          ))}
          {found.length > MOST_FOUND && <p className="p-3 text-ink2">{say.andMore(found.length - MOST_FOUND)}</p>}
        </Command.List>
      </Command>
    </Dialog>
  );
}

/** Opens the search among parts, where there are so many that one would search. */
function FindPart({
  label,
  named,
  parts,
  onPick,
}: {
  label: string;
  /** Id of what names the choice: the button is called "Find…" wherever it stands. */
  named: string;
  parts: Offered[];
  onPick: (picked: Offered) => void;
}) {
  const [open, setOpen] = useState(false);
  if (parts.length <= SEARCHED_FROM) return null;
  return (
    <>
      <button
        type="button"
        className="btn quiet !min-h-6 !px-1 !py-0 text-small"
        aria-describedby={named}
        onClick={() => setOpen(true)}
      >
        {say.find}
      </button>
      {open && <Find label={label} parts={parts} onPick={onPick} close={() => setOpen(false)} />}
    </>
  );
}

export function PickPart({
  label,
  parts = [],
  value = "",
  none = say.choose,
  className = "block",
  onPick,
}: {
  label: string;
  parts: Offered[] | undefined;
  /** Id of the part that is there already. */
  value?: string;
  none?: string;
  className?: string;
  onPick: (part: Doc, picked: Offered) => void;
}) {
  const named = useId();
  return (
    <div className={`relative ${className}`}>
      <div className="absolute top-0 right-0">
        <FindPart label={label} named={named} parts={parts} onPick={(picked) => onPick(picked.part, picked)} />
      </div>
      <label className="block">
        <span id={named} className="mb-1 block pr-14 text-small font-bold text-ink2">
          {label}
        </span>
        <select
          className="input"
          value={value}
          onChange={(event) => {
            const picked = parts.find((p) => p.id === event.target.value);
            if (picked) onPick(picked.part, picked);
          }}
        >
          <option value="">{none}</option>
          <PartOptions parts={parts} chosen={value} />
        </select>
      </label>
    </div>
  );
}
