/** Hookup: ordered steps from wheel back to pack, main fuse last, each with the reading to expect. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, Failed, type Judgement, type Step, unwrap } from "../../api/client";
import { saveAs } from "../../lib/saveAs";
import { parseNumber, plainNumber } from "../../lib/units";
import { useParam } from "../../lib/useParam";
import { Segmented } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { Alert, Trouble } from "../../ui/Trouble";
import type { StageProps } from "../../workspace/Workspace";
import { Heading } from "../Heading";
import { ColoursSection } from "./ColoursSection";
import { expects } from "./expects";
import { HookupDrawing, type Tips } from "./HookupDrawing";
import { MeterSection } from "./MeterSection";
import { OrdersSection } from "./OrdersSection";
import { Cables, Openings, SmallWires } from "./SmallWires";

const MORE = [
  ["meter", "meter anywhere"],
  ["colours", "which colour is which"],
  ["orders", "phases and Halls"],
  ["wires", "small wires"],
  ["covers", "covers and seals"],
] as const;

function Wrong({ judgement }: { judgement: Judgement }) {
  return (
    <div role="alert" className="mt-2 rounded-lg border-2 border-hotdeep bg-hottint p-3">
      <p className="flex items-center gap-2 font-head text-[16px] font-bold">
        <Glyph mark="stop" size={16} /> {judgement.headline}
      </p>
      {judgement.make_safe && (
        <p className="mt-1">
          <b>First:</b> {judgement.make_safe}
        </p>
      )}
      <p className="mt-2 font-bold">Likeliest first</p>
      <ol className="list-decimal pl-5">
        {judgement.causes?.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ol>
      {judgement.next_reading && (
        <p className="mt-2">
          <b>Then measure:</b> {judgement.next_reading}
        </p>
      )}
    </div>
  );
}

function StepCard({
  step,
  number,
  last,
  onTick,
  ticked,
  busy,
  error,
  judgement,
  onNext,
}: {
  step: Step;
  number: number;
  last: boolean;
  ticked: boolean;
  busy: boolean;
  error: string;
  judgement: Judgement | undefined;
  onTick: (value: number | null, open: boolean) => void;
  onNext: () => void;
}) {
  const [text, setText] = useState("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new step starts with an empty field
  useEffect(() => setText(""), [step.id]);
  const r = step.reading;
  const isOpen = /^ol$/i.test(text.trim());
  const value = isOpen ? null : (parseNumber(text) ?? null);
  const canOpen = r !== null && r.unit === "Ω";
  const bad = text.trim() !== "" && !isOpen && value === null;
  return (
    <form
      className="rounded-[9px] border-2 border-focus bg-focustint p-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (bad) return;
        onTick(value, isOpen);
      }}
    >
      <h2 className="flex items-center gap-2 text-[16px]">
        <span className="grid size-6 place-items-center rounded bg-focus text-small text-onfocus">{number}</span> {step.title}
      </h2>
      <p className="mt-1">{step.what}</p>
      {step.caution && <p className="mt-1 border-l-4 border-amber pl-2 font-semibold">{step.caution}</p>}
      {r && (
        <>
          <p className="mt-2">
            Red tip on <b>{r.red_on}</b>, black tip on <b>{r.black_on}</b>. {r.note}
          </p>
          <div className="mt-2 grid grid-cols-2 gap-3">
            <div>
              <p className="text-small text-ink2">should read</p>
              <p className="font-head text-[20px] font-bold">{expects(step)}</p>
            </div>
            <div>
              <label htmlFor="measured" className="text-small text-ink2">
                you read
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
                  placeholder={r.unit}
                />
                {canOpen && (
                  <button type="button" className="btn" aria-pressed={isOpen} onClick={() => setText(isOpen ? "" : "OL")}>
                    OL
                  </button>
                )}
              </div>
            </div>
          </div>
        </>
      )}
      {(bad || error) && <Alert>{bad ? "Enter a number such as 20.4, or OL for open." : error}</Alert>}
      {judgement && !judgement.fits && <Wrong judgement={judgement} />}
      {judgement?.fits && ticked && (
        <p role="status" className="mt-1 font-bold text-leaftext">
          <Glyph mark="fits" /> {judgement.headline}
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <button type="submit" className="btn go min-h-11 flex-1 max-desk:!min-h-16" disabled={busy}>
          {ticked ? "Measure again" : `Tick step ${number}`}
        </button>
        {!last && (
          <button type="button" className="btn max-desk:!min-h-16" onClick={onNext}>
            Next
          </button>
        )}
      </div>
    </form>
  );
}

export function HookupStage({ build, row, draft, place }: StageProps) {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const plan = useQuery({
    queryKey: ["hookup", draft.doc],
    queryFn: () =>
      unwrap(client.POST("/api/hookup", { body: { setup: draft.doc, build_id: null, baseline: null, is_baseline: false } })),
    retry: false,
  });
  const [asked, setMore] = useParam("more", MORE[0][0]);
  const offered = MORE.filter(([key]) => key !== "orders" || plan.data?.plan?.matching);
  const more = offered.find(([key]) => key === asked)?.[0] ?? MORE[0][0];
  const asList = useMutation({
    mutationFn: async () => {
      const text = await unwrap(client.POST("/api/hookup/wires", { body: { setup: draft.doc }, parseAs: "text" }));
      saveAs(text as string, `${build.name}, ${row.name}, wires.csv`, "text/csv");
    },
  });
  const [tips, setTips] = useState<Tips>({ red: "", black: "" });
  const [wide, setWide] = useState(false);
  const blackNext = useRef(false);
  // Red first, then black, then red again.
  const touch = (terminal: string) => {
    setTips((t) => (blackNext.current ? { ...t, black: terminal } : { ...t, red: terminal }));
    blackNext.current = !blackNext.current;
    setMore("meter");
  };
  const steps = plan.data?.plan?.steps ?? [];
  const ticks = new Map(row.ticks.map((t) => [t.step, t]));
  const firstOpen = steps.find((s) => !ticks.has(s.id)) ?? steps.at(-1);
  const current = steps.find((s) => s.id === place) ?? firstOpen;
  const [judgement, setJudgement] = useState<{ step: string; judgement: Judgement }>();
  const home = `/builds/${build.id}/setups/${row.id}/hookup`;
  const number = current ? steps.indexOf(current) + 1 : 0;
  const tick = useMutation({
    mutationFn: ({ step, value, open }: { step: string; value: number | null; open: boolean }) =>
      unwrap(
        client.PUT("/api/setups/{setup_id}/ticks/{step}", {
          params: { path: { setup_id: row.id, step } },
          body: { measured: value, measured_open: open },
        }),
      ),
    onSuccess: async (answer, { step }) => {
      setJudgement({ step, judgement: answer.judgement });
      queryClient.invalidateQueries({ queryKey: ["garage"] });
      await queryClient.invalidateQueries({ queryKey: ["build"] });
    },
  });
  const looking = useRef<string | undefined>(undefined);
  looking.current = current?.id;
  const tickAndGoOn = (step: Step, value: number | null, open: boolean) => {
    // The step stays in view while its answer is out, also when it is no longer the first open one.
    if (place !== step.id) navigate(`${home}/${step.id}`, { replace: true });
    const next = steps[steps.indexOf(step) + 1];
    tick.mutate(
      { step: step.id, value, open },
      {
        // Runs only while Hookup is open: a late answer never pulls back whoever has gone on to another stage or step.
        onSuccess: (answer) => {
          if (answer.judgement.fits && next && looking.current === step.id) navigate(`${home}/${next.id}`);
        },
      },
    );
  };
  const untick = useMutation({
    mutationFn: (step: string) =>
      unwrap(client.DELETE("/api/setups/{setup_id}/ticks/{step}", { params: { path: { setup_id: row.id, step } } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["build"] }),
  });
  if (plan.data && !plan.data.plan)
    return (
      <>
        <Heading title="Hookup" line="Which wire goes where, in which order." />
        <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">
          Choose the packs first: the steps are made from the setup.
        </p>
      </>
    );
  const done = new Set(steps.filter((s) => ticks.get(s.id)?.fits).map((s) => s.id));
  return (
    <>
      <Heading
        title="Hookup"
        line="From the wheel back to the packs. Cut-off off, main fuse on the bench until the last step."
        aside={
          <b>
            {done.size} of {steps.length} checked
          </b>
        }
      />
      {draft.save.kind !== "saved" && (
        <p className="mb-2 rounded-lg border border-amberline bg-ambertint px-3 py-1.5">
          The steps follow your last change; they can be ticked once it is saved.
        </p>
      )}
      <div className={`grid gap-5 max-wide:grid-cols-1 ${wide ? "grid-cols-1" : "grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]"}`}>
        <div className="max-desk:order-2">
          {plan.data?.plan && (
            <HookupDrawing
              plan={plan.data.plan}
              step={current}
              done={done}
              tips={tips}
              onTouch={touch}
              wide={wide}
              onWide={setWide}
            />
          )}
        </div>
        <div className="grid content-start gap-2">
          {current && (
            <StepCard
              step={current}
              number={number}
              last={number === steps.length}
              ticked={ticks.has(current.id)}
              busy={tick.isPending || draft.save.kind !== "saved"}
              error={tick.error instanceof Failed && tick.variables?.step === current.id ? tick.error.message : ""}
              judgement={judgement?.step === current.id ? judgement.judgement : undefined}
              onTick={(value, open) => tickAndGoOn(current, value, open)}
              onNext={() => navigate(`${home}/${steps[number]?.id ?? ""}`)}
            />
          )}
          <ol aria-label="Steps">
            {steps.map((s, i) => {
              const t = ticks.get(s.id);
              return (
                <li key={s.id} className="flex items-center gap-3 border-b border-line py-1.5">
                  <span className="w-5 text-right font-head font-bold text-ink3">{i + 1}</span>
                  <button
                    type="button"
                    className={`min-w-0 flex-1 text-left ${s.id === current?.id ? "font-bold text-focus" : ""}`}
                    aria-current={s.id === current?.id ? "step" : undefined}
                    onClick={() => navigate(`${home}/${s.id}`)}
                  >
                    {s.title} <span className="block text-small font-normal text-ink3">{expects(s)}</span>
                  </button>
                  {t && s.reading && (
                    <b className={t.fits ? "text-leaftext" : "text-hottext"}>
                      {t.measured_open ? "OL" : t.measured == null ? "" : `${plainNumber(t.measured)} ${s.reading.unit}`}
                    </b>
                  )}
                  <Glyph mark={t ? (t.fits ? "done" : "stop") : s.id === current?.id ? "now" : "open"} size={16} />
                  {t && (
                    <button
                      type="button"
                      className="btn quiet !min-h-7 !px-1"
                      aria-label={`Take back step ${i + 1}`}
                      onClick={() => untick.mutate(s.id)}
                    >
                      ×
                    </button>
                  )}
                </li>
              );
            })}
          </ol>
        </div>
      </div>
      {plan.data?.plan && (
        <section className="mt-6" aria-label="More of the hookup">
          <div className="mb-3 flex flex-wrap items-center justify-between gap-2">
            <Segmented label="More of the hookup" value={more} options={offered} onChange={setMore} />
            <button type="button" className="btn" disabled={asList.isPending} onClick={() => asList.mutate()}>
              Save the wire list as CSV
            </button>
          </div>
          <Trouble error={asList.error} />
          {more === "meter" && <MeterSection plan={plan.data.plan} doc={draft.doc} tips={tips} onTips={setTips} />}
          {more === "orders" && plan.data.plan.matching && <OrdersSection matching={plan.data.plan.matching} />}
          {more === "colours" && <ColoursSection plan={plan.data.plan} />}
          {more === "wires" && (
            <div className="grid gap-6">
              <SmallWires />
              <Cables plan={plan.data.plan} />
            </div>
          )}
          {more === "covers" && <Openings />}
        </section>
      )}
    </>
  );
}
