/** The limiter's knob at its mark. */
import { memo } from "react";
import { knob as say } from "../../texts/drive";
import { plainNumber, toMark } from "../../texts/units";

export const Knob = memo(function Knob({ mark }: { mark: number }) {
  const angle = (m: number) => ((-135 + 270 * m) * Math.PI) / 180;
  const point = (m: number, r: number) => `${60 + r * Math.sin(angle(m))} ${60 - r * Math.cos(angle(m))}`;
  return (
    <svg viewBox="0 0 120 112" width="120" role="img" aria-label={say.knobAtMarkOf(mark)}>
      <path d={`M${point(0, 46)}A46 46 0 1 1 ${point(1, 46)}`} fill="none" stroke="var(--paper-sunk)" strokeWidth="9" />
      <path
        d={`M${point(0, 46)}A46 46 0 ${mark > 0.667 ? 1 : 0} 1 ${point(mark, 46)}`}
        fill="none"
        stroke="var(--leaf)"
        strokeWidth="9"
      />
      {Array.from({ length: 11 }, (_, i) => (
        <path key={i} d={`M${point(i / 10, 36)}L${point(i / 10, 31)}`} stroke="var(--ink)" strokeWidth="1.4" />
      ))}
      <circle cx="60" cy="60" r="24" fill="var(--card)" stroke="var(--ink)" strokeWidth="1.8" />
      <path d={`M${point(mark, 22)}L${point(mark, 10)}`} stroke="var(--focus)" strokeWidth="4" strokeLinecap="round" />
      <text x="60" y="66" textAnchor="middle" fontSize="17" fontWeight="700">
        {plainNumber(toMark(mark))}
      </text>
    </svg>
  );
});
