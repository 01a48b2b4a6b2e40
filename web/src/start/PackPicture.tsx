/** Packs as they stand: side by side between two bars, or in a row. */

const WIDE = 22;
const TALL = 34;

function Pack({ x, y, cells }: { x: number; y: number; cells: number }) {
  const across = cells > 6 ? 3 : 2;
  const down = Math.min(Math.ceil(cells / across), 4);
  const [w, h] = [(WIDE - 6) / across - 1.5, (TALL - 10) / down - 1.5];
  return (
    <g transform={`translate(${x} ${y})`}>
      <rect x={WIDE / 2 - 4} y={0} width={8} height={4} rx={1.2} fill="var(--ink)" />
      <rect
        x={0.8}
        y={3}
        width={WIDE - 1.6}
        height={TALL - 4}
        rx={3.5}
        fill="var(--leaf-tint)"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      {Array.from({ length: Math.min(cells, across * down) }, (_, i) => (
        <rect
          key={i}
          x={3.5 + (i % across) * (w + 1.5)}
          y={7 + Math.floor(i / across) * (h + 1.5)}
          width={w}
          height={h}
          rx={1}
          fill="var(--leaf)"
        />
      ))}
    </g>
  );
}

export function PackPicture({
  rows,
  series,
  cells,
  loose = false,
}: {
  rows: number;
  series: number;
  cells: number;
  /** On the shelf, not joined yet. */
  loose?: boolean;
}) {
  const columns = rows === 1 ? series : rows;
  const lines = rows === 1 ? 1 : Math.min(series, 2);
  const width = columns * (WIDE + 6) + 14;
  const height = lines * (TALL + 4) + 10;
  const joined = !loose && rows * series > 1;
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true" className="flex-none">
      {joined && rows > 1 && (
        <>
          <path d={`M2 2h${width - 4}`} stroke="var(--w-red)" strokeWidth={3.5} />
          <path d={`M2 ${height - 2}h${width - 4}`} stroke="var(--w-black)" strokeWidth={3.5} />
        </>
      )}
      {joined && rows === 1 && (
        <>
          <path d={`M3 ${height / 2}h${width - 6}`} stroke="var(--ink)" strokeWidth={2} />
          <path d={`M2 ${height / 2 - 8}v16`} stroke="var(--w-black)" strokeWidth={3.5} />
          <path d={`M${width - 2} ${height / 2 - 8}v16`} stroke="var(--w-red)" strokeWidth={3.5} />
        </>
      )}
      {Array.from({ length: columns * lines }, (_, i) => (
        <Pack key={i} x={10 + (i % columns) * (WIDE + 6)} y={5 + Math.floor(i / columns) * (TALL + 4)} cells={cells} />
      ))}
    </svg>
  );
}
