/** What the printed sheets say. */
import { day, longDay } from "./locale";
import { countWords, plainNumber } from "./units";

/** In sheet/DrawingSheets.tsx. */
export const drawingSheets = {
  upright: "upright",
  across: "across",
  chooseThePacksFirst: "Choose the packs first: the drawing is made from the setup.",
  layingTheDrawingOut: "Laying the drawing out…",
  theDrawingOnPaper: (build: string, setup: string) => `${build}, ${setup}: the drawing on paper`,
  paper: "Paper",
  paperLies: "Paper lies",
  asFewAsCan: "as few as can be read",
  sheetsSideBySide: "Sheets side by side",
  howManySheets: (sheets: number, columns: number, rows: number) => (
    <>
      {sheets === 1 ? "One sheet." : `${sheets} sheets: ${columns} side by side, ${rows} below each other.`} Print at 100 %, not
      fitted to the page. {sheets > 1 && "Neighbours share 8 mm: glue edge over edge by their letters."}
    </>
  ),
  printIt: "Print it",
  backToTheHookup: "Back to the hookup",
  whatIsOpen: "What is open",
  sheet: (i: number) => `Sheet ${i + 1}`,
  sheetOf: (column: string | undefined, row: number, i: number, sheets: number) => (
    <>
      sheet {column}
      {row + 1}, {i + 1} of {sheets}
    </>
  ),
  drawingOfTheHookup: (column: string | undefined, row: number) => `Drawing of the hookup, sheet ${column}${row + 1}`,
  wires: "Wires",
  allWires: "All wires",
  backToTheGarage: "Back to the garage",
  thisSetupIsNot: "This setup is not in your garage.",
  makingTheSheets: "Making the sheets…",
};

/** In sheet/SheetView.tsx. */
export const sheetView = {
  revisionOf: (description: string, family: string, updated: string) =>
    `${description || family} · revision of ${longDay(updated)}`,
  planningFiguresNotA:
    "Planning figures, not a certificate. Where it may be ridden depends on local rules; the maker's limits come first. Leave mains wiring to a licensed electrician and opened packs to a battery professional.",
  thePlan: "The plan",
  likely: (range: string) => `likely ${range}`,
  station: "Station",
  whatItIs: "What it is",
  askedOfWhatIt: "Asked of what it stands",
  weakLink: (station: string) => `${station} (weak link)`,
  whatIsOpen: "What is open",
  askedStands: (asked: number, unit: string, stands: number | null | undefined) =>
    `(${plainNumber(asked)} ${unit} asked, ${plainNumber(stands ?? 0)} ${unit} stands)`,
  on: (kind: string, created: string, by: string, reason: string) =>
    `${kind === "observed" ? "Looked at" : "Overruled"} on ${day(created)}${by && ` by ${by}`}: “${reason}”`,
  openDoNotRide: "Open: do not ride.",
  openDoNotPower: "Open: do not power up.",
  whatWasSaidTo: "What was written about it no longer covers its numbers.",
  wasOverruledThePlan: (title: string, reason: string) =>
    `${title}: was overruled (“${reason}”); the plan no longer has this stop.`,
  stepsAndReadings: "Steps and readings",
  ol: "OL",
  done: "done",
  redTipOnBlack: (redOn: string, blackOn: string, s: string, note: string | undefined) => (
    <>
      Red tip on {redOn}, black on {blackOn}: <b>{s}</b>. {note} Read:
    </>
  ),
  whenItGoesWrong: "When it goes wrong",
  call: (emergency: string) => `Call ${emergency}.`,
  cautionsOfThisPlanner: "Cautions of this planner, not a fire service or a doctor: what they say on the phone goes first.",
};

/** In sheet/PartsTable.tsx. */
export const partsTable = {
  partsToBuy: "Parts to buy",
  parts: "Parts",
  part: "Part",
  needed: "Needed",
  onTheMachine: "On the machine",
  onTheRack: "On the rack",
  ordered: "Ordered",
  toBuy: "To buy",
  nothing: "nothing",
  lengthsAreBothWays: "Lengths are both ways with 10 % to spare.",
  whatItCosts: "What it costs",
  leftToBuy: "Left to buy",
  fromTheRack: "Worth of what comes from the rack",
  knownHow: (planned: number, unpriced: number) =>
    [
      planned
        ? `${countWords(planned, "kind of part", "kinds of parts")} by planning values: enter what you see asked, on the rack, as only wished for.`
        : "",
      unpriced ? `${countWords(unpriced, "kind of part has", "kinds of parts have")} no price at all.` : "",
    ]
      .filter(Boolean)
      .join(" "),
  asATable: "As a table (CSV)",
};

/** In sheet/BuildSheet.tsx. */
export const buildSheet = {
  printIt: "Print it",
  theDrawingOnPaper: "The drawing on paper",
  backToTheBench: "Back to the bench",
  backToTheGarage: "Back to the garage",
  thisBuildIsNot: "This build is not in your garage.",
  makingTheSheet: "Making the sheet…",
};
