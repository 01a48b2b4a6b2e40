/** Protect: fuse and wire of every lead as one decision; joints, shorts, guard, plugs, spark, accessories. */

import { useState } from "react";
import type { Choice, RunOut } from "../../api/client";
import { choices } from "../../lib/choices";
import { applyPatch, type Doc, type Json, read } from "../../lib/pointer";
import { rowsOf } from "../../lib/rows";
import { useSettings } from "../../lib/settings";
import { useProtectPlan } from "../../lib/useDeepPlan";
import { useParam } from "../../lib/useParam";
import { useSteady } from "../../lib/useSteady";
import { protect as say } from "../../texts/protect";
import { plainNumber, sameSize, sentence, sizeWords, type WireSize } from "../../texts/units";
import { CheckField, NumberField, SelectField } from "../../ui/Field";
import { TakePart } from "../../ui/TakePart";
import { Trouble } from "../../ui/Trouble";
import { type Change, WhatIf } from "../../ui/WhatIf";
import { Block, Grid, Heading, opening } from "../Heading";
import type { StageProps } from "../stage";
import { Accessories } from "./Accessories";
import { Conditions } from "./Conditions";
import { GuardPlot } from "./GuardPlot";
import { Matrix, WHY } from "./Matrix";
import { Plugs } from "./Plugs";
import { merged, placesOf, RunFields } from "./RunFields";
import { RunTree, RunWords } from "./RunTree";
import { Switches } from "./Switches";
import { Demands, Joints, Precharge, Shorts } from "./Tables";
import { TimeCurrent } from "./TimeCurrent";

const STATIONS: Record<string, string> = { row_fuses: "row0", main_fuse: "main", leads: "main" };

/** The document with a fuse and a wire put into every place a run stands for; a run another's fuse guards gets the wire only. */
export function withPair(doc: Doc, run: RunOut, row: Choice["rows"][number], size: WireSize): Doc {
  const wireDoc: Doc = { awg: size.awg, mm2: size.mm2 ?? null, strands: size.strands ?? 1 };
  const fuse: Doc = {
    kind: row.kind,
    dc_volts_v: row.dc_volts_v,
    rating_a: row.rating_a,
    breaking_a: null,
    holder_a: null,
    holder_v: null,
  };
  return placesOf(run).reduce((now, place) => {
    const wired = merged(now, place.lead, wireDoc);
    return run.own_fuse || run.id === "main" || run.kind === "row" || run.kind === "accessory"
      ? merged(wired, place.fuse, fuse)
      : wired;
  }, doc);
}

/** How many lines the tree will have, like rows counted once: so that nothing jumps when it comes. */
function leadsOf(doc: Doc): number {
  const row = rowsOf(doc).some((r) => r.lead) ? 1 : 0;
  const link = rowsOf(doc).some((r) => r.link) ? 1 : 0;
  const own = ["/main_lead", "/controller_lead", "/motor_lead"].filter((path) => read(doc, path)).length;
  const branches = (read(doc, "/auxiliaries") ?? []).filter((b) => b.lead).length;
  return row + link + own + branches;
}

function Coming({ lines }: { lines: number }) {
  return (
    <div className="mb-3 grid gap-1" role="status" aria-label={say.workingOutEveryLead}>
      {Array.from({ length: lines }, (_, i) => (
        <div key={i} className="h-[29px] rounded-md border-l-4 border-line bg-paper max-desk:h-[50px]" />
      ))}
    </div>
  );
}

export function Protect({ build, row, draft, plan, place }: StageProps) {
  const { doc } = draft;
  const { units } = useSettings();
  const of = { doc, buildId: build.id, isBaseline: row.is_baseline };
  const [chosen, setChosen] = useParam("run", STATIONS[place ?? ""] ?? "main");
  const [change, setChange] = useState<Change>();
  const deep = useProtectPlan(of, chosen);
  const runs = deep.plan?.runs ?? [];
  const run = runs.find((r) => r.id === chosen) ?? runs.find((r) => r.id === "main") ?? runs[0];
  const choice = run && deep.plan?.choice?.run === run.id ? deep.plan.choice : undefined;
  // A lead behind another's fuse is judged with that fuse alone.
  const shown =
    choice && run && !run.own_fuse && run.fuse && choice.chosen
      ? {
          ...choice,
          best: null,
          rows: choice.rows.filter((r) => r.rating_a === choice.chosen?.rating_a && r.kind === choice.chosen?.kind),
        }
      : choice;
  const alikePick =
    shown?.chosen != null &&
    shown.best != null &&
    shown.chosen.rating_a === shown.best.rating_a &&
    shown.chosen.kind === shown.best.kind &&
    sameSize(shown.chosen.size, shown.best.size);
  const rows = rowsOf(doc);
  const level = read(doc, "/guard/volts_v/value");
  const start = (path: string, part: Json, words: string) => (
    <button type="button" className="btn" onClick={() => draft.edit(path, part)}>
      {words}
    </button>
  );
  const { pick } = useSteady({
    pick: (fuse: Choice["rows"][number], size: WireSize) =>
      run &&
      setChange({
        label: `${run.name}: ${plainNumber(fuse.rating_a)} A ${fuse.kind} × ${sizeWords(size, units)}`,
        doc: withPair(doc, run, fuse, size),
      }),
  });
  const best = deep.plan?.all_best;
  const short = (metres: number): Json => ({ awg: 12, length_m: { value: metres, basis: "assumed" } });
  return (
    <>
      <Heading
        title={say.protect}
        line={opening(plan.evaluation, "protect", units) || say.theFuseMustOpen}
        aside={
          best ? (
            <button
              type="button"
              className="btn"
              onClick={() => setChange({ label: best.label, doc: applyPatch(doc, best.patch) })}
            >
              {say.bestForEveryLead}
            </button>
          ) : undefined
        }
      />
      {change && (
        <WhatIf
          of={of}
          now={plan.evaluation}
          change={change}
          leave={() => setChange(undefined)}
          apply={() => {
            draft.replace(change.doc, sentence(change.label, units).slice(0, 70));
            setChange(undefined);
          }}
        />
      )}
      {run ? (
        <RunTree runs={runs} chosen={run.id} choose={setChosen} />
      ) : (
        !deep.plan && !deep.error && plan.evaluation?.outcome && <Coming lines={leadsOf(doc)} />
      )}
      <Trouble error={deep.error} />
      {shown ? (
        <>
          <div className="grid grid-cols-[minmax(0,1.9fr)_minmax(0,1fr)] gap-5 max-wide:grid-cols-1">
            <Matrix choice={shown} pick={pick} />
            <div className="grid content-start gap-2">
              <Conditions choice={shown} />
              {!choice?.best && run?.own_fuse !== false && (
                <p className="rounded-lg border-2 border-hotdeep bg-hottint p-2">
                  {say.noFuseAndWire(
                    shown.blocking
                      .slice(0, 2)
                      .map((b) => WHY[b]?.line)
                      .join("; "),
                  )}
                </p>
              )}
              {run && <RunWords run={run} />}
            </div>
          </div>
          <div className="mt-3 grid grid-cols-2 gap-5 border-t border-line pt-3 max-desk:grid-cols-1">
            <TimeCurrent choice={shown} which={shown.chosen ? "chosen" : "best"} name={run?.name.toLowerCase()} />
            {shown.chosen && shown.best && !alikePick ? (
              <TimeCurrent
                choice={shown}
                which="best"
                name={run?.name.toLowerCase()}
                use={() => {
                  const best = shown.best;
                  if (best) pick({ ...best, fails: [] }, best.size);
                }}
              />
            ) : null}
          </div>
        </>
      ) : (
        <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">
          {run || (!deep.plan && plan.evaluation?.outcome) ? say.workingOutThisLead : say.enterForTheTable}
        </p>
      )}
      <div className="mt-3 border-t border-line pt-3">
        <Block title={run ? say.fuseAndWireIn(run.name) : say.leadsAndFuses}>
          {run && <RunFields run={run} />}
          <div className="mt-3 flex flex-wrap gap-2">
            {!read(doc, "/main_lead") &&
              start("/main_lead", { ...(short(0.8) as Doc), insulation: "105", bundle_conductors: 2 }, say.enterTheMainLead)}
            {!read(doc, "/main_fuse") && start("/main_fuse", { kind: "blade", rating_a: 30, dc_volts_v: 58 }, say.addAMainFuse)}
            {!read(doc, "/controller_lead") && start("/controller_lead", short(0.3), say.controllerLeadOfIts)}
            {!read(doc, "/motor_lead") && start("/motor_lead", short(0.4), say.enterTheMotorLead)}
            {rows.some((r) => !r.lead) &&
              start(
                "/bank",
                {
                  ...read(doc, "/bank"),
                  rows: rows.map((r) => ({ ...r, lead: r.lead ?? short(0.2) })),
                },
                rows.length > 1 ? say.enterTheRowsLeads : say.enterThePacksOwn,
              )}
            {rows.some((r) => r.units.length > 1 && !r.link) &&
              start(
                "/bank",
                {
                  ...read(doc, "/bank"),
                  rows: rows.map((r) => ({ ...r, link: r.link ?? (r.units.length > 1 ? short(0.1) : null) })),
                },
                say.enterTheLinksBetween,
              )}
            {rows.some((r) => !r.fuse) &&
              start(
                "/bank",
                {
                  ...read(doc, "/bank"),
                  rows: rows.map((r) => ({
                    ...r,
                    fuse: r.fuse ?? { kind: "blade", rating_a: 20, dc_volts_v: read(doc, "/main_fuse/dc_volts_v") ?? 58 },
                  })),
                },
                rows.length > 1 ? say.aFuseForEach : say.aFuseAtThe,
              )}
          </div>
        </Block>
      </div>
      {deep.plan && (
        <div className="mt-4 grid grid-cols-2 gap-6 border-t border-line pt-3 max-desk:grid-cols-1">
          <Block title={say.whatFlowsAndFor} line={say.fuseWirePlugsAnd}>
            <Demands demands={deep.plan.demands ?? []} />
          </Block>
          <Block title={say.whatEachJointCosts} line={say.voltsLostHereAre}>
            <Joints joints={deep.plan.joints} />
          </Block>
          <div className="grid content-start gap-5">
            <Block title={say.ifSomethingShorts} line={say.aTiredColdPack}>
              <Shorts plan={deep.plan} />
            </Block>
            {deep.plan.precharge && (
              <Block title={say.theSparkWhenPlugging}>
                <Precharge found={deep.plan.precharge} />
                <div className="mt-2 max-w-[260px]">
                  <NumberField label={say.capacitorsInAll} pointer="/controller/capacitance_f" kind="farad" />
                  <CheckField label={say.thereIsAPre} pointer="/controller/precharge" />
                </div>
              </Block>
            )}
          </div>
        </div>
      )}
      <div className="mt-4 grid grid-cols-2 gap-6 border-t border-line pt-3 max-desk:grid-cols-1">
        <Block title={say.lowVoltGuard} line={say.itSavesTheCells}>
          <TakePart kind="guards" path="/guard" label={say.guardOfYours} own />
          {read(doc, "/guard") ? (
            <Grid min={130}>
              <NumberField label={say.setPoint} pointer="/guard/volts_v" unit="V" />
              <NumberField label={say.comesBackAt} pointer="/guard/reset_v" unit="V" />
              <NumberField label={say.waitsBeforeItActs} pointer="/guard/delay_s" unit="s" />
              <NumberField label={say.stands} pointer="/guard/rating_a" unit="A" />
              <SelectField
                label={say.kind}
                pointer="/guard/kind"
                options={choices("Guard.kind", { voltmeter: say.voltmeterWatched })}
              />
              {start("/guard", null, say.noGuard)}
            </Grid>
          ) : plan.evaluation?.bank ? (
            start(
              "/guard",
              { kind: "module", volts_v: { value: plan.evaluation.bank.guard_v, basis: "nameplate" } },
              say.addALowVolt(plan.evaluation.bank.guard_v),
            )
          ) : (
            <p className="text-ink2">{say.chooseThePacksFirst}</p>
          )}
          {plan.evaluation && <GuardPlot evaluation={plan.evaluation} level={level} />}
        </Block>
        <Block title={say.switchesAndPlugs} line={say.eachMustBreakThe}>
          <Switches />
          <Plugs path="/plugs" add={say.addAPlug} />
        </Block>
      </div>
      <div className="mt-4 border-t border-line pt-3">
        <Block title={say.accessories} line={say.lampsHornMeterSocket}>
          <Accessories />
        </Block>
      </div>
    </>
  );
}
