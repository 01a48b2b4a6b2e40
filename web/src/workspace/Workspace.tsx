/** The workspace of a build: Trail, stage, findings, outcome; live while typing. */

import { useQuery } from "@tanstack/react-query";
import { Flag, LayoutList, Wrench } from "lucide-react";
import { Suspense, useEffect, useMemo, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { type Build, client, Failed, type Finding, type Patch, type SetupRow, type Station, unwrap } from "../api/client";
import { Findings } from "../findings/Findings";
import { Header } from "../frame/Header";
import { type FindItem, Shortcuts } from "../frame/Shortcuts";
import { assumedOf } from "../lib/assumed";
import { useInGarageOf } from "../lib/garage";
import { applyPatch } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { useHold } from "../lib/underway";
import { useDriveChanges } from "../lib/useDeepPlan";
import { useDraft } from "../lib/useDraft";
import { useHelp } from "../lib/useHelp";
import { type Plan, usePlan } from "../lib/usePlan";
import { openOf, useStanding } from "../lib/useStanding";
import { useSteady } from "../lib/useSteady";
import { OutcomeBand } from "../outcome/OutcomeBand";
import type { Stage } from "../stages/stage";
import { sentence } from "../texts/units";
import { workspace as say } from "../texts/workspace";
import { SideRibbon } from "../trail/Ribbon";
import { Trail } from "../trail/Trail";
import { FormProvider } from "../ui/Field";
import { Glyph } from "../ui/Glyph";
import { TermsProvider } from "../ui/Terms";
import { Clashes } from "./Clashes";
import { Elsewhere } from "./Elsewhere";
import { SavedLine, UndoRedo } from "./Saved";
import { SetupTabs } from "./SetupTabs";
import { StageTape } from "./StageTape";
import { STAGES } from "./stages";

const unaskedOf = (evaluation: Plan["evaluation"]) =>
  evaluation?.survey.filter((asked) => asked.answer === null || asked.answer === "cannot tell").length ?? 0;

const NO_FINDINGS: Finding[] = [];
const NO_STATIONS: Station[] = [];

function Bench({ build, row, at, place }: { build: Build; row: SetupRow; at: Stage; place: string | undefined }) {
  const { name: stage, Panel } = at;
  const draft = useSteady(useDraft(row));
  const plan = useSteady(usePlan(draft.doc, build.id, row.is_baseline));
  const changes = useDriveChanges(
    { doc: draft.doc, buildId: build.id, isBaseline: row.is_baseline },
    stage === "drive" && !plan.problems.length,
  );
  const help = useHelp();
  const standing = useStanding(build.id, row);
  const navigate = useNavigate();
  const { units } = useSettings();
  const [view, setView] = useState<"trail" | "bench" | "findings">("bench");
  const [applied, setApplied] = useState<string | null>(null);
  const evaluation = plan.evaluation;
  const findings = evaluation?.findings ?? NO_FINDINGS;
  const stations = evaluation?.trail ?? NO_STATIONS;
  const selected = stations.find((s) => s.id === place) ?? stations.find((s) => s.stage === stage);
  const home = `/builds/${build.id}/setups/${row.id}`;
  const { toStation, apply } = useSteady({
    home,
    toStation: (s: { stage: string; id: string }) => `${home}/${s.stage}/${s.id}`,
    apply: (patch: Patch, label: string) => {
      draft.replace(applyPatch(draft.doc, patch), label.replace(/\[\[.*?\]\]/g, "").slice(0, 70));
      setApplied(sentence(label, units));
    },
  });
  const assumed = useMemo(() => assumedOf(evaluation?.gaps ?? []), [evaluation]);
  const [lastSetup, setLastSetup] = useState<number>();
  const move = (by: number) => {
    const at = stations.findIndex((s) => s.id === selected?.id);
    const next = stations[(at + by + stations.length) % stations.length];
    if (next) navigate(toStation(next));
  };
  const actions: Record<string, () => void> = {
    "[": () => move(-1),
    "]": () => move(1),
    f: () => {
      setView("findings");
      setTimeout(() => {
        const all = [...document.querySelectorAll<HTMLElement>("[data-findings] article")];
        all.find((article) => article.offsetParent !== null)?.focus();
      }, 0);
    },
    s: () => {
      const menu = document.querySelector<HTMLElement>("[data-setup-menu]");
      menu?.focus();
      menu?.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
    },
    ...(draft.canUndo ? { u: draft.undo } : {}),
    ...(draft.canRedo ? { U: draft.redo } : {}),
    b: () => {
      const base = build.setups.find((s) => s.is_baseline);
      const target = row.is_baseline ? lastSetup : base?.id;
      if (!row.is_baseline) setLastSetup(row.id);
      if (target) navigate(`/builds/${build.id}/setups/${target}/${stage}`);
    },
  };
  STAGES.forEach(({ name }, i) => {
    actions[String(i + 1)] = () => navigate(`${home}/${name}`);
  });
  const items: FindItem[] = [
    ...build.setups.map((s) => ({ label: s.name, kind: "setup", to: `/builds/${build.id}/setups/${s.id}/${stage}` })),
    ...stations.map((s) => ({ label: s.name, kind: "station", to: toStation(s) })),
    { label: say.trialRuns, kind: "trials", to: `${home}/prove` },
  ];
  useEffect(() => {
    if (!applied) return;
    const timer = setTimeout(() => setApplied(null), 9000);
    return () => clearTimeout(timer);
  }, [applied]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new stage starts at the bench
  useEffect(() => setView("bench"), [stage]);
  // A key press brings several answers one after the other; each draws only what it is about.
  const saved = draft.save.kind === "saved";
  const side = useMemo(
    () => <Findings findings={findings} fixes={plan.fixes} row={row} onFix={apply} saved={saved} />,
    [findings, plan.fixes, row, apply, saved],
  );
  const trail = useMemo(
    () => <Trail stations={stations} selected={selected?.id} to={toStation} />,
    [stations, selected?.id, toStation],
  );
  const ride = standing?.ride ?? false;
  const unasked = unaskedOf(evaluation);
  const tape = useMemo(
    () => <StageTape build={build} row={row} stage={stage} findings={findings} ride={ride} unasked={unasked} />,
    [build, row, stage, findings, ride, unasked],
  );
  const tabs = useMemo(
    () => <SetupTabs build={build} row={row} stage={stage} evaluation={evaluation} />,
    [build, row, stage, evaluation],
  );
  const saving = useMemo(() => <SavedLine save={draft.save} />, [draft.save]);
  const { canUndo, canRedo, undo, redo } = draft;
  const tools = useMemo(
    () => <UndoRedo canUndo={canUndo} canRedo={canRedo} undo={undo} redo={redo} />,
    [canUndo, canRedo, undo, redo],
  );
  const header = useMemo(
    () => (
      <Header
        crumb={
          <strong className="max-w-[16ch] font-head text-[15px] text-ink max-desk:line-clamp-2 max-desk:max-w-[19vw] max-desk:text-[13.5px] max-desk:leading-[15px] max-desk:whitespace-normal desk:truncate">
            {build.name}
          </strong>
        }
        build={build.id}
        saved={saving}
        tools={tools}
      >
        {tabs}
      </Header>
    ),
    [build, tabs, saving, tools],
  );
  const tried = changes.changes?.tried?.held_back;
  const band = useMemo(
    () => <OutcomeBand evaluation={evaluation} ranges={plan.ranges} tried={tried} />,
    [evaluation, plan.ranges, tried],
  );
  const stopped = openOf(findings, row).stops > 0;
  const views = useMemo(
    () => (
      <nav className="nav grid grid-cols-3 border-t border-strong bg-paper desk:hidden" aria-label={say.views}>
        {(
          [
            ["trail", say.trail, LayoutList],
            ["bench", say.bench, Wrench],
            ["findings", say.findingsTab, Flag],
          ] as const
        ).map(([name, words, Icon]) => (
          <button
            key={name}
            type="button"
            aria-pressed={view === name}
            onClick={() => setView(name)}
            className={`grid place-content-center justify-items-center text-small ${view === name ? "border-t-4 border-leaf font-bold" : "border-t-4 border-transparent"}`}
          >
            <Icon size={20} aria-hidden="true" />
            <span>
              {words} {name === "findings" && stopped && <Glyph mark="stop" size={12} />}
            </span>
          </button>
        ))}
      </nav>
    ),
    [view, stopped],
  );
  const scope = useMemo(
    () => ({ doc: draft.doc, edit: draft.edit, problems: plan.problems, help, assumed }),
    [draft.doc, draft.edit, plan.problems, help, assumed],
  );
  const panel = useMemo(
    () => (
      <FormProvider value={scope}>
        <Suspense fallback={<Opening />}>
          <Panel build={build} row={row} draft={draft} plan={plan} place={place} apply={apply} />
        </Suspense>
      </FormProvider>
    ),
    [scope, Panel, build, row, draft, plan, place, apply],
  );
  return (
    <Shortcuts actions={actions} items={items}>
      <div className="bench" data-view={view}>
        {header}
        {tape}
        <div className="contents max-desk:hidden">{trail}</div>
        <div className={`trail overflow-auto desk:hidden ${view === "trail" ? "" : "max-h-16"}`}>
          {view === "trail" ? (
            trail
          ) : (
            <button
              type="button"
              className="block w-full px-3 py-1 text-left"
              onClick={() => setView("trail")}
              aria-label={say.openTheTrail}
            >
              <SideRibbon stations={stations} id="phone" tall={44} />
            </button>
          )}
        </div>
        <main
          className={`panel ${view === "findings" ? "max-desk:p-0" : ""} ${view === "trail" ? "max-desk:hidden" : ""}`}
          tabIndex={-1}
          aria-label={stage}
        >
          <div className={view === "findings" ? "max-wide:hidden" : "contents"}>
            {draft.save.kind !== "saving" && <Elsewhere setupId={row.id} version={draft.version} />}
            {draft.save.kind === "refused" && (
              <div
                role="alert"
                className="mb-3 rounded-lg border-2 border-hotdeep bg-hottint px-3 py-2 max-desk:sticky max-desk:top-1 max-desk:z-20"
              >
                <b>{say.notSavedYet}</b> {draft.save.error.message}{" "}
                <span className="text-ink2">{draft.save.error.code === "viewer" ? say.whatYouTryHere : say.whatYouTypedIs}</span>
                {draft.save.error.code === "signed_out" && (
                  <button type="button" className="btn ml-2" onClick={() => window.location.reload()}>
                    {say.signIn}
                  </button>
                )}
              </div>
            )}
            {plan.problems.length > 0 && (
              <div role="alert" className="mb-3 rounded-lg border-2 border-hotdeep bg-hottint px-3 py-2">
                <b>{say.notSavedYet}</b> {sentence(plan.problems[0]?.message ?? "", units)}{" "}
                <span className="text-ink2">{say.whatYouSeeBelow}</span>
              </div>
            )}
            {panel}
          </div>
          {view === "findings" && <div className="wide:hidden">{side}</div>}
        </main>
        <div className="contents max-wide:hidden">{side}</div>
        {applied && (
          <div
            role="status"
            className="noprint fixed bottom-28 left-1/2 z-30 flex -translate-x-1/2 items-center gap-3 rounded-lg border-[1.5px] border-ink bg-card px-4 py-2 shadow-lg max-desk:bottom-40 max-desk:w-[calc(100%-24px)]"
          >
            <Glyph mark="done" /> <span className="flex-1">{applied}</span>
            <button
              type="button"
              className="btn"
              onClick={() => {
                draft.undo();
                setApplied(null);
              }}
            >
              {say.undo}
            </button>
          </div>
        )}
        {band}
        {views}
        {view !== "findings" && (
          <button
            type="button"
            className="btn fixed right-3 bottom-26 z-20 hidden desk:max-wide:inline-flex"
            onClick={() => setView("findings")}
          >
            {say.countedFindings(FLAG, findings.filter((f) => f.severity !== "note").length)}
          </button>
        )}
        {view === "findings" && (
          <button
            type="button"
            className="btn fixed right-3 bottom-26 z-20 hidden desk:max-wide:inline-flex"
            onClick={() => setView("bench")}
          >
            {say.backTo(stage)}
          </button>
        )}
        {draft.save.kind === "conflict" && <Clashes draft={draft} />}
      </div>
    </Shortcuts>
  );
}

const FLAG = <Flag size={15} aria-hidden="true" />;

function Opening() {
  useHold();
  return <p role="status">{say.opening}</p>;
}

export function Workspace() {
  const { buildId, setupId, stage, place } = useParams();
  const id = Number(buildId);
  const build = useQuery({
    queryKey: ["build", id],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}", { params: { path: { build_id: id } } })),
    enabled: Number.isFinite(id),
  });
  useInGarageOf(build.data);
  const exists = Number.isFinite(id);
  if (build.isPending && exists)
    return (
      <p className="p-6" role="status">
        {say.openingTheBuild}
      </p>
    );
  if (!exists || build.isError || !build.data) {
    return (
      <main className="grid min-h-full place-content-center gap-2 p-6 text-center" role="alert">
        <h1 className="text-[26px]">
          {!exists || (build.error instanceof Failed && build.error.status === 404) ? say.thisBuildIsNot : say.theBuildCannotBe}
        </h1>
        <Link className="linkish" to="/">
          {say.backToTheGarage}
        </Link>
      </main>
    );
  }
  const rows = build.data.setups;
  const row = setupId ? rows.find((s) => s.id === Number(setupId)) : (rows.find((s) => s.in_use) ?? rows[0]);
  if (!row)
    return (
      <main className="p-6">
        {say.thisBuildHasNo}{" "}
        <Link className="linkish" to={`/builds/${id}`}>
          {say.openTheBuild}
        </Link>
      </main>
    );
  if (!setupId) return <Navigate to={`/builds/${id}/setups/${row.id}/power`} replace />;
  const at = STAGES.find((one) => one.name === stage);
  if (!at) return <Navigate to={`/builds/${id}/setups/${row.id}/power`} replace />;
  return (
    <TermsProvider>
      <Bench key={row.id} build={build.data} row={row} at={at} place={place} />
    </TermsProvider>
  );
}
