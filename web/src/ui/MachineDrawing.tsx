/** A plain drawing of each family. */
const WHEEL = (x: number, r: number) => (
  <g key={x}>
    <circle cx={x} cy={84 - r} r={r} fill="var(--card)" stroke="var(--ink)" strokeWidth="2.2" />
    <circle cx={x} cy={84 - r} r={r * 0.35} fill="var(--paper-sunk)" stroke="var(--ink)" strokeWidth="1.4" />
  </g>
);
const BODY = {
  fill: "var(--leaf-tint)",
  stroke: "var(--ink)",
  strokeWidth: 2,
  strokeLinejoin: "round" as const,
  strokeLinecap: "round" as const,
};

const SHAPES: Record<string, { body: string; frame: string; wheels: [number, number][] }> = {
  "ride-on car": {
    body: "M14 60l6-16 34-4 12-14h30l14 16 22 6 6 14H14Z",
    frame: "M54 40 64 18h30l12 22M94 18l-4 22",
    wheels: [
      [36, 18],
      [106, 18],
    ],
  },
  "small dirt bike": {
    body: "M48 40l30-6 10 8-10 16H58Z",
    frame: "M34 62 58 44 84 40 104 64M84 40 92 20h12M48 38 30 34",
    wheels: [
      [32, 21],
      [106, 21],
    ],
  },
  quad: {
    body: "M18 52c6-14 22-18 36-16l14 6 20-8c14 0 26 6 32 18l-20 2H40Z",
    frame: "M78 34 90 16h10M40 34l-14-4",
    wheels: [
      [36, 20],
      [104, 20],
    ],
  },
  scooter: {
    body: "M40 68h58v7H40Z",
    frame: "M98 70 112 70 102 14h-12M102 14h10M40 70H30",
    wheels: [
      [30, 12],
      [114, 12],
    ],
  },
  kart: {
    body: "M16 62h104l8 8H12Z",
    frame: "M46 62 54 40h14l6 22M92 62l8-20 8 2",
    wheels: [
      [32, 15],
      [108, 15],
    ],
  },
  "mini bike": {
    body: "M44 48h44l-6 16H52Z",
    frame: "M36 66 52 40h38l16 26M90 40l4-22h12M34 38h22",
    wheels: [
      [34, 19],
      [108, 19],
    ],
  },
  transplant: {
    body: "M14 58V36h46v22Zm46 0V26h26l16 18 24 4v10Z",
    frame: "M66 42V32h16l10 12",
    wheels: [
      [36, 17],
      [104, 17],
    ],
  },
};

export function MachineDrawing({ family, width = 140 }: { family: string; width?: number }) {
  const shape = SHAPES[family] ?? SHAPES.kart!;
  return (
    <svg viewBox="0 0 140 90" width={width} className="h-auto max-w-full" aria-hidden="true">
      <path d="M4 85h132" stroke="var(--line-strong)" strokeWidth="1.5" />
      <path d={shape.frame} fill="none" stroke="var(--ink)" strokeWidth="2.4" strokeLinecap="round" strokeLinejoin="round" />
      <path d={shape.body} {...BODY} />
      {shape.wheels.map(([x, r]) => WHEEL(x, r))}
    </svg>
  );
}
