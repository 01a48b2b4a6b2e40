/** A question's answers, each one tap. */
import type { Finding } from "../api/client";

type Answer = NonNullable<Finding["answers"]>[number];

export function Answers({
  answers,
  picked,
  label,
  onPick,
}: {
  answers: Answer[];
  picked?: string | null;
  label: string;
  onPick: (answer: Answer) => void;
}) {
  return (
    <fieldset className="flex flex-wrap gap-1.5" aria-label={label}>
      {answers.map((answer) => (
        <button
          key={answer.answer}
          type="button"
          className="btn !min-h-[30px] !px-2 !py-[3px] !text-[12.5px] max-desk:!min-h-11"
          aria-pressed={picked === undefined ? undefined : picked === answer.answer}
          onClick={() => onPick(answer)}
        >
          {answer.label}
        </button>
      ))}
    </fieldset>
  );
}
