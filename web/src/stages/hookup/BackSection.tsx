/** The way back to what the machine came with: steps to tick, and what cannot be undone. */
import type { Hookup } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { backSection as say } from "../../texts/hookup";
import { sentence } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { expects } from "./expects";

export function BackSection({
  back,
  done,
  busy,
  onTick,
}: {
  back: NonNullable<Hookup["back"]>;
  done: Set<string>;
  busy: boolean;
  onTick: (step: string, done: boolean) => void;
}) {
  const { units } = useSettings();
  return (
    <div className="grid grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)] gap-6 max-wide:grid-cols-1">
      <div>
        <h3 className="text-[16px]">{say.backToHowIt}</h3>
        <p className="text-ink2">{say.whatTheWayBackIs}</p>
        {back.steps.length === 0 && <p className="mt-2">{say.nothingDiffersThatWould}</p>}
        <ol className="mt-2">
          {back.steps.map((s, i) => (
            <li key={s.id} className="flex items-start gap-3 border-b border-line py-2">
              <span className="w-5 text-right font-head font-bold text-ink3">{i + 1}</span>
              <div className="min-w-0 flex-1">
                <b>{sentence(s.title, units)}</b>
                <p>{sentence(s.what, units)}</p>
                {s.caution && <p className="border-l-4 border-amber pl-2">{s.caution}</p>}
                {s.reading && (
                  <p className="text-small text-ink2">{say.redTipOnBlack(s.reading.red_on, s.reading.black_on, expects(s))}</p>
                )}
              </div>
              <button
                type="button"
                className="btn"
                disabled={busy}
                aria-pressed={done.has(s.id)}
                aria-label={say.stepDone(s.title, units)}
                onClick={() => onTick(s.id, !done.has(s.id))}
              >
                <Glyph mark={done.has(s.id) ? "done" : "open"} size={16} /> {say.done}
              </button>
            </li>
          ))}
        </ol>
      </div>
      {back.stays.length > 0 && (
        <div>
          <h3 className="text-[16px]">{say.whatCannotBeUndone}</h3>
          <ul className="mt-1 list-disc pl-5">
            {back.stays.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}
