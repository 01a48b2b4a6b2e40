/** The pack's volts against what the controller stands. */
import type { Evaluation } from "../../api/client";
import { type Doc, read } from "../../lib/pointer";
import { voltWindow as say } from "../../texts/power";
import { plainNumber } from "../../texts/units";

export function Window({ evaluation, doc, width }: { evaluation: Evaluation; doc: Doc; width: number }) {
  const bank = evaluation.bank;
  if (!bank) return null;
  const low = read(doc, "/controller/undervoltage_v/value");
  const most = evaluation.trail.find((s) => s.id === "controller")?.stands ?? undefined;
  const stock = read(doc, "/stock/volts_v/value");
  const span: [number, number] = [
    Math.min(bank.empty_v, low ?? bank.empty_v, stock ?? bank.empty_v) * 0.85,
    Math.max(bank.full_v, most ?? 0) * 1.08,
  ];
  const over = most !== undefined && bank.full_v > most;
  const x = (v: number) => 14 + ((v - span[0]) / (span[1] - span[0])) * (width - 28);
  return (
    <svg
      viewBox={`0 0 ${width} 150`}
      className="block h-auto w-full"
      role="img"
      aria-label={say.windowFromEmptyTo(bank.empty_v, bank.full_v, most)}
    >
      {most !== undefined && (
        <rect x={x(low ?? span[0])} y="22" width={x(most) - x(low ?? span[0])} height="96" fill="var(--paper-sunk)" />
      )}
      {most !== undefined && (
        <text x={x(((low ?? span[0]) + most) / 2)} y="14" fontSize="11.5" textAnchor="middle" fontWeight="700">
          {low ? say.controllerRunsToV(low, most) : say.controllerStandsV(most)}
        </text>
      )}
      {[low, most].map((v, i) => v !== undefined && <path key={i} d={`M${x(v)} 20V120`} stroke="var(--ink)" strokeWidth="1.6" />)}
      <rect
        x={x(bank.empty_v)}
        y="54"
        width={x(bank.full_v) - x(bank.empty_v)}
        height="24"
        rx="4"
        fill={over ? "var(--hot)" : "var(--leaf)"}
      />
      <path d={`M${x(bank.nominal_v)} 48v36`} stroke="var(--ink)" strokeWidth="2.4" />
      <text x={x(bank.empty_v)} y="96" fontSize="11" textAnchor="middle">
        {plainNumber(bank.empty_v)}
      </text>
      <text x={x(bank.nominal_v)} y="44" fontSize="11" textAnchor="middle">
        {say.nominal(bank.nominal_v)}
      </text>
      <text x={x(bank.full_v)} y="96" fontSize="11" textAnchor="middle" fontWeight="700">
        {say.full(bank.full_v)}
      </text>
      {stock !== undefined && (
        <text x={x(stock)} y="112" fontSize="11" textAnchor="middle" style={{ fill: "var(--ink-3)" }}>
          {say.stock(stock)}
        </text>
      )}
      <path d={`M14 122H${width - 14}`} stroke="var(--ink)" />
      {Array.from({ length: 6 }, (_, i) => span[0] + ((i + 0.5) / 6) * (span[1] - span[0])).map((v) => (
        <text key={v} x={x(Math.round(v))} y="138" fontSize="11" textAnchor="middle">
          {Math.round(v)} V
        </text>
      ))}
    </svg>
  );
}
