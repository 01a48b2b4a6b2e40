/** The survey as questions to tap: what to look at, why, what was seen, by whom. */
import { Answers } from "../../findings/Answers";
import { useSettings } from "../../lib/settings";
import { GATE_WORDS } from "../../lib/useStanding";
import { day } from "../../texts/locale";
import { lookList as say } from "../../texts/survey";
import { sentence } from "../../texts/units";
import { Glyph, type Mark } from "../../ui/Glyph";
import { useSaid } from "../../ui/Terms";
import { Block } from "../Heading";
import type { StageProps } from "../stage";

type Asked = NonNullable<NonNullable<StageProps["plan"]["evaluation"]>["survey"]>[number];

const markOf = (asked: Asked): Mark =>
  asked.answer === null ? "open" : asked.good ? "done" : asked.gate === null ? "caution" : "stop";

export function LookList({ plan, apply }: Pick<StageProps, "plan" | "apply">) {
  const { units } = useSettings();
  const said = useSaid();
  const asked = plan.evaluation?.survey ?? [];
  if (asked.length === 0) return null;
  const open = asked.filter((one) => one.answer === null || one.answer === "cannot tell").length;
  return (
    <Block
      title={open ? say.toLookAtOf(open, asked.length) : say.lookedAtAll(asked.length)}
      line={say.whoLookedCounts}
      className="mt-4"
    >
      <ul>
        {asked.map((one) => (
          <li
            key={one.key}
            className="grid grid-cols-[18px_minmax(0,1fr)_auto] items-center gap-x-3 gap-y-1 border-b border-line py-2 max-desk:grid-cols-[18px_1fr]"
          >
            <Glyph mark={markOf(one)} size={16} />
            <div className="min-w-0">
              <p className="font-semibold">{sentence(one.ask, units)}</p>
              <p className="text-small text-ink2">
                {said(one.why)}
                {one.answer === null && one.gate && <b className="whitespace-nowrap"> {say.before(GATE_WORDS[one.gate])}</b>}
              </p>
              {one.by && (
                <p className="text-small text-ink3">
                  {one.answer === "cannot tell" ? say.couldNotTell : one.good ? say.seenInOrder : say.seenNotInOrder}: {one.by},{" "}
                  {day(one.when)}
                </p>
              )}
            </div>
            <div className="max-desk:col-start-2">
              <Answers
                answers={one.answers}
                picked={one.answer}
                label={one.ask}
                onPick={(answer) => apply(answer.patch, `${one.ask} ${answer.label}`)}
              />
            </div>
          </li>
        ))}
      </ul>
    </Block>
  );
}
