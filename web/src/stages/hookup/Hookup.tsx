/** Hookup: the drawing, the steps in their order with their readings, and below them what belongs to wiring it up. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, Failed, type Judgement, type Step, type Ticked, unwrap } from "../../api/client";
import { OpenList } from "../../findings/OpenList";
import { KEPT, sendOrKeep } from "../../lib/outbox";
import { useParam } from "../../lib/useParam";
import { reasonsOf, useStanding } from "../../lib/useStanding";
import { PhotosOf } from "../../photos/PhotosOf";
import { hookup as say } from "../../texts/hookup";
import { Segmented } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { Trouble } from "../../ui/Trouble";
import { Heading } from "../Heading";
import type { StageProps } from "../stage";
import { BackSection } from "./BackSection";
import { ColoursSection } from "./ColoursSection";
import type { Tips } from "./DrawingImage";
import { Faults } from "./Faults";
import { HookupDrawing } from "./HookupDrawing";
import { LogicSection } from "./LogicSection";
import { MeterSection } from "./MeterSection";
import { OrdersSection } from "./OrdersSection";
import { Cables, Openings, SmallWires } from "./SmallWires";
import { StepCard } from "./StepCard";
import { StepList } from "./StepList";
import { TouchedReading } from "./TouchedReading";
import { useHookup } from "./useHookup";
import { ALL_ON } from "./useMeter";
import { WiresSection } from "./WiresSection";

const MORE = [
  ["meter", say.meterAnywhere],
  ["colours", say.whichColourIsWhich],
  ["orders", say.phasesAndHalls],
  ["wires", say.smallWires],
  ["list", say.allWires],
  ["logic", say.controls],
  ["covers", say.coversAndSeals],
  ["back", say.wayBack],
] as const;

export function HookupStage({ build, row, draft, place }: StageProps) {
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const plan = useHookup(draft.doc, build.id, row);
  const standing = useStanding(build.id, row);
  const [asked, setMore] = useParam("more", MORE[0][0]);
  const offered = MORE.filter(
    ([key]) => (key !== "orders" || plan.data?.plan?.matching.length) && (key !== "back" || plan.data?.plan?.back),
  );
  const more = offered.find(([key]) => key === asked)?.[0] ?? MORE[0][0];
  const [tips, setTips] = useState<Tips>({ red: "", black: "" });
  const [situation, setSituation] = useState(ALL_ON);
  const moreAt = useRef<HTMLElement>(null);
  const [wide, setWide] = useState(false);
  const blackNext = useRef(false);
  // Red first, then black, then red again.
  const touch = (terminals: string[]) => {
    const tip = blackNext.current ? "black" : "red";
    // A cable's port stands for all its wires: the first one that the other tip does not stand on.
    const free = terminals.find((one) => one !== tips[tip === "red" ? "black" : "red"]) ?? terminals[0] ?? "";
    setTips((t) => ({ ...t, [tip]: free }));
    blackNext.current = !blackNext.current;
  };
  const steps = plan.data?.plan?.steps ?? [];
  const ticks = new Map(row.ticks.map((t) => [t.step, t]));
  const lost = new Set([...(plan.data?.lost ?? [])].filter((step) => ticks.get(step)?.fits));
  const firstOpen = steps.find((s) => !ticks.has(s.id) || lost.has(s.id)) ?? steps.at(-1);
  const current = steps.find((s) => s.id === place) ?? firstOpen;
  const [judgement, setJudgement] = useState<{ step: string; judgement: Judgement }>();
  const home = `/builds/${build.id}/setups/${row.id}/hookup`;
  const number = current ? steps.indexOf(current) + 1 : 0;
  const tick = useMutation({
    mutationFn: ({ step, value, open }: { step: string; value: number | null; open: boolean }) =>
      sendOrKeep<Ticked>({
        method: "PUT",
        url: `/api/setups/${row.id}/ticks/${step}`,
        body: { measured: value, measured_open: open },
        words: say.stepOf(
          steps.findIndex((s) => s.id === step),
          build.name,
          row.name,
          open,
          value,
        ),
      }),
    onSuccess: async (answer, { step }) => {
      if (answer === KEPT) return;
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
          // Not sent yet, the next step can be read all the same; what it is worth is said when it is sent.
          if ((answer === KEPT || answer.judgement.fits) && next && looking.current === step.id) navigate(`${home}/${next.id}`);
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
        <Heading title={say.hookup} line={say.whichWireGoesWhere} />
        <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">{say.chooseThePacksFirst}</p>
      </>
    );
  const held = (step: string) => ticks.get(step)?.fits === true && !lost.has(step);
  const done = new Set(steps.filter((s) => held(s.id)).map((s) => s.id));
  return (
    <>
      <Heading title={say.hookup} line={say.fromTheControlsAnd} aside={<b>{say.ofChecked(done.size, steps.length)}</b>} />
      {draft.save.kind !== "saved" && (
        <p className="mb-2 rounded-lg border border-amberline bg-ambertint px-3 py-1.5">{say.theStepsFollowYour}</p>
      )}
      {(standing?.open.length ?? 0) > 0 && (
        <details className="mb-2" open={standing?.open.some((stop) => stop.gate === "plan")}>
          <summary className="font-bold">
            <Glyph mark={standing?.open.some((stop) => stop.gate === "plan") ? "stop" : "caution"} size={14} quiet />{" "}
            {say.open(standing?.open.length, standing?.power)}
          </summary>
          <div className="mt-1">
            <OpenList standing={standing} home={`/builds/${build.id}/setups/${row.id}`} />
          </div>
        </details>
      )}
      <Faults faults={plan.data?.plan?.faults ?? []} />
      <div
        className={`grid gap-x-5 gap-y-2 max-wide:grid-cols-1 ${wide ? "grid-cols-1" : "grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] wide:grid-rows-[auto_1fr]"}`}
      >
        <div className={`min-w-0 max-desk:order-2 ${wide ? "" : "wide:sticky wide:top-0 wide:row-span-2 wide:self-start"}`}>
          {plan.data?.plan && (
            <HookupDrawing
              plan={plan.data.plan}
              step={current}
              done={done}
              tips={tips}
              onTouch={touch}
              wide={wide}
              onWide={setWide}
              printed={`/builds/${build.id}/setups/${row.id}/drawing`}
            >
              <TouchedReading
                doc={draft.doc}
                tips={tips}
                situation={situation}
                onClear={() => {
                  blackNext.current = false;
                  setTips({ red: "", black: "" });
                }}
                onState={() => {
                  setMore("meter");
                  moreAt.current?.scrollIntoView({ block: "start" });
                  moreAt.current?.querySelector("select")?.focus({ preventScroll: true });
                }}
              />
            </HookupDrawing>
          )}
        </div>
        <div className="max-desk:order-1">
          {current && (
            <StepCard
              step={current}
              number={number}
              last={number === steps.length}
              ticked={ticks.has(current.id)}
              excused={ticks.get(current.id)?.excused ?? false}
              lost={lost.has(current.id)}
              busy={tick.isPending || draft.save.kind !== "saved"}
              reasons={reasonsOf(standing, current.id)}
              error={tick.error instanceof Failed && tick.variables?.step === current.id ? tick.error.message : ""}
              judgement={judgement?.step === current.id ? judgement.judgement : undefined}
              onTick={(value, open) => tickAndGoOn(current, value, open)}
              onNext={() => navigate(`${home}/${steps[number]?.id ?? ""}`)}
            />
          )}
          {current && (
            <PhotosOf
              key={`photos ${current.id}`}
              garageId={build.garage_id}
              shows={{ build: build.id, setup: row.id, place: current.id }}
              title={say.photosOfThisStep}
            />
          )}
        </div>
        <div className="max-desk:order-3">
          <StepList
            steps={steps}
            current={current?.id}
            ticks={ticks}
            lost={lost}
            locked={new Set(standing?.locked.map((lock) => lock.step))}
            onGo={(step) => navigate(`${home}/${step}`)}
            onTakeBack={untick.mutate}
          />
        </div>
      </div>
      {plan.data?.plan && (
        <section ref={moreAt} className="mt-6" aria-label={say.moreOfTheHookup}>
          <div className="mb-3">
            <Segmented label={say.moreOfTheHookup} value={more} options={offered} onChange={setMore} />
          </div>
          <Trouble error={untick.error} />
          {more === "meter" && (
            <MeterSection
              plan={plan.data.plan}
              doc={draft.doc}
              tips={tips}
              onTips={setTips}
              situation={situation}
              onSituation={setSituation}
            />
          )}
          {more === "list" && <WiresSection plan={plan.data.plan} doc={draft.doc} name={`${build.name}, ${row.name}`} />}
          {more === "orders" &&
            plan.data.plan.matching.map((one) => <OrdersSection key={one.side} matching={one} busy={plan.isPlaceholderData} />)}
          {more === "colours" && <ColoursSection plan={plan.data.plan} build={build} row={row} />}
          {more === "logic" && <LogicSection plan={plan.data.plan} />}
          {more === "back" && plan.data.plan.back && (
            <BackSection
              back={plan.data.plan.back}
              done={new Set(plan.data.plan.back.steps.filter((s) => ticks.has(s.id)).map((s) => s.id))}
              busy={tick.isPending || untick.isPending || draft.save.kind !== "saved"}
              onTick={(step, on) => (on ? tick.mutate({ step, value: null, open: false }) : untick.mutate(step))}
            />
          )}
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
