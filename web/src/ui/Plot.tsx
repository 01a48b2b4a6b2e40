/** A small plot: axes, lines, areas, marks and words at the place where they matter. It only draws what the core computed. */
import { scaleLinear, scaleLog } from "d3-scale";
import { area, line } from "d3-shape";
import { decimals } from "../texts/locale";
import { Fit } from "./Fit";

export interface Line {
  x: number[];
  y: number[];
  colour?: string;
  dash?: string;
  width?: number;
}
export interface Band {
  x: number[];
  low: number[];
  high: number[];
  colour?: string;
  opacity?: number;
}
export interface Zone {
  x0?: number;
  x1?: number;
  y0?: number;
  y1?: number;
  colour: string;
  opacity?: number;
  edge?: boolean;
}
export interface MarkPoint {
  x: number;
  y: number;
  text?: string;
  colour?: string;
  filled?: boolean;
  half?: number;
  anchor?: "start" | "middle" | "end";
  dy?: number;
  dx?: number;
}
export interface Words {
  x: number;
  y: number;
  text: string;
  colour?: string;
  anchor?: "start" | "middle" | "end";
  bold?: boolean;
}

interface Props {
  title: string;
  xLabel: string;
  yLabel: string;
  x: [number, number];
  y: [number, number];
  lines?: Line[];
  bands?: Band[];
  zones?: Zone[];
  marks?: MarkPoint[];
  words?: Words[];
  log?: boolean;
  width?: number;
  height?: number;
  format?: (value: number) => string;
  /** Where the lower axis is marked, and how: for times, whose round numbers are no round days. */
  xTicks?: number[];
  xFormat?: (value: number) => string;
}

function Drawing({
  title,
  xLabel,
  yLabel,
  x,
  y,
  lines = [],
  bands = [],
  zones = [],
  marks = [],
  words = [],
  log = false,
  width = 360,
  height = 220,
  format,
  xTicks,
  xFormat,
}: Props) {
  const left = 40;
  const right = 12;
  const top = 20;
  const bottom = 36;
  const make = (domain: [number, number], range: [number, number]) =>
    (log ? scaleLog() : scaleLinear()).domain(domain).range(range).clamp(true);
  const sx = make(x, [left, width - right]);
  const sy = make(y, [height - bottom, top]);
  const ticks = (scale: typeof sx, count: number) => {
    const all = scale.ticks(count);
    return log
      ? all.filter((v) => /^[125]?0*$|^1$|^0\.0*1$|^[25]0*$/.test(String(v)) && (count > 4 || Math.log10(v) % 1 === 0))
      : all;
  };
  const short = (v: number) =>
    Math.abs(v) >= 1000 ? `${decimals(String(v / 1000))}k` : decimals(String(Number(v.toPrecision(3))));
  const say = format ?? short;
  const path = line<number>();
  return (
    <figure className="min-w-0">
      <svg viewBox={`0 0 ${width} ${height}`} className="block h-auto w-full" role="img" aria-label={title}>
        {zones.map((z, i) => {
          const [a, b] = [sx(z.x0 ?? x[0]), sx(z.x1 ?? x[1])];
          const [c, d] = [sy(z.y1 ?? y[1]), sy(z.y0 ?? y[0])];
          return (
            <rect
              key={i}
              x={a}
              y={c}
              width={Math.max(b - a, 0)}
              height={Math.max(d - c, 0)}
              fill={z.colour}
              opacity={z.opacity ?? 0.5}
              stroke={z.edge ? z.colour : "none"}
            />
          );
        })}
        {ticks(sy, 5).map((v) => (
          <g key={v}>
            <line x1={left} x2={width - right} y1={sy(v)} y2={sy(v)} stroke="var(--line)" strokeWidth=".8" />
            <text x={left - 6} y={sy(v) + 4} textAnchor="end" fontSize="11">
              {say(v)}
            </text>
          </g>
        ))}
        {(xTicks ?? ticks(sx, 6)).map((v) => (
          <g key={v}>
            <line x1={sx(v)} x2={sx(v)} y1={height - bottom} y2={height - bottom + 4} stroke="var(--ink)" />
            <text x={sx(v)} y={height - bottom + 16} textAnchor="middle" fontSize="11">
              {(xFormat ?? say)(v)}
            </text>
          </g>
        ))}
        <path d={`M${left} ${top}V${height - bottom}H${width - right}`} fill="none" stroke="var(--ink)" strokeWidth="1.3" />
        <text x={left} y={12} fontSize="11" style={{ fill: "var(--ink-2)" }} textAnchor="start">
          {yLabel}
        </text>
        <text x={(left + width - right) / 2} y={height - 4} fontSize="11" textAnchor="middle" style={{ fill: "var(--ink-2)" }}>
          {xLabel}
        </text>
        {bands.map((b, i) => (
          <path
            key={i}
            fill={b.colour ?? "var(--leaf)"}
            opacity={b.opacity ?? 0.22}
            d={
              area<number>()
                .x((_, k) => sx(b.x[k] ?? 0))
                .y0((_, k) => sy(b.low[k] ?? 0))
                .y1((_, k) => sy(b.high[k] ?? 0))(b.x) ?? ""
            }
          />
        ))}
        {lines.map((l, i) => (
          <path
            key={i}
            fill="none"
            stroke={l.colour ?? "var(--leaf-deep)"}
            strokeWidth={l.width ?? 2}
            strokeDasharray={l.dash}
            d={path.x((_, k) => sx(l.x[k] ?? 0)).y((_, k) => sy(l.y[k] ?? 0))(l.x) ?? ""}
          />
        ))}
        {marks.map((m, i) => (
          <g key={i}>
            {m.half !== undefined && (
              <path
                d={`M${sx(m.x) - 4} ${sy(m.y + m.half)}h8M${sx(m.x)} ${sy(m.y + m.half)}V${sy(m.y - m.half)}m-4 0h8`}
                stroke={m.colour ?? "var(--ink)"}
                strokeWidth="1.4"
              />
            )}
            <circle
              cx={sx(m.x)}
              cy={sy(m.y)}
              r={5}
              fill={m.filled === false ? "var(--card)" : (m.colour ?? "var(--ink)")}
              stroke={m.colour ?? "var(--ink)"}
              strokeWidth="2"
            />
            {m.text && (
              <text
                x={sx(m.x) + (m.dx ?? 0)}
                y={sy(m.y) + (m.dy ?? -10)}
                textAnchor={m.anchor ?? "middle"}
                fontSize="12"
                fontWeight="700"
                stroke="var(--card)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {m.text}
              </text>
            )}
          </g>
        ))}
        {words.map((w, i) => (
          <text
            key={i}
            x={sx(w.x)}
            y={sy(w.y)}
            textAnchor={w.anchor ?? "start"}
            fontSize="11.5"
            fontWeight={w.bold ? 700 : 500}
            style={{ fill: w.colour ?? "var(--ink)" }}
            stroke="var(--card)"
            strokeWidth="3"
            paintOrder="stroke"
          >
            {w.text}
          </text>
        ))}
      </svg>
    </figure>
  );
}

/** The plot at the width of its place. */
export function Plot(props: Omit<Props, "width">) {
  return <Fit>{(width) => <Drawing {...props} width={width} />}</Fit>;
}
