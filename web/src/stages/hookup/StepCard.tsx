/** The step at hand: what to do, how the joint is made, what the meter should show, and where one enters what it shows. */
import { useEffect, useRef, useState } from "react";
import type { Judgement, Step } from "../../api/client";
import { Locked } from "../../findings/OpenList";
import { useSettings } from "../../lib/settings";
import { stepCard as say } from "../../texts/hookup";
import { parseNumber, sentence } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { useSaid } from "../../ui/Terms";
import { Alert } from "../../ui/Trouble";
import { expects } from "./expects";

function Wrong({ judgement }: { judgement: Judgement }) {
  return (
    <div role="alert" className="mt-2 rounded-lg border-2 border-hotdeep bg-hottint p-3">
      <p className="flex items-center gap-2 font-head text-[16px] font-bold">
        <Glyph mark="stop" size={16} /> {judgement.headline}
      </p>
      {judgement.make_safe && (
        <p className="mt-1">
          <b>{say.first}</b> {judgement.make_safe}
        </p>
      )}
      <p className="mt-2 font-bold">{say.likeliestFirst}</p>
      <ol className="list-decimal pl-5">
        {judgement.causes?.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ol>
      {judgement.next_reading && (
        <p className="mt-2">
          <b>{say.thenMeasure}</b> {judgement.next_reading}
        </p>
      )}
    </div>
  );
}

/** Tools, joint, strain relief and sealing of a step. */
export function Craft({ step }: { step: Step }) {
  const { units } = useSettings();
  const rows = [
    [say.tools, (step.tools ?? []).join(", ")],
    [say.joint, step.joint ?? ""],
    [say.heldAndDry, step.care ?? ""],
  ].filter(([, text]) => text);
  if (rows.length === 0) return null;
  return (
    <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 text-small">
      {rows.map(([name, text]) => (
        <div key={name} className="contents">
          <dt className="text-ink2">{name}</dt>
          <dd>{sentence(text ?? "", units)}</dd>
        </div>
      ))}
    </dl>
  );
}

export function StepCard({
  step,
  number,
  last,
  onTick,
  ticked,
  excused,
  lost,
  busy,
  reasons,
  error,
  judgement,
  onNext,
}: {
  step: Step;
  number: number;
  last: boolean;
  ticked: boolean;
  /** It came with a newer program, when all that were there had been done. */
  excused: boolean;
  /** It was done, but what it joins or what it should read has changed since. */
  lost: boolean;
  busy: boolean;
  /** Why it may not be done yet; empty when it may. */
  reasons: string[];
  error: string;
  judgement: Judgement | undefined;
  onTick: (value: number | null, open: boolean) => void;
  onNext: () => void;
}) {
  const { units } = useSettings();
  const said = useSaid();
  const [text, setText] = useState("");
  const form = useRef<HTMLFormElement>(null);
  const shown = useRef(step.id);
  useEffect(() => {
    if (shown.current === step.id) return;
    shown.current = step.id;
    setText("");
    // By keys one goes on where the next thing is to be entered or ticked; by touch no keyboard pops up unasked.
    const at = document.activeElement;
    const inside = form.current?.contains(at) && at?.matches(":focus-visible");
    if (at === document.body || inside)
      form.current?.querySelector<HTMLElement>("input, button[type=submit]")?.focus({ preventScroll: true });
  }, [step.id]);
  const r = step.reading;
  const isOpen = /^ol$/i.test(text.trim());
  const value = isOpen ? null : (parseNumber(text) ?? null);
  const canOpen = r != null && r.unit === "Ω";
  const bad = text.trim() !== "" && !isOpen && value === null;
  return (
    <form
      ref={form}
      aria-label={say.step(number)}
      className="rounded-[9px] border-2 border-focus bg-focustint p-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (bad) return;
        onTick(value, isOpen);
      }}
    >
      <h2 id="step-title" className="flex items-center gap-2 text-[16px]">
        <span className="grid size-6 shrink-0 place-items-center rounded bg-focus text-small text-onfocus">{number}</span>{" "}
        {sentence(step.title, units)}
      </h2>
      {lost && (
        <p className="mt-1 flex items-center gap-2 font-semibold">
          <Glyph mark="caution" /> {say.changedSinceItWas}
        </p>
      )}
      {excused && (
        <p className="mt-1 flex items-center gap-2">
          <Glyph mark="open" /> {say.thisStepCameWith}
        </p>
      )}
      <p id="step-what" className="mt-1">
        {said(step.what)}
      </p>
      {step.caution && (
        <p id="step-caution" className="mt-1 border-l-4 border-amber pl-2 font-semibold">
          {step.caution}
        </p>
      )}
      <Craft step={step} />
      {r && (
        <>
          <p id="step-where" className="mt-2">
            {say.redTipOnBlack(r.red_on, r.black_on, r.note)}
          </p>
          <div className="mt-2 grid grid-cols-[auto_minmax(110px,1fr)] gap-3">
            <div>
              <p className="text-small text-ink2">{say.shouldRead}</p>
              <p id="step-expects" className="font-head text-[20px] font-bold whitespace-nowrap">
                {expects(step)}
              </p>
            </div>
            <div>
              <label htmlFor="measured" className="text-small text-ink2">
                {say.youRead}
              </label>
              <div className="flex gap-1.5">
                <input
                  id="measured"
                  className="input font-bold"
                  inputMode="decimal"
                  autoComplete="off"
                  value={text}
                  onChange={(e) => setText(e.target.value)}
                  aria-invalid={bad || undefined}
                  aria-describedby="step-title step-what step-caution step-where step-expects"
                  placeholder={r.unit}
                />
                {canOpen && (
                  <button type="button" className="btn" aria-pressed={isOpen} onClick={() => setText(isOpen ? "" : "OL")}>
                    {say.ol}
                  </button>
                )}
              </div>
            </div>
          </div>
        </>
      )}
      <Locked reasons={reasons} />
      {(bad || error) && <Alert>{bad ? say.enterANumberSuch : error}</Alert>}
      {judgement && !judgement.fits && <Wrong judgement={judgement} />}
      {judgement?.fits && ticked && (
        <p role="status" className="mt-1 font-bold text-leaftext">
          <Glyph mark="fits" /> {judgement.headline}
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <button
          type="submit"
          className="btn go min-h-11 flex-1 max-desk:!min-h-16"
          disabled={busy || reasons.length > 0}
          aria-describedby={r ? undefined : "step-title step-what step-caution"}
        >
          {reasons.length > 0 ? say.locked : ticked && r ? say.measureAgain : ticked ? say.doneAgain : say.tickStep(number)}
        </button>
        {!last && (
          <button type="button" className="btn max-desk:!min-h-16" onClick={onNext}>
            {say.next}
          </button>
        )}
      </div>
    </form>
  );
}
