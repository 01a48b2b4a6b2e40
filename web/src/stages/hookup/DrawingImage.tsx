/** The hookup as a picture: parts with their ports, wires in their colours with their letters. Drawn the same on screen, paper and in a file. */
import type { Hookup, Step } from "../../api/client";
import { decimals } from "../../texts/locale";
import { type Laid, type LaidLine, LINE, PITCH } from "./layout";
import { beside, halves, type Point, paintOf, path } from "./wires";

type Line = Hookup["drawing"]["lines"][number];
type Part = Hookup["drawing"]["parts"][number];

export interface Tips {
  red: string;
  black: string;
}

const UNKNOWN: Record<string, string> = {
  plus: "var(--w-red)",
  minus: "var(--w-black)",
  motor: "var(--ink-2)",
  signal: "var(--amber-line)",
};
const WIDTH: Record<string, number> = { plus: 4, minus: 4, motor: 3.4, signal: 2.4 };

/** Ids of the parts a step speaks of: a row stands for all its packs. */
export function partsOf(plan: Hookup, ids: readonly string[]): Set<string> {
  const rows = new Set(ids.filter((id) => /^row\d+$/.test(id)).map((id) => Number(id.slice(3))));
  return new Set([
    ...ids,
    ...plan.drawing.parts.filter((p) => p.kind === "pack" && p.row != null && rows.has(p.row)).map((p) => p.id),
  ]);
}

/** Where a terminal is drawn: at its port, or at its part where it has none. */
export function placeOf(plan: Hookup, laid: Laid, terminal: string): { x: number; y: number } | undefined {
  const owner = plan.drawing.parts.find((p) => p.id === terminal.split(".")[0]);
  const port = owner?.ports.find((one) => one.terminals.includes(terminal));
  const part = laid.parts.find((p) => p.id === owner?.id);
  const place = part?.ports.find((one) => one.id === port?.id);
  if (place) return { x: place.x, y: place.y };
  return part && { x: part.x + part.w / 2, y: part.y + part.h / 2 };
}

function Strand({
  points,
  colours,
  unknown,
  width,
  dashed,
}: {
  points: Point[];
  colours: string[];
  unknown: string;
  width: number;
  dashed: boolean;
}) {
  const base = paintOf(colours[0]);
  const second = paintOf(colours[1]);
  const d = path(points);
  const dash = dashed ? "6 5" : undefined;
  return (
    <>
      {base && <path d={d} stroke="var(--ink)" strokeWidth={width + 1.3} strokeDasharray={dash} />}
      <path d={d} stroke={base ?? unknown} strokeWidth={width} strokeDasharray={dash} />
      {second && <path d={d} stroke={second} strokeWidth={width} strokeDasharray="4 8" />}
    </>
  );
}

function Wire({ laid, line, waiting }: { laid: LaidLine; line: Line; waiting: boolean }) {
  const count = line.strands.length;
  const width = count > 1 ? PITCH - 1.4 : (WIDTH[line.kind] ?? 2.4);
  const dashed = waiting && line.kind === "plus";
  const plugged = line.strands.some((s) => s.start.join() !== s.end.join());
  const [first, second] = halves(laid.points);
  const [mx, my] = first.at(-1) ?? [0, 0];
  const across = (first.at(-2) ?? [mx])[0] === mx;
  const room = (count * PITCH) / 2 + 3;
  return (
    <g data-line={laid.id}>
      {/* The way itself, for whoever measures the drawing. */}
      <path data-way="" d={path(laid.points)} stroke="none" />
      {line.strands.map((strand, i) => {
        const by = (i - (count - 1) / 2) * PITCH;
        const one = { unknown: UNKNOWN[line.kind] ?? "var(--ink)", width, dashed };
        if (strand.start.join() === strand.end.join())
          return <Strand key={i} points={beside(laid.points, by)} colours={strand.start} {...one} />;
        return (
          <g key={i}>
            <Strand points={beside(first, by)} colours={strand.start} {...one} />
            <Strand points={beside(second, by)} colours={strand.end} {...one} />
          </g>
        );
      })}
      {plugged && (
        <rect
          x={mx - (across ? room : 3.5)}
          y={my - (across ? 3.5 : room)}
          width={across ? 2 * room : 7}
          height={across ? 7 : 2 * room}
          rx="2"
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth="1.3"
        />
      )}
      {laid.label && (
        <text data-label={laid.id} x={laid.label.x + 3} y={laid.label.y + 11} fontSize="11.5" fill="var(--ink)">
          {laid.label.words.map((words, i) => (
            <tspan key={words} x={(laid.label?.x ?? 0) + 3} dy={i ? LINE : 0}>
              {words}
            </tspan>
          ))}
        </text>
      )}
    </g>
  );
}

function PartBox({ box, part, lit, waiting }: { box: Laid["parts"][number]; part: Part; lit: boolean; waiting: boolean }) {
  const bar = part.kind === "bar" || part.kind === "frame";
  const head = box.ports.some((port) => port.above && port.label) ? 15 : 0;
  const foot = box.ports.some((port) => !port.above && port.label) ? 15 : 0;
  const middle = box.y + head + (box.h - head - foot) / 2;
  const plain = part.kind === "pack" ? "var(--leaf-tint)" : bar ? "var(--paper)" : "var(--paper-sunk)";
  return (
    <g data-part={box.id}>
      {lit && (
        <rect
          x={box.x - 5}
          y={box.y - 5}
          width={box.w + 10}
          height={box.h + 10}
          rx="10"
          fill="none"
          stroke="var(--focus)"
          strokeWidth="3"
        />
      )}
      <rect
        x={box.x}
        y={box.y}
        width={box.w}
        height={box.h}
        rx={part.kind === "motor" ? 16 : bar ? 3 : 6}
        fill={lit ? "var(--focus-tint)" : plain}
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeDasharray={part.kind === "fuse" && waiting ? "4 3" : undefined}
      />
      <text
        x={box.x + box.w / 2}
        y={part.detail && !bar ? middle - 3 : middle + 4}
        fontSize="12"
        fontWeight="700"
        textAnchor="middle"
        fill="var(--ink)"
      >
        {decimals(part.label)}
      </text>
      {part.detail && !bar && (
        <text x={box.x + box.w / 2} y={middle + 12} fontSize="11" textAnchor="middle" fill="var(--ink)">
          {decimals(part.detail)}
        </text>
      )}
      {box.ports.map((port) =>
        port.label ? (
          <text
            key={port.id}
            x={port.x}
            y={port.above ? box.y + 12 : box.y + box.h - 5}
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
}

/** A band around each row of packs with its fuse, where there are several and no row lies in another. */
function Rows({ plan, laid }: { plan: Hookup; laid: Laid }) {
  const rows = new Map<number, Laid["parts"]>();
  for (const part of plan.drawing.parts) {
    const box = laid.parts.find((p) => p.id === part.id);
    if (part.row != null && box) rows.set(part.row, [...(rows.get(part.row) ?? []), box]);
  }
  // Words beside a wire within a row belong into its band.
  for (const line of plan.drawing.lines) {
    const owners = [line.start, line.end].map(
      (id) => plan.drawing.parts.find((p) => p.ports.some((port) => port.id === id))?.row,
    );
    const words = laid.lines.find((l) => l.id === line.id)?.label;
    const [row, other] = owners;
    if (words && row != null && row === other) rows.set(row, [...(rows.get(row) ?? []), { id: line.id, ports: [], ...words }]);
  }
  const bands = [...rows].map(([row, boxes]) => {
    const x = Math.min(...boxes.map((b) => b.x)) - 7;
    const y = Math.min(...boxes.map((b) => b.y)) - 7;
    return {
      row,
      x,
      y,
      w: Math.max(...boxes.map((b) => b.x + b.w)) + 7 - x,
      h: Math.max(...boxes.map((b) => b.y + b.h)) + 7 - y,
    };
  });
  const hit = bands.some((a) => bands.some((b) => a.row < b.row && a.x < b.x + b.w && b.x < a.x + a.w));
  if (bands.length < 2 || hit) return null;
  return (
    <g fill="none" stroke="var(--leaf)" strokeDasharray="2 4">
      {bands.map((band) => (
        <rect key={band.row} data-row={band.row} x={band.x} y={band.y} width={band.w} height={band.h} rx="12" />
      ))}
    </g>
  );
}

export function DrawingImage({
  plan,
  laid,
  step,
  done,
  tips,
  onTouch,
}: {
  plan: Hookup;
  laid: Laid;
  step?: Step | undefined;
  done: Set<string>;
  /** Where the meter's tips are put by touch, red then black. */
  tips?: Tips;
  /** A touched port, by the terminals it stands for. */
  onTouch?: (terminals: string[]) => void;
}) {
  const lines = new Map(plan.drawing.lines.map((l) => [l.id, l]));
  const parts = new Map(plan.drawing.parts.map((p) => [p.id, p]));
  const ports = new Map(plan.drawing.parts.flatMap((p) => p.ports.map((one) => [one.id, one] as const)));
  const widths = new Map(plan.drawing.lines.flatMap((l) => [l.start, l.end].map((id) => [id, l.strands.length] as const)));
  const lit = partsOf(plan, step?.blocks ?? []);
  const waiting = !done.has("main_fuse");
  const at = (terminal: string | undefined) => (terminal ? placeOf(plan, laid, terminal) : undefined);
  const [red, black] = [at(step?.reading?.red), at(step?.reading?.black)];
  // Two wires of one cable: both tips at its port, side by side.
  const apart = red && black && red.x === black.x && red.y === black.y ? 7 : 0;
  const [redTouched, blackTouched] = [at(tips?.red), at(tips?.black)];
  return (
    <>
      <Rows plan={plan} laid={laid} />
      <g fill="none" strokeLinejoin="round">
        {laid.lines.map((l) => {
          const line = lines.get(l.id);
          return line && <Wire key={l.id} laid={l} line={line} waiting={waiting} />;
        })}
      </g>
      {laid.parts.map((p) => {
        const part = parts.get(p.id);
        return part && <PartBox key={p.id} box={p} part={part} lit={lit.has(p.id)} waiting={waiting && !done.has(p.id)} />;
      })}
      {laid.parts.flatMap((p) =>
        p.ports.map((port) => (
          // biome-ignore lint/a11y/noStaticElementInteractions: the meter's two lists do the same by keys
          <rect
            key={port.id}
            data-port={port.id}
            x={port.x - 2 - (PITCH * (widths.get(port.id) ?? 1)) / 2}
            y={port.y - 4}
            width={PITCH * (widths.get(port.id) ?? 1) + 4}
            height="8"
            rx="4"
            fill="var(--paper)"
            stroke="var(--ink)"
            strokeWidth="1.4"
            className={onTouch ? "cursor-pointer" : undefined}
            onClick={onTouch && (() => onTouch(ports.get(port.id)?.terminals ?? []))}
          />
        )),
      )}
      {redTouched && <circle cx={redTouched.x} cy={redTouched.y} r="6.5" fill="none" stroke="var(--w-red)" strokeWidth="3" />}
      {blackTouched && (
        <circle cx={blackTouched.x} cy={blackTouched.y} r="9" fill="none" stroke="var(--w-black)" strokeWidth="2.4" />
      )}
      {red && <path d={`M${red.x - apart} ${red.y - 4}l-6-14h12Z`} fill="var(--w-red)" stroke="var(--ink)" />}
      {black && <path d={`M${black.x + apart} ${black.y - 4}l-6-14h12Z`} fill="var(--w-black)" stroke="var(--ink)" />}
    </>
  );
}
