/** Puts a piece of the interface on a page of its own, with a made-up server behind it. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter, useLocation } from "react-router";
import { vi } from "vitest";
import type { Build, Evaluation, Finding, RackPart, Setup, SetupRow, Standing, Station } from "../api/client";
import type { Doc, Json } from "../lib/pointer";
import { SettingsProvider } from "../lib/settings";
import type { Draft } from "../lib/useDraft";
import type { Plan } from "../lib/usePlan";
import { FormProvider, type FormScope } from "../ui/Field";

export interface Asked {
  method: string;
  path: string;
  query: URLSearchParams;
  body: Record<string, Json>;
}
type Answer = { status?: number; body?: unknown };
export type Answers = Record<string, (asked: Asked) => Answer | Promise<Answer>>;

/** A server that answers "METHOD /path" by a table and remembers what it was asked; what is not in the table is not found. */
export function serve(answers: Answers): Asked[] {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const { pathname: path, searchParams: query } = new URL(request.url);
    const bytes = request.headers.get("content-type") === "application/octet-stream";
    const text = await request.text();
    const one = { method: request.method, path, query, body: text && !bytes ? JSON.parse(text) : {} };
    asked.push(one);
    const answer =
      answers[`${one.method} ${path}`] ??
      (() => ({ status: 404, body: { code: "not_found", message: `${path} is not there.` } }));
    const { status = 200, body } = await answer(one);
    return new Response(status === 204 ? null : JSON.stringify(body ?? null), {
      status,
      headers: { "content-type": "application/json" },
    });
  });
  return asked;
}

function Here() {
  return <output aria-label="address">{useLocation().pathname}</output>;
}

export function show(what: ReactNode, at = "/") {
  const queries = new QueryClient({
    defaultOptions: { queries: { retry: false, networkMode: "always" }, mutations: { networkMode: "always" } },
  });
  const page = (node: ReactNode) => (
    <QueryClientProvider client={queries}>
      <SettingsProvider>
        <MemoryRouter initialEntries={[at]}>
          {node}
          <Here />
        </MemoryRouter>
      </SettingsProvider>
    </QueryClientProvider>
  );
  const shown = render(page(what));
  return { ...shown, user: userEvent.setup(), queries, again: (node: ReactNode) => shown.rerender(page(node)) };
}

/** Fields bound to a document that only remembers its edits. */
export function formOf(doc: Doc, more: Partial<FormScope> = {}) {
  const edits: [string, Json][] = [];
  const scope: FormScope = {
    doc,
    edit: (pointer, value) => void edits.push([pointer, value]),
    problems: [],
    help: () => "",
    assumed: {},
    ...more,
  };
  return { scope, edits, wrap: (node: ReactNode) => <FormProvider value={scope}>{node}</FormProvider> };
}

/** A document that stands for any other; nothing in it is a setup. */
export const madeUp = (document: object) => document as Setup;

/** A part of the rack: a tool pack with the sticker A. */
export const rackPartOf = (more: Partial<RackPart> = {}): RackPart => ({
  id: 4,
  key: "k4",
  letter: "A",
  kind: "packs",
  single: true,
  label: "5-cell tool pack, 5 Ah",
  document: madeUp({
    cells_in_series: 5,
    capacity_ah: { value: 5, basis: "nameplate" },
    rack: { key: "k4", label: "5-cell tool pack, 5 Ah", letter: "A" },
  }) as never,
  quantity: 1,
  about: {},
  out: null,
  ...more,
});

export const rowOf = (more: Partial<SetupRow> = {}): SetupRow => ({
  id: 7,
  name: "Two packs",
  document: {},
  version: 3,
  updated: "2026-05-02T10:00:00Z",
  is_baseline: false,
  in_use: true,
  as_found: false,
  ticks: [],
  overrules: [],
  ...more,
});

export const buildOf = (more: Partial<Build> = {}): Build => ({
  id: 2,
  garage_id: 1,
  name: "Puddle Hopper",
  family: "ride-on car",
  description: "",
  new_price: null,
  setups: [rowOf({ id: 6, name: "As found", is_baseline: true, in_use: false }), rowOf()],
  ...more,
});

export const draftOf = (doc: Doc = {}, more: Partial<Draft> = {}): Draft => ({
  doc,
  save: { kind: "saved", at: null },
  edit: vi.fn(),
  replace: vi.fn(),
  undo: vi.fn(),
  redo: vi.fn(),
  version: 3,
  canUndo: false,
  canRedo: false,
  settle: vi.fn(),
  ...more,
});

export const planOf = (evaluation?: Evaluation, more: Partial<Plan> = {}): Plan => ({
  evaluation,
  ranges: undefined,
  fixes: [],
  problems: [],
  ...more,
});

export const stageOf = (more: { build?: Build; row?: SetupRow; draft?: Draft; plan?: Plan; place?: string } = {}) => ({
  build: more.build ?? buildOf(),
  row: more.row ?? rowOf(),
  draft: more.draft ?? draftOf(),
  plan: more.plan ?? planOf(),
  place: more.place,
  apply: vi.fn(),
});

export const findingOf = (more: Partial<Finding> = {}): Finding => ({
  id: "fuse.none",
  key: "fuse.none@main",
  severity: "stop",
  station: "main_fuse",
  stage: "protect",
  title: "There is no main fuse",
  because: "A short draws [[4.4704|speed]].",
  instruction: "Put a fuse into the positive lead.",
  principle: "None is never accepted.",
  path: "/main_fuse",
  gate: "plan",
  observable: false,
  asked: 420,
  stands: 0,
  unit: "A",
  as_found: false,
  question: "",
  answers: [],
  ...more,
});

export const saidOf = (more: Partial<SetupRow["overrules"][number]> = {}): SetupRow["overrules"][number] => ({
  finding: "fuse.none@main",
  title: "There is no main fuse",
  reason: "Bench only.",
  kind: "overruled",
  by: "ada",
  asked: 420,
  stands: 0,
  unit: "A",
  fallen: false,
  created: "2026-05-02T10:00:00Z",
  ...more,
});

export const standingOf = (more: Partial<Standing> = {}): Standing => ({
  open: [],
  fallen: [],
  locked: [],
  power: true,
  ride: true,
  ...more,
});

export const stationOf = (more: Partial<Station> = {}): Station => ({
  id: "leads",
  name: "Leads",
  stage: "protect",
  path: "/main_lead",
  asks: 12,
  stands: 30,
  unit: "A",
  share: 0.4,
  state: "fine",
  weak: false,
  detail: "[[12|awg]]",
  severity: null,
  ...more,
});
