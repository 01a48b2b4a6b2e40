/** Which part of the rack stands in a slot, where it is one: its name, its page, and whether it is only tied on for a try. */
import { Link } from "react-router";
import { useGarage } from "../lib/garage";
import { nameOf, useRack, wholeKey } from "../lib/parts";
import { type Doc, read } from "../lib/pointer";
import { decimals } from "../texts/locale";
import { rackSlot as say } from "../texts/ui";
import { CheckField, useForm } from "./Field";

export function RackSlot({ path }: { path: string }) {
  const { doc, edit } = useForm();
  const rack = useRack(useGarage()?.id);
  const named = read(doc, `${path}/rack`) as { key: string; label?: string; letter?: string } | null | undefined;
  if (!named) return null;
  const part = rack?.find((one) => one.key === wholeKey(named.key));
  // A part of a kit keeps its own name; the kit is what one finds on the rack.
  const itself = part && part.key === named.key ? part : { label: named.label ?? "", letter: named.letter ?? "" };
  const name = decimals(nameOf(itself));
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-leaf pl-3">
      <p>
        {part ? (
          <Link to={`/rack/${part.id}`} className="linkish font-semibold">
            {name}
          </Link>
        ) : (
          <b>{name}</b>
        )}{" "}
        <span className="text-ink2">{part ? say.fromYourRack : say.noLongerOnThe}</span>
      </p>
      <CheckField label={say.tiedOn} pointer={`${path}/rack/temporary`} />
      <button
        type="button"
        className="btn quiet !min-h-8"
        onClick={() => {
          const { rack: _, ...rest } = read(doc, path) as Doc;
          edit(path, rest);
        }}
      >
        {say.notThisOne}
      </button>
    </div>
  );
}
