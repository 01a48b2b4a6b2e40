/** The hookup's drawing: every part and wire of the setup, laid out by itself; moved, enlarged and fitted; the step at hand is lit. */
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { Hookup, Step } from "../../api/client";
import { saveAs } from "../../lib/saveAs";
import { type Laid, layOut } from "./layout";

type Line = Hookup["drawing"]["lines"][number];

const INK: Record<string, string> = {
  plus: "var(--w-red)",
  minus: "var(--w-black)",
  motor: "var(--ink-2)",
  signal: "var(--amber-line)",
};
const WIDTH: Record<string, number> = { plus: 4, minus: 4, motor: 3.2, signal: 2.2 };
const STEP = 40;

/** Ids of the parts a step speaks of: a row stands for all its packs. */
function partsOf(plan: Hookup, ids: readonly string[]): Set<string> {
  const rows = new Set(ids.filter((id) => /^row\d+$/.test(id)).map((id) => Number(id.slice(3))));
  return new Set([
    ...ids,
    ...plan.drawing.parts.filter((p) => p.kind === "pack" && p.row != null && rows.has(p.row)).map((p) => p.id),
  ]);
}

export interface Tips {
  red: string;
  black: string;
}

/** Where a tip of the step's reading stands: at the port it names, plus or minus, or at the part. */
function spot(plan: Hookup, laid: Laid, nodes: readonly string[], which: number): { x: number; y: number } | undefined {
  const id = nodes[which];
  if (id === undefined) return undefined;
  const wanted = partsOf(plan, [id]);
  const found = laid.parts.filter((p) => wanted.has(p.id));
  // A row of packs: its plus end is the last one's, its minus end the first one's.
  const part = which === 0 ? found.at(-1) : found[0];
  if (!part) return undefined;
  const sign = which === 0 ? "+" : "−";
  const port =
    nodes[0] === nodes[1] ? (part.ports.find((p) => p.label.endsWith(sign)) ?? part.ports.at(which === 0 ? 0 : -1)) : undefined;
  return port ? { x: port.x, y: port.y } : { x: part.x + (which === 0 ? 12 : part.w - 12), y: part.y };
}

const path = (points: [number, number][]) => points.map(([x, y], i) => `${i ? "L" : "M"}${x} ${y}`).join("");

function Lines({ laid, lines, waiting }: { laid: Laid; lines: Map<string, Line>; waiting: boolean }) {
  return (
    <g fill="none" strokeLinejoin="round">
      {laid.lines.map((l) => {
        const line = lines.get(l.id);
        const kind = line?.kind ?? "signal";
        return (
          <g key={l.id} data-line={l.id}>
            <path
              d={path(l.points)}
              stroke={INK[kind]}
              strokeWidth={WIDTH[kind]}
              strokeDasharray={waiting && kind === "plus" ? "6 5" : undefined}
            />
            {l.label && line && (
              <text data-label={l.id} x={l.label.x + 3} y={l.label.y + 11} fontSize="11.5" fill="var(--ink)">
                {line.label}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

interface Props {
  plan: Hookup;
  step: Step | undefined;
  done: Set<string>;
  /** Where the meter's tips are put by touch, red then black. */
  tips: Tips;
  onTouch: (terminal: string) => void;
  wide: boolean;
  onWide: (wide: boolean) => void;
}

export function HookupDrawing({ plan, step, done, tips, onTouch, wide, onWide }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const image = useRef<SVGSVGElement>(null);
  const [view, setView] = useState({ x: 0, y: 0, k: 1 });
  const held = useRef<{ x: number; y: number } | null>(null);
  const found = useQuery({
    queryKey: ["layout", plan.drawing],
    queryFn: () => layOut(plan.drawing),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const laid = found.data;
  const by = (k: number) => setView((v) => ({ ...v, k: Math.min(Math.max(v.k * k, 1), 6) }));
  const move = (x: number, y: number) => setView((v) => ({ ...v, x: v.x + x, y: v.y + y }));
  const keys = (e: KeyboardEvent) => {
    const ways = new Map<string, () => void>([
      ["ArrowLeft", () => move(STEP, 0)],
      ["ArrowRight", () => move(-STEP, 0)],
      ["ArrowUp", () => move(0, STEP)],
      ["ArrowDown", () => move(0, -STEP)],
      ["+", () => by(1.25)],
      ["-", () => by(0.8)],
      ["0", () => setView({ x: 0, y: 0, k: 1 })],
    ]);
    const way = ways.get(e.key);
    if (!way) return;
    e.preventDefault();
    way();
  };
  const letGo = () => {
    held.current = null;
  };
  const drag = (e: PointerEvent) => {
    if (!held.current || !laid || !frame.current) return;
    const perPixel = laid.width / view.k / frame.current.clientWidth;
    move((e.clientX - held.current.x) * perPixel * view.k, (e.clientY - held.current.y) * perPixel * view.k);
    held.current = { x: e.clientX, y: e.clientY };
  };
  if (found.error)
    return (
      <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">
        The drawing cannot be laid out in this browser. The steps say all of it.
      </p>
    );
  if (!laid) return <p className="p-3 text-ink2">Laying the drawing out…</p>;
  const lines = new Map(plan.drawing.lines.map((l) => [l.id, l]));
  const parts = new Map(plan.drawing.parts.map((p) => [p.id, p]));
  const lit = partsOf(plan, step?.blocks ?? []);
  const ports = new Map(plan.drawing.parts.flatMap((p) => p.ports.map((one) => [one.id, one] as const)));
  const spots = [0, 1].map((k) => spot(plan, laid, step?.reading?.nodes ?? [], k));
  const touched = (terminal: string) =>
    laid.parts.flatMap((p) => p.ports).find((port) => ports.get(port.id)?.terminals.includes(terminal));
  const met = [touched(tips.red), touched(tips.black)];
  const [w, h] = [laid.width / view.k, laid.height / view.k];
  const box = `${(laid.width - w) / 2 - view.x / view.k} ${(laid.height - h) / 2 - view.y / view.k} ${w} ${h}`;
  const save = () => {
    if (!image.current) return;
    const copy = image.current.cloneNode(true) as SVGSVGElement;
    copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
    copy.setAttribute("viewBox", `0 0 ${laid.width} ${laid.height}`);
    const named = getComputedStyle(document.documentElement);
    saveAs(
      copy.outerHTML.replace(/var\((--[\w-]+)\)/g, (_m, name) => named.getPropertyValue(name).trim() || "black"),
      "hookup.svg",
      "image/svg+xml",
    );
  };
  return (
    <figure>
      <div
        ref={frame}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved and enlarged by keys
        tabIndex={0}
        role="group"
        aria-label="Drawing, moved with the arrow keys, plus and minus enlarge, zero fits"
        className="touch-pan-y overflow-hidden rounded-lg border border-line bg-paper"
        onKeyDown={keys}
        onPointerDown={(e) => {
          // A port is touched, not dragged.
          if ((e.target as Element).closest("[data-port]")) return;
          held.current = { x: e.clientX, y: e.clientY };
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={drag}
        onPointerUp={letGo}
        onPointerCancel={letGo}
      >
        <svg
          ref={image}
          viewBox={box}
          className="mx-auto block h-auto w-full"
          style={{ maxWidth: laid.width * 1.15 }}
          role="img"
          aria-label={`Drawing of the hookup${step ? `, now: ${step.title}` : ""}`}
        >
          <Lines laid={laid} lines={lines} waiting={!done.has("main_fuse")} />
          {laid.parts.map((p) => {
            const part = parts.get(p.id);
            if (!part) return null;
            const bar = part.kind === "bar" || part.kind === "frame";
            const head = p.ports.some((port) => port.above && port.label) ? 15 : 0;
            const foot = p.ports.some((port) => !port.above && port.label) ? 15 : 0;
            const middle = p.y + head + (p.h - head - foot) / 2;
            return (
              <g key={p.id} data-part={p.id}>
                {lit.has(p.id) && (
                  <rect
                    x={p.x - 5}
                    y={p.y - 5}
                    width={p.w + 10}
                    height={p.h + 10}
                    rx="10"
                    fill="none"
                    stroke="var(--focus)"
                    strokeWidth="3"
                  />
                )}
                <rect
                  x={p.x}
                  y={p.y}
                  width={p.w}
                  height={p.h}
                  rx={part.kind === "motor" ? 16 : bar ? 3 : 6}
                  fill={
                    lit.has(p.id)
                      ? "var(--focus-tint)"
                      : part.kind === "pack"
                        ? "var(--leaf-tint)"
                        : bar
                          ? "var(--paper)"
                          : "var(--paper-sunk)"
                  }
                  stroke="var(--ink)"
                  strokeWidth="1.6"
                  strokeDasharray={part.kind === "fuse" && !done.has(p.id) && !done.has("main_fuse") ? "4 3" : undefined}
                />
                <text
                  x={p.x + p.w / 2}
                  y={part.detail && !bar ? middle - 3 : middle + 4}
                  fontSize="12"
                  fontWeight="700"
                  textAnchor="middle"
                  fill="var(--ink)"
                >
                  {part.label}
                </text>
                {part.detail && !bar && (
                  <text x={p.x + p.w / 2} y={middle + 12} fontSize="11" textAnchor="middle" fill="var(--ink)">
                    {part.detail}
                  </text>
                )}
                {p.ports.map((port) =>
                  port.label ? (
                    <text
                      key={port.id}
                      x={port.x}
                      y={port.above ? p.y + 12 : p.y + p.h - 5}
                      fontSize="10.5"
                      textAnchor="middle"
                      fill="var(--ink-2)"
                    >
                      {port.label}
                    </text>
                  ) : null,
                )}
              </g>
            );
          })}
          {laid.parts.flatMap((p) =>
            p.ports.map((port) => (
              // biome-ignore lint/a11y/noStaticElementInteractions: the meter's two lists do the same by keys
              <circle
                key={port.id}
                data-port={port.id}
                cx={port.x}
                cy={port.y}
                r="4"
                fill="var(--paper)"
                stroke="var(--ink)"
                strokeWidth="1.4"
                className="cursor-pointer"
                onClick={() => onTouch(ports.get(port.id)?.terminals[0] ?? "")}
              />
            )),
          )}
          {met[0] && <circle cx={met[0].x} cy={met[0].y} r="6.5" fill="none" stroke="var(--w-red)" strokeWidth="3" />}
          {met[1] && <circle cx={met[1].x} cy={met[1].y} r="9" fill="none" stroke="var(--w-black)" strokeWidth="2.4" />}
          {spots[0] && <path d={`M${spots[0].x} ${spots[0].y - 4}l-6-14h12Z`} fill="var(--w-red)" stroke="var(--ink)" />}
          {spots[1] && <path d={`M${spots[1].x} ${spots[1].y - 4}l-6-14h12Z`} fill="var(--w-black)" stroke="var(--ink)" />}
        </svg>
      </div>
      <figcaption className="noprint mt-2 flex flex-wrap gap-1.5">
        <button type="button" className="btn" aria-label="Enlarge the drawing" onClick={() => by(1.4)}>
          +
        </button>
        <button
          type="button"
          className="btn"
          aria-label="Make the drawing smaller"
          onClick={() => by(1 / 1.4)}
          disabled={view.k <= 1}
        >
          −
        </button>
        <button type="button" className="btn" onClick={() => setView({ x: 0, y: 0, k: 1 })}>
          Fit
        </button>
        <button type="button" className="btn max-wide:hidden" aria-pressed={wide} onClick={() => onWide(!wide)}>
          Large
        </button>
        <button type="button" className="btn quiet" onClick={save}>
          Save as SVG
        </button>
      </figcaption>
    </figure>
  );
}
