/** Phases and Halls: which order to join next, what the wheel did, until it runs smoothly and forward. */

import type { Hookup } from "../../api/client";
import { choices } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { ordersSection as say } from "../../texts/hookup";
import { useForm } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { Head, td, th, Wide } from "../../ui/Table";

type Matching = Hookup["matching"][number];

const OUTCOMES = choices("OrderTrial.outcome", {
  "smooth forward": say.runsSmoothlyForward,
  "smooth backward": say.runsSmoothlyBackward,
  rough: say.turnsButWeaklyOr,
  jerks: say.twitchesGrowlsOrLocks,
  nothing: say.staysDead,
});

function Joined({ kind, order }: { kind: string; order: string }) {
  return (
    <tr>
      <th scope="row" className={th}>
        {kind}
      </th>
      {["A", "B", "C"].map((place, i) => (
        <td key={place} className={td}>
          {place} → <b>{order[i]}</b>
        </td>
      ))}
    </tr>
  );
}

interface Props {
  matching: Matching;
  // The next order is being worked out.
  busy: boolean;
}

export function OrdersSection({ matching, busy }: Props) {
  const { doc, edit } = useForm();
  const every = read(doc, "/order_trials") ?? [];
  const side = matching.side || "left";
  const ours = (trial: Doc) => !matching.side || (trial.side ?? "left") === side;
  const trials = every.filter(ours);
  const { next } = matching;
  const set = (list: Doc[]) => edit("/order_trials", [...every.filter((trial) => !ours(trial)), ...list]);
  return (
    <section aria-label={matching.side ? say.someMotor(side) : say.phasesAndHalls} className={matching.side ? "mb-6" : ""}>
      {matching.side && (
        <h3 className="mb-2 text-[16px]">
          {say.motorOfSide(side)} <span className="font-normal text-ink2">{say.withTheOtherOnes}</span>
        </h3>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-5 max-wide:grid-cols-1">
        <div className="grid content-start gap-3">
          <p>{say.letterTheControllersThree}</p>
          <div className={`rounded-[9px] border-2 p-3 ${next.found ? "border-leaf bg-leaftint" : "border-focus bg-focustint"}`}>
            <h3 className="flex items-center gap-2 text-[16px]">
              <Glyph mark={next.found ? "done" : "now"} size={18} />
              {next.found ? say.foundLeaveItSo : next.left === 0 ? say.somethingDoesNotFit : say.joinItSoTry(next.tries)}
            </h3>
            {next.left > 0 && (
              <Wide label={say.orderToJoin}>
                <table className="mt-2">
                  <Head names={say.controllerToMotorHeads} />
                  <tbody>
                    <Joined kind={say.phaseLeads} order={next.phases} />
                    <Joined kind={say.hallWires} order={next.halls} />
                  </tbody>
                </table>
              </Wide>
            )}
            {next.swaps.length > 0 && (
              <ul className="mt-2 list-disc pl-5">
                {next.swaps.map((swap) => (
                  <li key={swap}>{swap}</li>
                ))}
              </ul>
            )}
            <p className="mt-2">{next.why}</p>
            {!next.found && next.left > 0 && (
              <p className="mt-1 text-small text-ink2">{say.of6OrdersLeft(next.left, next.chance, next.most)}</p>
            )}
          </div>
        </div>
        <div className="grid content-start gap-3">
          <p className="border-l-4 border-amber pl-2 font-semibold">
            {say.wheelOffTheGround(matching.smooth_a, matching.stop_a)}
          </p>
          {!next.found && next.left > 0 && (
            <fieldset>
              <legend className="text-small text-ink2">{say.whatDidTheWheel}</legend>
              <div className="mt-1 grid gap-1.5">
                {OUTCOMES.map(([outcome, words]) => (
                  <button
                    key={outcome}
                    type="button"
                    className="btn min-h-11 !justify-start"
                    disabled={busy}
                    onClick={() => set([...trials, { phases: next.phases, halls: next.halls, outcome, side }])}
                  >
                    {words}
                  </button>
                ))}
              </div>
            </fieldset>
          )}
          {trials.at(-1)?.outcome === "nothing" && <p>{say.aWheelThatStays}</p>}
          {trials.length > 0 && (
            <div>
              <h3 className="text-small font-bold text-ink2">{say.tried}</h3>
              <ol>
                {trials.map((t, i) => (
                  <li key={i} className="flex items-center gap-3 border-b border-line py-1">
                    <span className="w-5 text-right font-head font-bold text-ink3">{i + 1}</span>
                    <span className="flex-1">
                      {say.phasesHalls(
                        String(t.phases ?? "ABC"),
                        String(t.halls ?? "ABC"),
                        OUTCOMES.find(([key]) => key === t.outcome)?.[1].toLowerCase(),
                      )}
                    </span>
                    <button
                      type="button"
                      className="btn quiet !min-h-7 !px-1"
                      aria-label={say.takeBackTry(i)}
                      onClick={() => set(trials.filter((_t, k) => k !== i))}
                    >
                      ×
                    </button>
                  </li>
                ))}
              </ol>
            </div>
          )}
        </div>
      </div>
    </section>
  );
}
