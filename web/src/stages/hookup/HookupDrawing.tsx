/** The hookup's drawing, laid out from the blocks and wires the core gives: packs on top, motors below, minus bar at the right. */
import type { Hookup, Step } from "../../api/client";

const W = 116;
const H = 40;

export function HookupDrawing({ plan, step, done }: { plan: Hookup; step: Step | undefined; done: Set<string> }) {
  const layers = [...new Set(plan.blocks.map((b) => b.layer))].sort((a, b) => a - b);
  const place = new Map<string, { x: number; y: number; w: number; h: number }>();
  const rows = plan.rows;
  const signals = plan.blocks.some((b) => b.kind === "throttle" || b.kind === "brake");
  // The levers' plugs sit left of the controller, so a short bank moves to the right to make room.
  const left = signals && rows < 3 ? 28 + (3 - rows) * 62 : 28;
  const width = Math.max(left + rows * (W + 14) + 42, 380);
  const spine = left + ((rows - 1) * (W + 14)) / 2 + W / 2;
  let y = 44;
  for (const layer of layers) {
    const blocks = plan.blocks.filter((b) => b.layer === layer);
    if (layer === 2) y += 16;
    for (const b of blocks) {
      const fuse = b.kind === "fuse";
      const w = fuse ? 62 : b.kind === "controller" || b.kind === "pedal switch" ? 150 : W;
      const h = fuse ? 26 : H;
      const perRow = layer <= 1;
      const motors = b.kind === "motor";
      const side = (b.kind === "throttle" || b.kind === "brake") && layer === 5;
      const x = perRow
        ? left + b.column * (W + 14) + (W - w) / 2
        : motors
          ? spine - ((blocks.length - 1) * (W + 10)) / 2 + b.column * (W + 10) - w / 2
          : side
            ? Math.max(spine - 75 - 92, 4)
            : spine - w / 2;
      place.set(b.id, { x: side ? x : x, y: side ? y + (b.column - 1) * 34 - 6 : y, w: side ? 74 : w, h: side ? 28 : h });
    }
    y += (layer === 1 ? 26 : H) + (layer === 6 ? 0 : 24);
  }
  const height = y + 18;
  const bar = place.get("row0") ? 44 + H + (layers.includes(1) ? 24 + 26 : 0) + 20 : 100;
  const busRight = width - 22;
  const load = place.get("controller") ?? place.get("pedal_switch");
  const motors = plan.blocks.filter((b) => b.kind === "motor");
  const chain = plan.blocks.filter((b) => b.layer >= 2 && b.layer <= 5 && b.kind !== "throttle" && b.kind !== "brake");
  const lit = new Set(step?.blocks ?? []);
  const reading = step?.reading;
  const centre = (id: string) => {
    if (id === "plus_bar") return { x: spine - 14, y: bar + 2 };
    if (id === "minus_bar") return { x: busRight - 80, y: 26 };
    const p = place.get(id);
    return p ? { x: p.x + p.w / 2, y: p.y + 2 } : undefined;
  };
  const red = reading ? centre(reading.nodes[0] ?? "") : undefined;
  const black = reading ? centre(reading.nodes[1] ?? "") : undefined;
  const label = plan.wires.find((w) => w.end === "controller.battery +" || w.end === "pedal_switch.in")?.label ?? "";
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="mx-auto block h-auto w-full"
      style={{ maxWidth: width }}
      role="img"
      aria-label={`Drawing of the hookup${step ? `, now: ${step.title}` : ""}`}
    >
      <path
        d={`M${left} 24H${busRight}V${(load?.y ?? height) + H / 2}${load ? `H${load.x + load.w}` : ""}`}
        fill="none"
        stroke="var(--w-black)"
        strokeWidth="4.5"
      />
      <text x={busRight - 4} y={18} fontSize="11.5" textAnchor="end">
        minus bar
      </text>
      {Array.from({ length: rows }, (_, r) => {
        const pack = place.get(`row${r}`);
        const fuse = place.get(`row_fuse${r}`);
        if (!pack) return null;
        const x = pack.x + pack.w / 2;
        return (
          <g key={r}>
            <path d={`M${x} 24V${pack.y}`} stroke="var(--w-black)" strokeWidth="4" />
            <path
              d={`M${x} ${pack.y + pack.h}V${bar}`}
              stroke="var(--w-red)"
              strokeWidth="4"
              strokeDasharray={done.has(`join${r}`) ? undefined : "5 5"}
            />
            {fuse && <path d={`M${x} ${fuse.y}v${fuse.h}`} stroke="var(--card)" strokeWidth="4" />}
          </g>
        );
      })}
      {rows > 1 && (
        <path
          d={`M${left + W / 2 - 12} ${bar}H${left + (rows - 1) * (W + 14) + W / 2 + 12}`}
          stroke="var(--w-red)"
          strokeWidth="5"
        />
      )}
      <text x={spine + 8} y={bar + 14} fontSize="11.5">
        plus bar
      </text>
      {load && <path d={`M${spine} ${bar}V${load.y}`} stroke="var(--w-red)" strokeWidth="4.5" />}
      {load && label && (
        <text x={spine + 8} y={load.y - 6} fontSize="11.5">
          {label}
        </text>
      )}
      {load &&
        motors.map((m, i) => {
          const p = place.get(m.id);
          if (!p) return null;
          const from = load.y + load.h;
          const middle = from + 10;
          return (
            <g key={m.id} fill="none" stroke="var(--ink-2)" strokeWidth="3">
              <path d={`M${spine - 22} ${from}V${middle}H${p.x + p.w / 2 - 12}V${p.y}`} />
              <path d={`M${spine + 22} ${from}V${middle + 6}H${p.x + p.w / 2 + 12}V${p.y}`} />
              {i === 0 && (
                <text x={spine - 30} y={from + 12} fontSize="11.5" textAnchor="end" stroke="none">
                  M+
                </text>
              )}
              {i === 0 && (
                <text x={spine + 30} y={from + 12} fontSize="11.5" stroke="none">
                  M−
                </text>
              )}
            </g>
          );
        })}
      {plan.blocks
        .filter((b) => b.kind === "throttle" || b.kind === "brake")
        .map((b) => {
          const p = place.get(b.id);
          return (
            p &&
            load && (
              <path key={b.id} d={`M${p.x + p.w} ${p.y + p.h / 2}H${load.x}`} stroke="var(--amber-line)" strokeWidth="2.4" />
            )
          );
        })}
      {plan.blocks.map((b) => {
        const p = place.get(b.id);
        if (!p) return null;
        const on = lit.has(b.id);
        const isDone = [...done].some((d) => d === b.id || (d === `join${b.id.replace(/\D/g, "")}` && b.kind === "pack"));
        return (
          <g key={b.id}>
            {on && (
              <rect
                x={p.x - 7}
                y={p.y - 7}
                width={p.w + 14}
                height={p.h + 14}
                rx="10"
                fill="var(--focus-tint)"
                stroke="var(--focus)"
                strokeWidth="2"
              />
            )}
            <rect
              x={p.x}
              y={p.y}
              width={p.w}
              height={p.h}
              rx={b.kind === "motor" ? 20 : 6}
              fill={b.kind === "pack" ? "var(--leaf-tint)" : "var(--paper-sunk)"}
              stroke="var(--ink)"
              strokeWidth="1.7"
              strokeDasharray={b.kind === "fuse" && !isDone ? "4 3" : undefined}
            />
            <text x={p.x + p.w / 2} y={p.y + (p.h > 30 ? 17 : p.h / 2 + 4)} fontSize="12" fontWeight="700" textAnchor="middle">
              {b.label}
            </text>
            {p.h > 30 && (
              <text x={p.x + p.w / 2} y={p.y + 31} fontSize="11" textAnchor="middle">
                {b.detail.length > p.w / 5.4 ? `${b.detail.slice(0, Math.floor(p.w / 5.6))}…` : b.detail}
              </text>
            )}
          </g>
        );
      })}
      {chain.length > 0 && <circle cx={spine} cy={bar} r="5" fill="var(--ink)" />}
      {red && black && reading && (
        <g>
          <path d={`M${red.x - 18} ${red.y}l-5-13h10Z`} fill="var(--w-red)" stroke="var(--ink)" />
          <path d={`M${black.x + 18} ${black.y}l-5-13h10Z`} fill="var(--w-black)" stroke="var(--ink)" />
        </g>
      )}
    </svg>
  );
}
