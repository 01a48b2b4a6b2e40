/** Lays the hookup out: parts in layers from the packs down, wires at right angles, labels beside them. Runs in a worker of its own. */
import type { ElkExtendedEdge, ElkNode, ElkPort } from "elkjs/lib/elk-api";
import type { Hookup } from "../../api/client";
import type { Point } from "./wires";

export type Drawing = Hookup["drawing"];
export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}
export interface LaidPart extends Box {
  id: string;
  ports: { id: string; x: number; y: number; label: string; above: boolean }[];
}
export interface LaidLine {
  id: string;
  points: Point[];
  label: (Box & { words: string[] }) | undefined;
}
export interface Laid {
  width: number;
  height: number;
  parts: LaidPart[];
  lines: LaidLine[];
}

/** Widths of words at 12 px: wide enough for either of our faces. */
const wide = (text: string, px = 6.6) => Math.ceil(text.length * px) + 6;
const OPTIONS = {
  "elk.algorithm": "layered",
  "elk.direction": "DOWN",
  "elk.edgeRouting": "ORTHOGONAL",
  "elk.layered.spacing.nodeNodeBetweenLayers": "20",
  "elk.layered.considerModelOrder.strategy": "NODES_AND_EDGES",
  "elk.spacing.nodeNode": "14",
  "elk.spacing.edgeNode": "12",
  "elk.spacing.edgeLabel": "4",
  "elk.layered.nodePlacement.strategy": "NETWORK_SIMPLEX",
  "elk.padding": "[top=18,left=8,bottom=8,right=8]",
};
const FOOT = 15;
/** Height of a line of words beside a wire, and how far apart the wires of a cable run. */
export const LINE = 13;
export const PITCH = 4;

function node(part: Drawing["parts"][number]): ElkNode {
  const across = (above: boolean) =>
    part.ports.filter((p) => (p.side === "above") === above).reduce((sum, p) => sum + Math.max(wide(p.label, 6.2), 22) + 6, 0);
  const bar = part.kind === "bar" || part.kind === "frame";
  const words = Math.max(wide(part.label, 7), wide(part.detail, 5.8)) + 8;
  const named = (above: boolean) => part.ports.some((p) => (p.side === "above") === above && p.label);
  const height = bar ? 26 : (part.detail ? 40 : 26) + (named(true) ? FOOT : 0) + (named(false) ? FOOT : 0);
  const ports: ElkPort[] = part.ports.map((p) => ({
    id: p.id,
    width: 1,
    height: 1,
    layoutOptions: { "elk.port.side": p.side === "above" ? "NORTH" : "SOUTH" },
  }));
  return {
    id: part.id,
    width: Math.max(across(true), across(false), words, bar ? 90 : 58),
    height,
    ports,
    layoutOptions: { "elk.portConstraints": "FIXED_SIDE", "elk.spacing.portPort": "40" },
  };
}

function edge(line: Drawing["lines"][number]): ElkExtendedEdge {
  const labels = line.label.length
    ? [
        {
          id: `${line.id}#`,
          text: line.label.join("\n"),
          // Half a cable's width to spare on either side: the layout puts words right beside a way without width.
          width: Math.max(...line.label.map((one) => wide(one))) + PITCH * (line.strands.length - 1),
          height: LINE * line.label.length + 1,
        },
      ]
    : [];
  return { id: line.id, sources: [line.start], targets: [line.end], labels };
}

/** Room between ways, middle to middle: the widest cable beside its like, and a gap. The layout knows ways without width. */
function roomFor(drawing: Drawing): Record<string, string> {
  const widest = Math.max(1, ...drawing.lines.map((line) => line.strands.length)) * PITCH;
  return {
    "elk.spacing.edgeEdge": String(Math.max(12, widest + 4)),
    "elk.layered.spacing.edgeEdgeBetweenLayers": String(Math.max(12, widest + 4)),
    "elk.layered.spacing.edgeNodeBetweenLayers": String(Math.max(12, widest / 2 + 8)),
  };
}

/** Words beside the wires are laid out as the reader has his units: `words` turns a line's into those. */
export async function layOut(plan: Drawing, words: (text: string) => string): Promise<Laid> {
  const drawing = { ...plan, lines: plan.lines.map((line) => ({ ...line, label: line.label.map(words) })) };
  const [{ default: Elk }, { default: workerUrl }] = await Promise.all([
    import("elkjs/lib/elk-api"),
    import("elkjs/lib/elk-worker.min.js?url"),
  ]);
  const elk = new Elk({ workerUrl });
  try {
    const found = await elk.layout({
      id: "drawing",
      layoutOptions: { ...OPTIONS, ...roomFor(drawing) },
      children: drawing.parts.map(node),
      edges: drawing.lines.map(edge),
    });
    return read(found, drawing);
  } finally {
    elk.terminateWorker();
  }
}

function read(found: ElkNode, drawing: Drawing): Laid {
  const words = new Map(drawing.parts.flatMap((part) => part.ports.map((p) => [p.id, p] as const)));
  const parts = (found.children ?? []).map((n) => {
    const [x, y] = [n.x ?? 0, n.y ?? 0];
    return {
      id: n.id,
      x,
      y,
      w: n.width ?? 0,
      h: n.height ?? 0,
      ports: (n.ports ?? []).map((p) => ({
        id: p.id,
        x: x + (p.x ?? 0) + 0.5,
        y: y + (p.y ?? 0) + 0.5,
        label: words.get(p.id)?.label ?? "",
        above: words.get(p.id)?.side === "above",
      })),
    };
  });
  const asked = new Map(drawing.lines.map((line) => [line.id, line]));
  const lines = (found.edges ?? []).map((e) => {
    const s = e.sections?.[0];
    const points = s ? [s.startPoint, ...(s.bendPoints ?? []), s.endPoint].map((p): Point => [p.x, p.y]) : [];
    const label = e.labels?.[0];
    return {
      id: e.id,
      points,
      label: label && {
        x: (label.x ?? 0) + (PITCH * ((asked.get(e.id)?.strands.length ?? 1) - 1)) / 2,
        y: label.y ?? 0,
        w: label.width ?? 0,
        h: label.height ?? 0,
        words: asked.get(e.id)?.label ?? [],
      },
    };
  });
  return { width: found.width ?? 0, height: found.height ?? 0, parts, lines };
}
