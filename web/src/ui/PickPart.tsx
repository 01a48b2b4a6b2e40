/** A choice among parts: one's own first, then those that ship. */
import type { Offered } from "../lib/parts";
import type { Doc } from "../lib/pointer";
import { decimals } from "../texts/locale";
import { pickPart as say } from "../texts/ui";

/** The options of parts, under the words of each group where there are several. A part that is out of every plan says so and cannot be taken. */
export function PartOptions({ parts }: { parts: Offered[] }) {
  const groups = [...new Set(parts.map((p) => p.group))];
  const options = (group: string) =>
    parts
      .filter((p) => p.group === group)
      .map((p) => (
        <option key={p.id} value={p.id} disabled={Boolean(p.own?.out)}>
          {p.own?.out ? say.outOfPlans(decimals(p.label), p.own.out.title) : decimals(p.label)}
        </option>
      ));
  if (groups.length < 2) return groups.map(options);
  return groups.map((group) => (
    <optgroup key={group} label={group}>
      {options(group)}
    </optgroup>
  ));
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
  return (
    <label className={className}>
      <span className="mb-1 block text-small font-bold text-ink2">{label}</span>
      <select
        className="input"
        value={value}
        onChange={(event) => {
          const picked = parts.find((p) => p.id === event.target.value);
          if (picked) onPick(picked.part, picked);
        }}
      >
        <option value="">{none}</option>
        <PartOptions parts={parts} />
      </select>
    </label>
  );
}
