/** What each control does at the controller and how it shows, and what to do with the plugs nothing hangs on. */
import type { Hookup } from "../../api/client";
import { logicSection as say } from "../../texts/hookup";
import { decimals } from "../../texts/locale";
import { Toggles } from "./SmallWires";

const DO: Record<string, string> = say.do;

export function LogicSection({ plan }: { plan: Hookup }) {
  const direct = plan.logic.some((one) => one.control === "Pedal switch");
  return (
    <div className="grid gap-4">
      <h3 className="text-[16px]">{say.whatEachControlDoes}</h3>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(290px,1fr))] gap-x-5 gap-y-3">
        {plan.logic.map((one) => (
          <li key={one.control} className="border-l-4 border-strong pl-3">
            <b>{one.control}</b>
            <p>{decimals(one.does)}</p>
            <p className="text-small text-ink2">{decimals(one.shows)}</p>
          </li>
        ))}
      </ul>
      {!direct && (
        <>
          <Toggles label={say.plugsAndLooseWires} pointer="/controls/harness" offered={plan.harness} />
          {plan.unused.length > 0 && (
            <div aria-live="polite">
              <h3 className="text-[16px]">{say.plugsNothingHangsOn}</h3>
              <dl className="mt-1 grid gap-1.5">
                {plan.unused.map((one) => (
                  <div key={one.plug} className="grid grid-cols-[minmax(120px,auto)_1fr] gap-3 border-b border-line py-1">
                    <dt>{one.plug}</dt>
                    <dd>
                      <b>{DO[one.do]}.</b> {decimals(one.why)}
                    </dd>
                  </div>
                ))}
              </dl>
            </div>
          )}
        </>
      )}
    </div>
  );
}
