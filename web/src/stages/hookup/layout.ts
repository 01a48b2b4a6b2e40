/** Lays the hookup out: parts in layers from the packs down, wires at right angles, labels beside them. Runs in a worker of its own. */
import type { ElkExtendedEdge, ElkNode, ElkPort } from "elkjs/lib/elk-api";
import type { Hookup } from "../../api/client";

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
  points: [number, number][];
  label: Box | undefined;
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
  "elk.spacing.edgeEdge": "12",
  "elk.spacing.edgeLabel": "4",
  "elk.layered.spacing.edgeNodeBetweenLayers": "12",
  "elk.layered.spacing.edgeEdgeBetweenLayers": "12",
  "elk.layered.nodePlacement.strategy": "NETWORK_SIMPLEX",
  "elk.padding": "[top=18,left=8,bottom=8,right=8]",
};
const FOOT = 15;

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
  const labels = line.label ? [{ id: `${line.id}#`, text: line.label, width: wide(line.label), height: 14 }] : [];
  return { id: line.id, sources: [line.start], targets: [line.end], labels };
}

export async function layOut(drawing: Drawing): Promise<Laid> {
  const [{ default: Elk }, { default: workerUrl }] = await Promise.all([
    import("elkjs/lib/elk-api"),
    import("elkjs/lib/elk-worker.min.js?url"),
  ]);
  const elk = new Elk({ workerUrl });
  try {
    const found = await elk.layout({
      id: "drawing",
      layoutOptions: OPTIONS,
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
  const lines = (found.edges ?? []).map((e) => {
    const s = e.sections?.[0];
    const points = s ? [s.startPoint, ...(s.bendPoints ?? []), s.endPoint].map((p): [number, number] => [p.x, p.y]) : [];
    const label = e.labels?.[0];
    return {
      id: e.id,
      points,
      label: label && { x: label.x ?? 0, y: label.y ?? 0, w: label.width ?? 0, h: label.height ?? 0 },
    };
  });
  return { width: found.width ?? 0, height: found.height ?? 0, parts, lines };
}
