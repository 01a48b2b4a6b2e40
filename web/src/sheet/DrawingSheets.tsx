/** The hookup's drawing on paper: A4 or Letter, over as many sheets as it needs to be read, to be glued edge over edge. */
import { useState } from "react";
import { Link } from "react-router";
import type { Build, SetupRow } from "../api/client";
import { OpenList } from "../findings/OpenList";
import { useSettings } from "../lib/settings";
import { useStanding } from "../lib/useStanding";
import { DrawingImage } from "../stages/hookup/DrawingImage";
import { Letters, useLaid } from "../stages/hookup/HookupDrawing";
import { useHookup } from "../stages/hookup/useHookup";
import { WireTable } from "../stages/hookup/WiresSection";
import { Segmented } from "../ui/Field";
import { cut, MARGIN, MOST_ACROSS, PAPERS, type Paper } from "./sheets";
import { useBuild } from "./useBuild";

const PAPER_NAMES = Object.keys(PAPERS).map((name) => [name, name] as const);
const WAYS = [
  ["upright", "upright"],
  ["across", "across"],
] as const;
const COLUMNS = "ABCD";

function Sheets({ build, row }: { build: Build; row: SetupRow }) {
  const { units } = useSettings();
  const hookup = useHookup(row.document, build.id, row);
  const plan = hookup.data?.plan ?? undefined;
  const standing = useStanding(build.id, row);
  const laid = useLaid(plan).data;
  const [paper, setPaper] = useState<Paper>(units.speed === "mph" ? "Letter" : "A4");
  const [way, setWay] = useState("");
  const [chosen, setChosen] = useState(0);
  if (hookup.data && !plan) return <p className="p-6">Choose the packs first: the drawing is made from the setup.</p>;
  if (!plan || !laid)
    return (
      <p className="p-6" role="status">
        Laying the drawing out…
      </p>
    );
  const landscape = way ? way === "across" : laid.width > laid.height;
  const found = cut(laid, paper, landscape, chosen || undefined);
  const [short, long] = PAPERS[paper];
  const done = new Set(row.ticks.filter((t) => t.fits && !hookup.data?.lost.has(t.step)).map((t) => t.step));
  return (
    <main className="mx-auto bg-card p-4 print:p-0" style={{ maxWidth: `${found.width + 16}mm` }}>
      <style>{`@page { size: ${landscape ? long : short}mm ${landscape ? short : long}mm; margin: ${MARGIN}mm; }`}</style>
      <div className="noprint mb-4 grid gap-3">
        <h1 className="text-[26px]">
          {build.name}, {row.name}: the drawing on paper
        </h1>
        <div className="flex flex-wrap items-center gap-2">
          <Segmented label="Paper" value={paper} options={PAPER_NAMES} onChange={(one) => setPaper(one as Paper)} />
          <Segmented label="Paper lies" value={landscape ? "across" : "upright"} options={WAYS} onChange={setWay} />
          <label className="flex items-center gap-2">
            Sheets side by side
            <select className="input !w-auto" value={chosen} onChange={(e) => setChosen(Number(e.target.value))}>
              <option value={0}>as few as can be read</option>
              {Array.from({ length: MOST_ACROSS }, (_, i) => (
                <option key={i} value={i + 1}>
                  {i + 1}
                </option>
              ))}
            </select>
          </label>
        </div>
        <p role="status">
          {found.sheets.length === 1
            ? "One sheet."
            : `${found.sheets.length} sheets: ${found.columns} side by side, ${found.rows} below each other.`}{" "}
          Print at 100 %, not fitted to the page.{" "}
          {found.sheets.length > 1 && "Neighbours share 8 mm: glue edge over edge by their letters."}
        </p>
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn go" onClick={() => window.print()}>
            Print it
          </button>
          <Link className="btn" to={`/builds/${build.id}/setups/${row.id}/hookup`}>
            Back to the hookup
          </Link>
        </div>
      </div>
      <section aria-label="What is open" className="mb-4 print:break-after-page">
        <h2 className="mb-2 text-[18px]">What is open</h2>
        <OpenList standing={standing} home={`/builds/${build.id}/setups/${row.id}`} />
      </section>
      {found.sheets.map((sheet, i) => (
        <section
          key={i}
          aria-label={`Sheet ${i + 1}`}
          data-sheet=""
          className={`mb-6 overflow-hidden border border-line print:mb-0 print:border-0 ${i < found.sheets.length - 1 ? "break-after-page" : ""}`}
        >
          <p className="flex justify-between gap-3 border-b border-line px-1 text-small" style={{ height: "7mm" }}>
            <b className="truncate">
              {build.name}, {row.name}
            </b>
            <span className="shrink-0">
              sheet {COLUMNS[sheet.column]}
              {sheet.row + 1}, {i + 1} of {found.sheets.length}
            </span>
          </p>
          <svg
            viewBox={`${sheet.x} ${sheet.y} ${sheet.w} ${sheet.h}`}
            style={{ width: "100%", maxWidth: `${found.width}mm`, maxHeight: `${found.height}mm` }}
            className="block"
            role="img"
            aria-label={`Drawing of the hookup, sheet ${COLUMNS[sheet.column]}${sheet.row + 1}`}
          >
            <DrawingImage plan={plan} laid={laid} done={done} />
          </svg>
        </section>
      ))}
      <section aria-label="Wires" className="print:break-before-page">
        <h2 className="mt-2 mb-2 border-b-2 border-ink pb-1 text-[18px]">All wires</h2>
        <WireTable plan={plan} />
        <Letters plan={plan} />
      </section>
    </main>
  );
}

export function DrawingSheets() {
  const { build, row, failed } = useBuild();
  if (failed || (build && !row))
    return (
      <p className="p-6" role="alert">
        This setup is not in your garage.{" "}
        <Link className="linkish" to="/">
          Back to the garage
        </Link>
      </p>
    );
  if (!build || !row)
    return (
      <p className="p-6" role="status">
        Making the sheets…
      </p>
    );
  return <Sheets build={build} row={row} />;
}
