/** The bank as it lies on the bench, drawn from the document. */
import type { Evaluation } from "../../api/client";
import { MOST_ROWS, type Row } from "../../lib/rows";
import { benchDrawing as say } from "../../texts/power";
import { plainNumber } from "../../texts/units";

/** The bench with two axes: to the right more amp-hours and amps, upward more volts. */
export function BenchDrawing({
  width,
  rows,
  evaluation,
  onSeries,
  onRow,
}: {
  width: number;
  rows: Row[];
  evaluation: Evaluation | undefined;
  onSeries: () => void;
  onRow: () => void;
}) {
  const count = rows.length;
  const series = Math.max(...rows.map((r) => r.units.length), 1);
  const volts = evaluation?.bank?.nominal_v ?? 0;
  const own = evaluation?.bank?.units_v;
  const together = evaluation?.bank?.capacity_ah ?? 0;
  const more = evaluation?.bank?.one_more_in_series;
  const w = Math.max(34, Math.min(96, (width - 182) / count - 12));
  const h = Math.min(92, 132 / series);
  const x0 = 56;
  const base = 214;
  const y0 = base - series * (h + 8);
  return (
    <svg
      viewBox={`0 0 ${width} 262`}
      className="block h-auto w-full"
      role="group"
      aria-label={say.ofVoltsAmpHours(count, series, volts, together)}
    >
      <path d={`M34 232V20m-5 8 5-8 5 8M34 240H${width - 8}m-8-5 8 5-8 5`} fill="none" stroke="var(--ink-2)" strokeWidth="1.4" />
      <text x="20" y="190" fontSize="11.5" transform="rotate(-90 20 190)">
        {say.inARowMore}
      </text>
      <text x={width / 2} y="257" fontSize="11.5" textAnchor="middle">
        {say.sideBySideMore}
      </text>
      <rect x={x0 - 8} y={y0 - 12} width={count * (w + 12) + 12} height="5" fill="var(--w-red)" />
      <text x={x0 + count * (w + 12) + 10} y={y0 - 6} fontSize="15" fontWeight="700">
        +
      </text>
      <rect x={x0 - 8} y={base + 6} width={count * (w + 12) + 12} height="5" fill="var(--w-black)" />
      <text x={x0 + count * (w + 12) + 10} y={base + 14} fontSize="15" fontWeight="700">
        −
      </text>
      {rows.map((row, r) => {
        const x = x0 + r * (w + 12);
        return (
          <g key={r}>
            <path d={`M${x + w / 2} ${y0 - 8}V${base + 8}`} stroke="var(--ink)" strokeWidth="4" />
            {row.units.map((u, i) => {
              const y = base - (i + 1) * (h + 8) + 4;
              const resting = u.resting_v?.value;
              const label = own?.[r]?.[i];
              // On a narrow pack the volts stand below the cells, not beside the row's letter.
              const below = w < 74 && h > 60;
              const [deep, tall] = below ? [h - 44, h - 48] : [h - 30, h - 34];
              const cells = Math.min(Number(u.cells_in_series ?? 1), 10);
              return (
                <g key={i}>
                  <rect x={x} y={y} width={w} height={h} rx="7" fill="var(--leaf-tint)" stroke="var(--ink)" strokeWidth="1.8" />
                  <text x={x + 8} y={y + 15} fontSize="12.5" fontWeight="700">
                    {String.fromCharCode(65 + r)}
                    {series > 1 ? i + 1 : ""}
                  </text>
                  <text
                    x={below ? x + w / 2 : x + w - (u.rack?.letter ? 17 : 7)}
                    y={below ? y + h - 6 : y + 15}
                    fontSize={below && w < 54 ? "10.5" : "11.5"}
                    textAnchor={below ? "middle" : "end"}
                  >
                    {typeof resting === "number" ? `${resting} V` : label === undefined ? "" : `${plainNumber(label)} V`}
                  </text>
                  {u.rack?.letter && (
                    // The sticker on the pack itself; the letter inside is its row's.
                    <g>
                      <title>{say.sticker(u.rack.letter)}</title>
                      <rect
                        x={x + w - 13}
                        y={y - 5}
                        width="18"
                        height="18"
                        rx="4"
                        fill="var(--card)"
                        stroke="var(--ink)"
                        strokeWidth="1.3"
                      />
                      <text x={x + w - 4} y={y + 8} fontSize="11" fontWeight="700" textAnchor="middle">
                        {u.rack.letter}
                      </text>
                    </g>
                  )}
                  {h > 46 &&
                    Array.from({ length: Math.ceil(cells / 2) }, (_, k) => (
                      <g key={k}>
                        <rect
                          x={x + 8}
                          y={y + 22 + k * (deep / Math.ceil(cells / 2))}
                          width={w / 2 - 12}
                          height={Math.min(8, tall / Math.ceil(cells / 2))}
                          rx="2"
                          fill="var(--leaf)"
                        />
                        {k * 2 + 1 < cells && (
                          <rect
                            x={x + w / 2 + 4}
                            y={y + 22 + k * (deep / Math.ceil(cells / 2))}
                            width={w / 2 - 12}
                            height={Math.min(8, tall / Math.ceil(cells / 2))}
                            rx="2"
                            fill="var(--leaf)"
                          />
                        )}
                      </g>
                    ))}
                </g>
              );
            })}
            {row.fuse != null && (
              <rect x={x + w / 2 - 5} y={y0 - 6} width="10" height="8" fill="var(--card)" stroke="var(--ink)" />
            )}
          </g>
        );
      })}
      {count < MOST_ROWS && (
        <g
          role="button"
          tabIndex={0}
          className="cursor-pointer"
          onClick={onRow}
          onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onRow()}
          aria-label={say.oneMoreRowSide}
        >
          <rect
            x={x0 + count * (w + 12) + 26}
            y={base - h - 4}
            width={Math.max(w, 84)}
            height={h}
            rx="7"
            fill="none"
            stroke="var(--focus)"
            strokeWidth="1.6"
            strokeDasharray="5 4"
          />
          <text
            x={x0 + count * (w + 12) + 26 + Math.max(w, 84) / 2}
            y={base - h / 2 - 6}
            fontSize="12"
            fontWeight="700"
            textAnchor="middle"
            style={{ fill: "var(--focus)" }}
          >
            {say.oneMoreRow}
          </text>
          <text x={x0 + count * (w + 12) + 26 + Math.max(w, 84) / 2} y={base - h / 2 + 9} fontSize="11" textAnchor="middle">
            {say.ah(evaluation?.bank?.one_more_row_ah)}
          </text>
        </g>
      )}
      {more && (
        <g
          role="button"
          tabIndex={0}
          className="cursor-pointer"
          onClick={onSeries}
          onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onSeries()}
          aria-label={say.oneMoreInSeries}
        >
          <rect
            x={x0 - 8}
            y={Math.max(y0 - 54, 4)}
            width="216"
            height="34"
            rx="6"
            fill="var(--card)"
            stroke={more.refused ? "var(--hot-deep)" : "var(--line-strong)"}
            strokeWidth="1.3"
            strokeDasharray="5 4"
          />
          <text x={x0 + 4} y={Math.max(y0 - 54, 4) + 14} fontSize="12" fontWeight="700">
            {say.oneMoreInSeriesV(more.nominal_v)}
          </text>
          <text
            x={x0 + 4}
            y={Math.max(y0 - 54, 4) + 28}
            fontSize="11"
            style={{ fill: more.refused ? "var(--hot-text)" : "var(--ink-2)" }}
          >
            {more.refused
              ? say.controllerStandsVFull(more.controller_v, more.full_v)
              : more.controller_v != null
                ? say.withinWhatTheController
                : say.checkMotorAndSwitch}
          </text>
        </g>
      )}
    </svg>
  );
}
