/** The setups of a build as tabs, with what stands open of each. */

import { Link } from "react-router";
import type { Build, SetupRow } from "../api/client";
import type { StageName } from "../lib/stages";
import type { Plan } from "../lib/usePlan";
import { openOf } from "../lib/useStanding";
import { setupTabs as say } from "../texts/workspace";
import { Glyph, type Mark } from "../ui/Glyph";
import { SetupMenu } from "./SetupMenu";

export function SetupTabs({
  build,
  row,
  stage,
  evaluation,
}: {
  build: Build;
  row: SetupRow;
  stage: StageName;
  evaluation: Plan["evaluation"];
}) {
  const shown = build.setups.slice(0, 4);
  const { stops, looks } = openOf(evaluation?.findings ?? [], row);
  const cautions = evaluation?.findings.filter((f) => f.severity === "caution").length ?? 0;
  return (
    <div className="flex min-w-0 flex-1 items-end justify-center gap-1 max-desk:items-center">
      <div className="flex min-w-0 items-end gap-1 self-end max-desk:hidden">
        {shown.map((s) => {
          const here = s.id === row.id;
          const mark: Mark = here
            ? stops
              ? "stop"
              : looks
                ? "open"
                : cautions
                  ? "caution"
                  : "fine"
            : s.is_baseline
              ? "open"
              : "unknown";
          return (
            <Link
              key={s.id}
              to={`/builds/${build.id}/setups/${s.id}/${stage}`}
              aria-current={here ? "true" : undefined}
              className={`flex h-11 min-w-0 items-center gap-2 rounded-t-[7px] px-3 ${here ? "border-[1.5px] border-b-0 border-ink bg-card" : ""}`}
            >
              {(here || s.is_baseline) && <Glyph mark={mark} size={15} />}
              <span className="min-w-0">
                <b className="line-clamp-2 max-w-[150px] text-[13px] leading-[14px]">{s.name}</b>
                <small className="block text-micro leading-[13px] whitespace-nowrap text-ink3">
                  {here
                    ? stops
                      ? say.stops(stops)
                      : looks
                        ? say.toLookAt(looks)
                        : cautions
                          ? say.cautions(cautions)
                          : say.noStops
                    : s.is_baseline
                      ? say.baseline
                      : s.in_use
                        ? say.inUse
                        : "\u00a0"}
                </small>
              </span>
            </Link>
          );
        })}
      </div>
      <SetupMenu build={build} row={row} stage={stage} />
    </div>
  );
}
