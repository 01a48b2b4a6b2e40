/** Plus and minus for a count, as big as a thumb. */
import { useId } from "react";
import { stepper as say } from "../../texts/power";

export function Stepper({
  label,
  value,
  least,
  most,
  onChange,
  aside,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange: (n: number) => void;
  aside?: string;
}) {
  const id = useId();
  return (
    <div>
      <div className="mb-1 flex justify-between text-small">
        <span id={id} className="font-bold text-ink2">
          {label}
        </span>
        <span className="text-ink3">{aside}</span>
      </div>
      <fieldset
        className="grid h-[42px] grid-cols-[44px_1fr_44px] overflow-hidden rounded-[7px] border border-strong bg-card"
        aria-labelledby={id}
      >
        <button
          type="button"
          className="border-r border-line bg-paper text-[20px] font-bold disabled:text-ink3"
          disabled={value <= least}
          onClick={() => onChange(value - 1)}
          aria-label={say.oneLess(label)}
        >
          −
        </button>
        <output className="grid place-items-center font-head text-[21px] font-bold">{value}</output>
        <button
          type="button"
          className="border-l border-line bg-paper text-[20px] font-bold disabled:text-ink3"
          disabled={value >= most}
          onClick={() => onChange(value + 1)}
          aria-label={say.oneMore(label)}
        >
          +
        </button>
      </fieldset>
    </div>
  );
}
