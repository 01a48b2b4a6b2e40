/** The trail's ribbon: its width is the headroom. It swells where a part has room and pinches at the weak link. */
import { area, curveMonotoneX, curveMonotoneY } from "d3-shape";
import { Fragment, memo } from "react";

export interface RibbonStation {
  share?: number | null;
  state: string;
  weak?: boolean;
}

const half = (share: number | null | undefined) => Math.max(3.5, 5 + 33 * (1 - Math.min(share ?? 0.45, 1.2))) / 2;
const TINT: Record<string, string> = { over: "var(--hot)", close: "var(--amber)" };

function Mark({ x, y, station }: { x: number; y: number; station: RibbonStation }) {
  if (station.state === "over")
    return (
      <g transform={`translate(${x - 8} ${y - 8})`}>
        <path d="M5 .7h6L15.3 5v6L11 15.3H5L.7 11V5Z" fill="var(--hot-deep)" />
        <path d="M5.2 5.2l5.6 5.6M10.8 5.2l-5.6 5.6" stroke="var(--card)" strokeWidth="1.9" />
      </g>
    );
  if (station.state === "close")
    return (
      <g transform={`translate(${x - 8} ${y - 8})`}>
        <path d="M8 1 15.6 14.6H.4Z" fill="var(--amber)" stroke="var(--amber-line)" strokeWidth=".8" />
        <path d="M8 5.6v4.2M8 11.6v1.5" stroke="#1c211d" strokeWidth="1.7" />
      </g>
    );
  const dashed = station.state === "unknown" ? { strokeDasharray: "2.4 2" } : {};
  return <circle cx={x} cy={y} r={station.weak ? 6.5 : 5} fill="var(--card)" stroke="var(--ink)" strokeWidth="1.8" {...dashed} />;
}

/** The colours along the ribbon: leaf, and the tint of what is close or over at its place. */
function Stops({ stations }: { stations: RibbonStation[] }) {
  const edge = 0.42 / stations.length;
  return stations.map((s, i) => {
    const middle = (i + 0.5) / stations.length;
    const tint = TINT[s.state];
    if (!tint) return <stop key={i} offset={middle} stopColor="var(--leaf)" />;
    return (
      <Fragment key={i}>
        <stop offset={middle - edge} stopColor="var(--leaf)" />
        <stop offset={middle} stopColor={tint} />
        <stop offset={middle + edge} stopColor="var(--leaf)" />
      </Fragment>
    );
  });
}

/** Upright: one station every `step` px. */
export const UprightRibbon = memo(function UprightRibbon({ stations, step }: { stations: RibbonStation[]; step: number }) {
  const height = stations.length * step;
  const points = [
    { y: 0, w: half(stations[0]?.share) },
    ...stations.map((s, i) => ({ y: (i + 0.5) * step, w: half(s.share) })),
    { y: height, w: half(stations.at(-1)?.share) },
  ];
  const shape = area<{ y: number; w: number }>()
    .y((p) => p.y)
    .x0((p) => 26 - p.w)
    .x1((p) => 26 + p.w)
    .curve(curveMonotoneY)(points);
  return (
    <svg width="52" height={height} className="pointer-events-none absolute top-0 left-0 z-[2]" aria-hidden="true">
      <defs>
        <linearGradient id="ribbon-up" x1="0" x2="0" y1="0" y2="1">
          <Stops stations={stations} />
        </linearGradient>
      </defs>
      <path d={shape ?? ""} fill="url(#ribbon-up)" className="ease" />
      {stations.map((s, i) => (
        <Mark key={i} x={26} y={(i + 0.5) * step} station={s} />
      ))}
    </svg>
  );
});

/** Sideways: stretched over the width. */
export const SideRibbon = memo(function SideRibbon({
  stations,
  id,
  tall = 40,
}: {
  stations: RibbonStation[];
  id: string;
  tall?: number;
}) {
  if (stations.length === 0) return <div className="h-10 rounded border border-dashed border-strong" />;
  const width = 640;
  const step = width / stations.length;
  const scale = tall / 44;
  const points = [
    { x: 0, w: half(stations[0]?.share) * scale },
    ...stations.map((s, i) => ({ x: (i + 0.5) * step, w: half(s.share) * scale })),
    { x: width, w: half(stations.at(-1)?.share) * scale },
  ];
  const shape = area<{ x: number; w: number }>()
    .x((p) => p.x)
    .y0((p) => tall / 2 - p.w)
    .y1((p) => tall / 2 + p.w)
    .curve(curveMonotoneX)(points);
  return (
    <svg viewBox={`0 0 ${width} ${tall}`} className="block h-auto w-full" aria-hidden="true">
      <defs>
        <linearGradient id={`ribbon-${id}`}>
          <Stops stations={stations} />
        </linearGradient>
      </defs>
      <path d={shape ?? ""} fill={`url(#ribbon-${id})`} />
      {stations.map((s, i) => (
        <Mark key={i} x={(i + 0.5) * step} y={tall / 2} station={s} />
      ))}
    </svg>
  );
});
