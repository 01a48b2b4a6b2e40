/** Every lead from the packs outward: its fuse and wire, what flows, how warm it gets. Choosing one opens its table below. */
import { memo } from "react";
import type { RunOut } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { runTree as say } from "../../texts/protect";
import { sizeWords, toShown } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { WHY } from "./Matrix";

/** How deep a run hangs on the tree: rows and the main lead from the trunk, others on what they come after. */
export function depth(run: RunOut, runs: RunOut[]): number {
  const before = runs.find((r) => r.id === run.after);
  if (run.kind === "row" || run.kind === "link") return 0;
  return before ? depth(before, runs) + 1 : run.kind === "main" ? 1 : 0;
}

export const RunTree = memo(function RunTree({
  runs,
  chosen,
  choose,
}: {
  runs: RunOut[];
  chosen: string;
  choose: (id: string) => void;
}) {
  const { units } = useSettings();
  const warm = (c: number | null) => (c === null ? say.tooHot : `${Math.round(toShown(c, units.temp))} ${units.temp}`);
  return (
    <ul className="mb-3 grid gap-1" aria-label={say.leadsFromThePacks}>
      {runs.map((run) => {
        const share = run.stands_a > 0 ? run.asked_a / run.stands_a : 1.2;
        const first = run.fails[0];
        const small = run.fails.every((f) => WHY[f]?.small);
        const words = run.fails.map((f) => WHY[f]?.line ?? f).join("; ");
        return (
          <li key={run.id} style={{ paddingLeft: `${16 * depth(run, runs)}px` }}>
            <button
              type="button"
              aria-pressed={run.id === chosen}
              onClick={() => choose(run.id)}
              className={`grid w-full grid-cols-[16px_minmax(90px,1.1fr)_minmax(120px,1.5fr)_minmax(90px,1fr)_68px_minmax(70px,.9fr)] items-center gap-2 rounded-md border-l-4 px-2 py-1 text-left max-desk:grid-cols-[16px_1fr_auto] max-desk:gap-y-0 ${run.id === chosen ? "border-focus bg-focustint" : "border-strong bg-paper"}`}
            >
              <Glyph mark={first ? (small ? "caution" : "stop") : run.fuse ? "fits" : "note"} size={14} />
              <b className="min-w-0 truncate">{run.name}</b>
              <span className="min-w-0 text-ink2 max-desk:order-4 max-desk:col-span-2 max-desk:col-start-2">
                {run.fuse ? (run.own_fuse ? run.fuse : say.behind(run.fuse)) : say.noFuse} × {sizeWords(run.size, units)}
              </span>
              <span className="max-desk:hidden">
                <span className="block text-small">{say.ofA(run.asked_a, run.stands_a)}</span>
                <span className="block h-[5px] rounded bg-sunk">
                  <span
                    className={`block h-full rounded ${share > 1 ? "bg-hotdeep" : share > 0.85 ? "bg-amber" : "bg-leaf"}`}
                    style={{ width: `${Math.min(100, 100 * share)}%` }}
                  />
                </span>
              </span>
              <span className="text-small text-ink2">{warm(run.steady_c)}</span>
              <span
                className={`min-w-0 truncate text-small max-desk:hidden ${first ? (small ? "text-ambertext" : "text-hottext") : "text-ink3"}`}
                title={words}
              >
                {first ? words : say.fits}
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
});

/** What the chosen run loses, and what the next thicker wire would bring. */
export const RunWords = memo(function RunWords({ run }: { run: RunOut }) {
  const { units } = useSettings();
  const t = (c: number | null) => (c === null ? say.neverSettles : `${Math.round(toShown(c, units.temp))} ${units.temp}`);
  const speed = run.thicker ? toShown(run.thicker.speed_m_s, units.speed) : 0;
  return (
    <div className="grid gap-1 text-ink2">
      <p>
        {say.underAItLoses(
          run.asked_a,
          run.drop_v,
          run.loss_w,
          t(run.steady_c),
          run.limit_c == null ? "" : t(run.limit_c),
          t(run.insulation_c),
        )}
      </p>
      {run.thicker && (
        <p>
          {say.insteadVSavedFaster(
            sizeWords(run.thicker.size, units),
            run.thicker.saved_v,
            speed,
            units,
            t(run.thicker.steady_c),
          )}
        </p>
      )}
      {run.best && <p className="text-hottext">{say.better(run.best, units)}</p>}
    </div>
  );
});
