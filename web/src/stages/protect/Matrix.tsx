/** Every fuse against every gauge: what fits, and why not. */
import { memo, useState } from "react";
import type { Choice } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { matrix as say } from "../../texts/protect";
import { plainNumber, sameSize, sizeWords, type WireSize } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";

export const WHY: Record<string, { word: string; line: string; small: boolean }> = {
  continuous: { word: say.tooSmall, line: say.itCannotCarryThe, small: true },
  limit_110: { word: say.tooSmall, line: say.itDoesNotCarry, small: true },
  nuisance: { word: say.mayBlow, line: say.tenLaunchesMayOpen, small: true },
  wire: { word: say.tooThin, line: say.theWireIsToo, small: false },
  parts: { word: say.tooLarge, line: say.itIsLargerThan, small: false },
  breaking: { word: say.cantBreak, line: say.aDeadShortIs, small: false },
  withstand: { word: say.tooThin, line: say.aShortDamagesThe, small: false },
  cold_short: { word: say.staysShut, line: say.onAColdDay, small: false },
  volts: { word: say.wouldArc, line: say.itsDcVoltsAre, small: false },
  drop: { word: say.losesVolts, line: say.over10OfThe, small: false },
  selectivity: { word: say.wrongOrder, line: say.aRowsOwnFuse, small: true },
  ampacity: { word: say.tooThin, line: say.theWireDoesNot, small: false },
};

export const Matrix = memo(function Matrix({
  choice,
  pick,
}: {
  choice: Choice;
  pick: (row: Choice["rows"][number], size: WireSize) => void;
}) {
  const { units } = useSettings();
  const [told, setTold] = useState(say.eachCellSaysWhat);
  const [every, setEvery] = useState(false);
  const { sizes } = choice;
  const marked = [choice.best?.size, choice.chosen?.size].flatMap((size) =>
    size ? [sizes.findIndex((s) => sameSize(s, size))] : [],
  );
  const from = every ? 0 : Math.max(0, Math.min(Math.min(...marked, 3) - 1, sizes.length - 5));
  const to = every ? sizes.length : Math.max(from + 5, Math.max(...marked, 0) + 1);
  const shown = sizes.map((size, at) => ({ size, at })).slice(from, to);
  return (
    <div>
      <div className="overflow-x-auto">
        <table className="w-full border-separate border-spacing-[3px] text-[11.5px]">
          <thead>
            <tr>
              <th scope="col" className="text-left font-normal">
                {say.fuse}
              </th>
              {shown.map(({ size, at }) => (
                <th key={at} scope="col" className="leading-tight whitespace-nowrap">
                  {sizeWords(size, units)}
                  <br />
                  <span className="font-normal text-ink3">{plainNumber(choice.ampacity_a[at] ?? 0, 0)} A</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {choice.rows.map((row) => (
              <tr key={`${row.kind}${row.dc_volts_v}${row.rating_a}`}>
                <th scope="row" className="text-left whitespace-nowrap">
                  {plainNumber(row.rating_a)} A{" "}
                  <span className="font-normal text-ink3">
                    {row.kind} {plainNumber(row.dc_volts_v)} V
                  </span>
                </th>
                {shown
                  .map(({ size, at: column }) => ({ size, column, fails: row.fails[column] ?? [] }))
                  .map((cell) => {
                    const at = (p: Choice["chosen"]) =>
                      p != null &&
                      sameSize(p.size, cell.size) &&
                      p.kind === row.kind &&
                      p.rating_a === row.rating_a &&
                      p.dc_volts_v === row.dc_volts_v;
                    const best = at(choice.best);
                    const first = cell.fails[0];
                    const why = first ? WHY[first] : undefined;
                    const fits = cell.fails.length === 0;
                    const small = cell.fails.every((f) => WHY[f]?.small);
                    const words = `${plainNumber(row.rating_a)} A × ${sizeWords(cell.size, units)}: ${fits ? say.fitsEveryCondition : cell.fails.map((f) => WHY[f]?.line).join("; ")}`;
                    return (
                      <td key={cell.column} className="p-0">
                        <button
                          type="button"
                          aria-label={words}
                          onMouseEnter={() => setTold(words)}
                          onFocus={() => setTold(words)}
                          onClick={() => pick(row, cell.size)}
                          className={`flex h-[26px] w-full items-center justify-center gap-1 rounded-[5px] px-1 whitespace-nowrap max-desk:h-9 ${best ? "bg-leafdeep font-bold text-onleaf" : fits ? "bg-leaftint" : small ? "bg-ambertint" : "bg-hottint"} ${at(choice.chosen) ? "outline-[2.5px] outline-focus" : ""}`}
                        >
                          <Glyph mark={fits ? "fits" : small ? "caution" : "stop"} size={11} quiet />
                          {best ? say.best : fits ? say.fits : why?.word}
                        </button>
                      </td>
                    );
                  })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-1 flex items-start gap-3">
        <p className="min-h-[2.6em] flex-1 text-small text-ink2" aria-live="polite">
          {told}
        </p>
        {shown.length < sizes.length || every ? (
          <button type="button" className="btn !min-h-8" aria-pressed={every} onClick={() => setEvery(!every)}>
            {every ? say.onlyThoseNearThe : say.everyGaugeAsIn}
          </button>
        ) : null}
      </div>
    </div>
  );
});
