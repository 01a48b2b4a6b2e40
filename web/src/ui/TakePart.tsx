/** Takes a part into a slot of the setup: one of the rack or one that ships, and says which one of the rack stands there. */
import { chosenId, useParts } from "../lib/parts";
import { type Doc, read } from "../lib/pointer";
import { useForm } from "./Field";
import { PickPart } from "./PickPart";
import { RackSlot } from "./RackSlot";

export function TakePart({
  kind,
  path,
  label,
  none,
  own = false,
  stays = [],
}: {
  kind: string;
  path: string;
  label: string;
  none?: string;
  /** Only what is on the rack: what ships is entered by its figures here. Shows nothing while the rack has none. */
  own?: boolean;
  /** Fields that are of the machine, not of the part: they stay when another one goes in. */
  stays?: readonly string[];
}) {
  const { doc, edit } = useForm();
  const all = useParts()[kind] ?? [];
  const parts = own ? all.filter((one) => one.own) : all;
  const there = (read(doc, path) ?? {}) as Doc;
  if (own && parts.length === 0 && !there.rack) return null;
  return (
    <div className="mb-3 grid gap-2">
      <PickPart
        label={label}
        parts={parts}
        value={chosenId(parts, there)}
        {...(none === undefined ? {} : { none })}
        onPick={(part) =>
          edit(path, {
            ...part,
            ...Object.fromEntries(stays.filter((one) => one in there).map((one) => [one, there[one]])),
          } as Doc)
        }
      />
      <RackSlot path={path} />
    </div>
  );
}
