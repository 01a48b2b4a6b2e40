/** The parts of a setup: where each comes from, what is left to buy, and what that costs as far as anybody knows. */
import type { Need, PartsList } from "../api/client";
import { useSettings } from "../lib/settings";
import { sumOf } from "../texts/locale";
import { partsTable as say } from "../texts/sheet";
import { sentence, shown, type UnitChoice, unitOf } from "../texts/units";
import { H } from "./H";

/** Wire is sold by the foot or the metre, however short the piece. */
const amount = (v: number, unit: string, units: UnitChoice) =>
  unit === "m" ? `${shown(v, "length", units)} ${unitOf("length", units)}` : String(Math.ceil(v));

function Money({ costs }: { costs: Pick<PartsList, "to_buy" | "owned"> }) {
  const { to_buy, owned } = costs;
  return (
    <dl className="mt-3 grid max-w-[52ch] grid-cols-[auto_1fr] gap-x-4 gap-y-1" aria-label={say.whatItCosts}>
      <dt className="font-bold">{say.leftToBuy}</dt>
      <dd>
        <b>{sumOf(to_buy)}</b>
        <span className="block text-small text-ink2">{say.knownHow(to_buy.planned, to_buy.unpriced)}</span>
      </dd>
      <dt className="font-bold">{say.fromTheRack}</dt>
      <dd>{sumOf(owned)}</dd>
    </dl>
  );
}

export function PartsTable({
  needs,
  costs,
  racked,
  csv,
}: {
  needs: Need[] | undefined;
  costs: Pick<PartsList, "to_buy" | "owned"> | undefined;
  /** The rack was counted. */
  racked: boolean;
  /** Where the same comes as a table. */
  csv?: string | undefined;
}) {
  const { units } = useSettings();
  return (
    <>
      <H>{racked ? say.partsToBuy : say.parts}</H>
      <div className="overflow-x-auto">
        <table className="w-full text-small [&_td]:border-b [&_td]:border-line [&_td]:py-1 [&_td]:pr-2 [&_th]:pr-2">
          <thead>
            <tr className="text-left">
              <th scope="col">{say.part}</th>
              <th scope="col">{say.needed}</th>
              <th scope="col">{say.onTheMachine}</th>
              {racked && (
                <>
                  <th scope="col">{say.onTheRack}</th>
                  <th scope="col">{say.ordered}</th>
                  <th scope="col">{say.toBuy}</th>
                </>
              )}
            </tr>
          </thead>
          <tbody>
            {needs?.map((n) => (
              <tr key={`${n.kind} ${n.label}`}>
                <td>
                  {sentence(n.label, units)}
                  {(n.letters ?? []).length > 0 && <b> {(n.letters ?? []).join(", ")}</b>}
                  {n.note && <span className="block text-ink2">{sentence(n.note, units)}</span>}
                </td>
                <td>{amount(n.needed, n.unit, units)}</td>
                <td>{n.on_machine ? amount(n.on_machine, n.unit, units) : "–"}</td>
                {racked && (
                  <>
                    <td>{n.on_rack ? amount(n.on_rack, n.unit, units) : "–"}</td>
                    <td>{n.ordered ? amount(n.ordered, n.unit, units) : "–"}</td>
                    <td className="font-bold">{n.to_buy > 0.01 ? amount(n.to_buy, n.unit, units) : say.nothing}</td>
                  </>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-small text-ink3">{say.lengthsAreBothWays}</p>
      {costs && <Money costs={costs} />}
      {csv && (
        <a className="btn noprint mt-3" href={csv} download>
          {say.asATable}
        </a>
      )}
    </>
  );
}
