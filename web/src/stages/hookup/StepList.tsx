/** All steps in their order: what each should read, what was measured, and which are to be done again. */
import type { SetupRow, Step } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { stepList as say } from "../../texts/hookup";
import { plainNumber, sentence } from "../../texts/units";
import { Glyph, type Mark } from "../../ui/Glyph";
import { expects } from "./expects";

type Tick = SetupRow["ticks"][number];

export function StepList({
  steps,
  current,
  ticks,
  lost,
  locked,
  onGo,
  onTakeBack,
}: {
  steps: Step[];
  current: string | undefined;
  ticks: Map<string, Tick>;
  /** Done once, but changed since. */
  lost: Set<string>;
  /** May not be done yet. */
  locked: Set<string>;
  onGo: (step: string) => void;
  onTakeBack: (step: string) => void;
}) {
  const { units } = useSettings();
  return (
    <ol aria-label={say.steps}>
      {steps.map((s, i) => {
        const t = ticks.get(s.id);
        const open: Mark = s.id === current ? "now" : "open";
        const mark: Mark = !t ? open : lost.has(s.id) ? "caution" : t.fits ? "done" : "stop";
        const under = lost.has(s.id)
          ? say.changedSinceOnceMore
          : locked.has(s.id) && !t
            ? say.lockedUntilAllBefore
            : s.reading
              ? expects(s)
              : "";
        return (
          <li key={s.id} className="flex items-center gap-3 border-b border-line py-1.5">
            <span className="w-5 text-right font-head font-bold text-ink3">{i + 1}</span>
            <button
              type="button"
              className={`min-h-6 min-w-0 flex-1 text-left ${s.id === current ? "font-bold text-focus" : ""}`}
              aria-current={s.id === current ? "step" : undefined}
              onClick={() => onGo(s.id)}
            >
              {sentence(s.title, units)} {under && <span className="block text-small font-normal text-ink3">{under}</span>}
            </button>
            {t && s.reading && (
              <b className={t.fits && !lost.has(s.id) ? "text-leaftext" : "text-hottext"}>
                {t.measured_open ? say.ol : t.measured == null ? "" : `${plainNumber(t.measured)} ${s.reading.unit}`}
              </b>
            )}
            <Glyph mark={mark} size={16} />
            {t && (
              <button
                type="button"
                className="btn quiet !min-h-7 !px-1"
                aria-label={say.takeBackStep(i)}
                onClick={() => onTakeBack(s.id)}
              >
                ×
              </button>
            )}
          </li>
        );
      })}
    </ol>
  );
}
