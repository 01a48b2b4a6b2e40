import { memo } from "react";
import { glyph as say } from "../texts/ui";

/** Status is shape + word + colour; basis is how full the disc is. */
export type Mark = "done" | "fine" | "caution" | "close" | "stop" | "over" | "note" | "open" | "now" | "unknown" | "fits";

const NAMES: Record<Mark, string> = say.names;

export const Glyph = memo(function Glyph({ mark, size = 14, quiet = false }: { mark: Mark; size?: number; quiet?: boolean }) {
  const label = quiet ? { "aria-hidden": true as const } : { role: "img", "aria-label": NAMES[mark] };
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" className="inline-block shrink-0 align-[-2px]" {...label}>
      {(mark === "done" || mark === "fine" || mark === "fits") && (
        <>
          <circle cx="8" cy="8" r="7.5" fill="var(--leaf)" />
          <path d="M4.6 8.3l2.3 2.3 4.5-5" fill="none" stroke="var(--card)" strokeWidth="1.9" />
        </>
      )}
      {(mark === "caution" || mark === "close") && (
        <>
          <path d="M8 1 15.6 14.6H.4Z" fill="var(--amber)" stroke="var(--amber-line)" strokeWidth=".8" strokeLinejoin="round" />
          <path d="M8 5.6v4.2M8 11.6v1.5" stroke="#1c211d" strokeWidth="1.7" />
        </>
      )}
      {(mark === "stop" || mark === "over") && (
        <>
          <path d="M5 .7h6L15.3 5v6L11 15.3H5L.7 11V5Z" fill="var(--hot-deep)" />
          <path d="M5.2 5.2l5.6 5.6M10.8 5.2l-5.6 5.6" stroke="var(--card)" strokeWidth="1.9" />
        </>
      )}
      {mark === "note" && (
        <>
          <rect x="1" y="1" width="14" height="14" rx="3" fill="none" stroke="var(--ink-2)" strokeWidth="1.4" />
          <path d="M8 4v1.7M8 7.2v5" stroke="var(--ink-2)" strokeWidth="1.7" />
        </>
      )}
      {(mark === "open" || mark === "unknown") && (
        <circle cx="8" cy="8" r="6.8" fill="none" stroke="var(--ink-3)" strokeWidth="1.5" strokeDasharray="2.8 2.4" />
      )}
      {mark === "now" && <path d="M8 .8 15.2 8 8 15.2.8 8Z" fill="var(--focus)" />}
    </svg>
  );
});

export type Basis = "measured" | "nameplate" | "assumed";

export const BasisGlyph = memo(function BasisGlyph({ basis, size = 11 }: { basis: Basis; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" role="img" aria-label={basis} className="inline-block shrink-0">
      <title>{basis}</title>
      <circle
        cx="6"
        cy="6"
        r="4.8"
        fill={basis === "measured" ? "var(--ink-2)" : "none"}
        stroke="var(--ink-2)"
        strokeWidth="1.5"
      />
      {basis === "nameplate" && <path d="M6 1.2A4.8 4.8 0 0 0 6 10.8Z" fill="var(--ink-2)" />}
    </svg>
  );
});

/** The gecko. */
export function Gecko({ size = 28 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <path
        d="M24 4c3 4 1 7-3 8.500-4 1.500-4 3.500-4.500 6.500S13 23 10.500 23 6 25 6 29"
        fill="none"
        stroke="var(--leaf)"
        strokeWidth="5"
        strokeLinecap="round"
      />
      <path d="M15 13 8 8M20 17l7 3M11 21l-7-3M17 23l4 5" stroke="var(--leaf)" strokeWidth="2.600" strokeLinecap="round" />
      <circle cx="24.500" cy="6.500" r="1.400" fill="var(--ink)" />
    </svg>
  );
}
