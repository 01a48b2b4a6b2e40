/** The rack as the garage shows it beside its builds: what there is of each kind, and what is hurt. */
import { Link } from "react-router";
import type { RackPart } from "../api/client";
import { nameOf, useRack } from "../lib/parts";
import { useSettings } from "../lib/settings";
import { decimals } from "../texts/locale";
import { rackShelf as say } from "../texts/rack";
import { Glyph } from "../ui/Glyph";
import { EVERY_KIND, kindName } from "./kinds";
import { lengthOf } from "./lengthOf";
import { Sticker } from "./Sticker";

/** Parts of one make, together: single ones with their stickers, others with how many there are. */
function makes(parts: RackPart[]): [label: string, alike: RackPart[]][] {
  const found = new Map<string, RackPart[]>();
  for (const part of parts) found.set(part.label, [...(found.get(part.label) ?? []), part]);
  return [...found];
}

const MOST = 8;

export function RackShelf({ garageId }: { garageId: number }) {
  const rack = useRack(garageId) ?? [];
  const kinds = EVERY_KIND.filter((kind) => rack.some((part) => part.kind === kind));
  const out = rack.filter((part) => part.out);
  const { units } = useSettings();
  return (
    <section aria-label={say.rack}>
      <div className="mb-2 flex items-center justify-between gap-2">
        <h2 className="flex-1 text-[21px]">
          <Link to="/rack" className="underline-offset-3 hover:underline">
            {say.rack}
          </Link>
        </h2>
        <Link to="/rack/new" className="btn">
          {say.addAPart}
        </Link>
      </div>
      {rack.length === 0 && <p className="text-ink2">{say.nothingOnTheRack}</p>}
      {out.map((part) => (
        <p key={part.id} className="mb-2 border-l-4 border-hot pl-2 text-small">
          <Link to={`/rack/${part.id}`}>
            <Glyph mark="stop" size={12} quiet /> {say.isOut(decimals(nameOf(part)), part.out?.title ?? "")}
          </Link>
        </p>
      ))}
      {kinds.map((kind) => {
        const there = makes(rack.filter((part) => part.kind === kind));
        return (
          <div key={kind} className="mb-3">
            <h3 className="mb-1 text-[13.5px]">{kindName(kind)}</h3>
            <ul className="border-b-[5px] border-ink">
              {there.slice(0, MOST).map(([label, alike]) => (
                <li key={label} className="flex min-h-9 items-center gap-2 py-0.5">
                  <Link to={`/rack/${alike[0]?.id}`} className="min-w-0 flex-1 truncate" title={decimals(label)}>
                    {decimals(label)}
                  </Link>
                  {alike[0]?.single ? (
                    <span className="flex gap-1">
                      {alike.slice(0, 5).map((part) => (
                        <Link key={part.id} to={`/rack/${part.id}`} aria-label={say.sticker(label, part.letter)}>
                          <Sticker letter={part.letter} out={part.out != null} />
                        </Link>
                      ))}
                      {alike.length > 5 && <b className="self-center">+{alike.length - 5}</b>}
                    </span>
                  ) : (
                    <b className="text-small text-ink2">
                      {lengthOf(alike[0], units) || say.count(alike.reduce((sum, part) => sum + part.quantity, 0))}
                    </b>
                  )}
                </li>
              ))}
            </ul>
            {there.length > MOST && (
              <Link to="/rack" className="linkish text-small">
                {say.more(there.length - MOST)}
              </Link>
            )}
          </div>
        );
      })}
    </section>
  );
}
