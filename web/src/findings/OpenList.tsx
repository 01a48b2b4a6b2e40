/** What stands open between the plan and a ride, by what it holds up. The same list on the screens, on paper, and, without a home to mend it at,
 * for who only looks. */
import { Link } from "react-router";
import type { Standing } from "../api/client";
import { useSettings } from "../lib/settings";
import { GATE_WORDS } from "../lib/useStanding";
import { openList as say } from "../texts/findings";
import { sentence } from "../texts/units";
import { Glyph } from "../ui/Glyph";

const GATES = ["plan", "power", "ride"] as const;

export function OpenList({ standing, home }: { standing: Standing | undefined; home?: string | undefined }) {
  const { units } = useSettings();
  if (!standing) return null;
  if (standing.open.length === 0)
    return (
      <p className="rounded-lg border border-leaf bg-leaftint px-3 py-1.5" data-open="0">
        <Glyph mark="done" size={13} quiet /> {say.nothingIsOpen}
      </p>
    );
  return (
    <div className="rounded-lg border-[1.5px] border-ink bg-card px-3 py-2" data-open={standing.open.length}>
      {GATES.map((gate) => {
        const stops = standing.open.filter((stop) => stop.gate === gate);
        if (stops.length === 0) return null;
        return (
          <section key={gate} aria-label={say.openBefore(GATE_WORDS[gate])} className="not-first:mt-2">
            <p className="flex items-center gap-1.5 font-bold">
              <Glyph mark={gate === "plan" ? "stop" : "caution"} size={14} quiet />
              {gate === "plan" ? say.stopsOfThePlan : say.toLookAtBefore(GATE_WORDS[gate])}
            </p>
            <ul className="pl-5">
              {stops.map((stop) => (
                <li key={stop.key} className="list-disc">
                  {home === undefined ? (
                    sentence(stop.title, units)
                  ) : (
                    <Link
                      className="inline-block min-h-6 underline underline-offset-2"
                      to={
                        stop.key.startsWith("incident:")
                          ? `${home.replace(/\/setups\/\d+$/, "")}/trouble`
                          : `${home}/${stop.stage}`
                      }
                    >
                      {sentence(stop.title, units)}
                    </Link>
                  )}
                  {stop.as_found && <span className="text-ink3"> {say.asFound}</span>}
                  {standing.fallen.includes(stop.key) && <span className="text-hottext"> {say.noLongerCoveredIts}</span>}
                </li>
              ))}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

/** Why something may not be done yet: the first reasons, the rest counted. */
export function Locked({ reasons }: { reasons: string[] }) {
  const { units } = useSettings();
  if (reasons.length === 0) return null;
  return (
    <div className="mt-2 rounded-lg border-2 border-hotdeep bg-hottint px-3 py-2" data-locked="">
      <p className="flex items-center gap-1.5 font-bold">
        <Glyph mark="stop" size={14} quiet /> {say.notYet}
      </p>
      <ul className="pl-5">
        {reasons.slice(0, 4).map((reason) => (
          <li key={reason} className="list-disc">
            {sentence(reason, units)}
          </li>
        ))}
        {reasons.length > 4 && <li className="list-disc">{say.andMore(reasons.length)}</li>}
      </ul>
    </div>
  );
}
