/** A choice among ship-with parts. */
import type { Doc } from "../lib/pointer";
import { decimals } from "../texts/locale";
import { pickPart as say } from "../texts/ui";

export interface ShipWithPart {
  id: string;
  label: string;
  group: string;
  part: Record<string, unknown>;
}

/** The options of parts, under the words of each group where there are several. */
export function PartOptions({ parts }: { parts: ShipWithPart[] }) {
  const groups = [...new Set(parts.map((p) => p.group))];
  const options = (group: string) =>
    parts
      .filter((p) => p.group === group)
      .map((p) => (
        <option key={p.id} value={p.id}>
          {decimals(p.label)}
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
  parts: ShipWithPart[] | undefined;
  /** Id of the part that is there already. */
  value?: string;
  none?: string;
  className?: string;
  onPick: (part: Doc, id: string) => void;
}) {
  return (
    <label className={className}>
      <span className="mb-1 block text-small font-bold text-ink2">{label}</span>
      <select
        className="input"
        value={value}
        onChange={(event) => {
          const picked = parts.find((p) => p.id === event.target.value);
          if (picked) onPick(picked.part as Doc, picked.id);
        }}
      >
        <option value="">{none}</option>
        <PartOptions parts={parts} />
      </select>
    </label>
  );
}
