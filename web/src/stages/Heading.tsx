import { memo, type ReactNode } from "react";
import type { Evaluation } from "../api/client";
import { sentence, type UnitChoice } from "../texts/units";
import { useSaid } from "../ui/Terms";

/** What to do at a stage, in the core's own sentence; empty while nothing is known. */
export const opening = (evaluation: Evaluation | undefined, stage: "power" | "protect" | "drive", units: UnitChoice): string =>
  sentence(evaluation?.openings?.[stage] ?? "", units);

export const Heading = memo(function Heading({ title, line, aside }: { title: string; line: string; aside?: ReactNode }) {
  const said = useSaid();
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <h1 className="text-[21px]">{title}</h1>
      <p className="flex-1 text-ink2 max-desk:order-2 max-desk:basis-full">{said(line)}</p>
      {aside}
    </div>
  );
});

export function Block({
  title,
  line,
  children,
  className = "",
}: {
  title: string;
  line?: string;
  children: ReactNode;
  className?: string;
}) {
  const said = useSaid();
  return (
    <section className={`min-w-0 ${className}`}>
      <h2 className="text-[15px]">{title}</h2>
      {line && <p className="mb-2 text-ink2">{said(line)}</p>}
      <div className={line ? "" : "mt-2"}>{children}</div>
    </section>
  );
}

export const Grid = ({ children, min = 150 }: { children: ReactNode; min?: number }) => (
  <div className="grid items-end gap-3" style={{ gridTemplateColumns: `repeat(auto-fill, minmax(${min}px, 1fr))` }}>
    {children}
  </div>
);
