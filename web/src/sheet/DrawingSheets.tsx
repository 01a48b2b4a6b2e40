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
import { drawingSheets as say } from "../texts/sheet";
import { Segmented } from "../ui/Field";
import { cut, MARGIN, MOST_ACROSS, PAPERS, type Paper } from "./sheets";
import { useBuild } from "./useBuild";

const PAPER_NAMES = Object.keys(PAPERS).map((name) => [name, name] as const);
const WAYS = [
  ["upright", say.upright],
  ["across", say.across],
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
  if (hookup.data && !plan) return <p className="p-6">{say.chooseThePacksFirst}</p>;
  if (!plan || !laid)
    return (
      <p className="p-6" role="status">
        {say.layingTheDrawingOut}
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
        <h1 className="text-[26px]">{say.theDrawingOnPaper(build.name, row.name)}</h1>
        <div className="flex flex-wrap items-center gap-2">
          <Segmented label={say.paper} value={paper} options={PAPER_NAMES} onChange={(one) => setPaper(one as Paper)} />
          <Segmented label={say.paperLies} value={landscape ? "across" : "upright"} options={WAYS} onChange={setWay} />
          <label className="flex items-center gap-2">
            {say.sheetsSideBySide}
            <select className="input !w-auto" value={chosen} onChange={(e) => setChosen(Number(e.target.value))}>
              <option value={0}>{say.asFewAsCan}</option>
              {Array.from({ length: MOST_ACROSS }, (_, i) => (
                <option key={i} value={i + 1}>
                  {i + 1}
                </option>
              ))}
            </select>
          </label>
        </div>
        <p role="status">{say.howManySheets(found.sheets.length, found.columns, found.rows)}</p>
        <div className="flex flex-wrap gap-2">
          <button type="button" className="btn go" onClick={() => window.print()}>
            {say.printIt}
          </button>
          <Link className="btn" to={`/builds/${build.id}/setups/${row.id}/hookup`}>
            {say.backToTheHookup}
          </Link>
        </div>
      </div>
      <section aria-label={say.whatIsOpen} className="mb-4 print:break-after-page">
        <h2 className="mb-2 text-[18px]">{say.whatIsOpen}</h2>
        <OpenList standing={standing} home={`/builds/${build.id}/setups/${row.id}`} />
      </section>
      {found.sheets.map((sheet, i) => (
        <section
          key={i}
          aria-label={say.sheet(i)}
          data-sheet=""
          className={`mb-6 overflow-hidden border border-line print:mb-0 print:border-0 ${i < found.sheets.length - 1 ? "break-after-page" : ""}`}
        >
          <p className="flex justify-between gap-3 border-b border-line px-1 text-small" style={{ height: "7mm" }}>
            <b className="truncate">
              {build.name}, {row.name}
            </b>
            <span className="shrink-0">{say.sheetOf(COLUMNS[sheet.column], sheet.row, i, found.sheets.length)}</span>
          </p>
          <svg
            viewBox={`${sheet.x} ${sheet.y} ${sheet.w} ${sheet.h}`}
            style={{ width: "100%", maxWidth: `${found.width}mm`, maxHeight: `${found.height}mm` }}
            className="block"
            role="img"
            aria-label={say.drawingOfTheHookup(COLUMNS[sheet.column], sheet.row)}
          >
            <DrawingImage plan={plan} laid={laid} done={done} />
          </svg>
        </section>
      ))}
      <section aria-label={say.wires} className="print:break-before-page">
        <h2 className="mt-2 mb-2 border-b-2 border-ink pb-1 text-[18px]">{say.allWires}</h2>
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
        {say.thisSetupIsNot}{" "}
        <Link className="linkish" to="/">
          {say.backToTheGarage}
        </Link>
      </p>
    );
  if (!build || !row)
    return (
      <p className="p-6" role="status">
        {say.makingTheSheets}
      </p>
    );
  return <Sheets build={build} row={row} />;
}
