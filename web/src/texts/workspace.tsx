/** What the workspace of a build says. */
import type { ReactNode } from "react";
import { countWords } from "./units";

/** In workspace/Clashes.tsx. */
export const clashes = {
  entry: "entry",
  asEnteredThere: "as entered there",
  changedInTwoPlaces: "Changed in two places",
  thisSetupWasSaved:
    "This setup was saved from another window or phone while you were editing. Both changes are joined; only here they differ. Nothing is lost.",
  mineEverywhere: "Mine everywhere",
  theirsEverywhere: "Theirs everywhere",
  mine: "Mine",
  theirs: "Theirs",
  stillToChoose: (open: number) => `${open} still to choose`,
  saveItSo: "Save it so",
  eachVersionStaysIn: "Each version stays in the history.",
  theyDifferIn: (parts: string) => (
    <>
      They differ in: <b>{parts}</b>.
    </>
  ),
  keepWhatIHave: "Keep what I have here",
  takeTheOtherVersion: "Take the other version",
  keepYoursAndThe: "Keep yours, and the other one stays in the history. Take the other one, and yours is one undo away.",
};

/** In workspace/Elsewhere.tsx. */
export const elsewhere = {
  showIt: "Show it",
  savedThisSetupElsewhere: (by: string, at: string, changed: string) => (
    <>
      <b>
        {by || "Somebody"} saved this setup elsewhere at {at}
        {changed && `: ${changed}`}.
      </b>{" "}
      What you have not saved yet stays yours.
    </>
  ),
};

/** In workspace/Saved.tsx. */
export const saved = {
  why: {
    signed_out: "signed out",
    locked_database: "busy",
    disk_full: "its disk is full",
    read_only: "it may not write",
    not_found: "gone on the server",
    viewer: "you look only",
  },
  saved: "Saved",
  both: ", both",
  onThisComputer: "on this computer",
  saving: "Saving…",
  savingSoon: "Saving soon",
  aFieldNeedsMending: "a field needs mending",
  noConnectionKeptHere: "no connection, kept here",
  keptHere: (why: string | undefined) => `${why ?? "the server failed"}, kept here`,
  changedElsewhere: "changed elsewhere",
  undoKeyU: "Undo (key u)",
  redoKeyU: "Redo (key U)",
  notSavedYet: "Not saved yet",
  notSaved: "Not saved",
};

/** In workspace/SetupMenu.tsx. */
export const setupMenu = {
  name: "Name",
  history: "History",
  whatOnePersonSaves: "What one person saves within five minutes is one entry. Bringing an old one back makes a new one on top.",
  bringBack: "Bring back",
  showOlderOnes: "Show older ones",
  move: (name: string) => `Move ${name}`,
  withItsSetupsHistory:
    "With its setups, history, trials and journal. Whoever belongs to the other garage sees it then, and that garage's house rules hold for it.",
  toWhichGarage: "To which garage",
  leaveItHere: "Leave it here",
  moveIt: "Move it",
  setups: "Setups",
  baseline: "baseline",
  inUse: "in use",
  sideBySide: "Side by side…",
  copyThisSetupFirst: "Copy this setup…",
  renameFirst: "Rename…",
  theMachineIsIn: "The machine is in it now",
  makeItTheBaseline: "Make it the baseline",
  showHistory: "History…",
  deleteThisSetup: "Delete this setup…",
  buildSheetToPrint: "Build sheet, to print",
  exportTheBuild: "Export the build",
  showItToSomebody: "Show it to somebody…",
  moveTheBuildTo: "Move the build to another garage…",
  deleteTheBuildFirst: "Delete the build…",
  copyThisSetup: "Copy this setup",
  changed: (name: string) => `${name}, changed`,
  makeTheCopy: "Make the copy",
  rename: "Rename",
  deleteSetupAsked: (name: string) => `Delete “${name}”?`,
  itGoesToThe: "It goes to the bin with its history, for 30 days. A setup with trials stays.",
  deleteIt: "Delete it",
  deleteBuildAsked: (name: string) => `Delete ${name}?`,
  itGoesToTheBin:
    "It goes to the bin with all its setups, trials and journal, and can be brought back for 30 days. Export it if you may want it later.",
  deleteTheBuild: "Delete the build",
};

/** In workspace/SetupTabs.tsx. */
export const setupTabs = {
  stops: (stops: number) => countWords(stops, "stop"),
  toLookAt: (looks: number) => `${looks} to look at`,
  cautions: (cautions: number) => countWords(cautions, "caution"),
  noStops: "no stops",
  baseline: "baseline",
  inUse: "in use",
};

/** In workspace/StageTape.tsx. */
export const stageTape = {
  stages: "Stages",
};

/** In workspace/Workspace.tsx. */
export const workspace = {
  trialRuns: "Trial runs",
  views: "Views",
  trail: "Trail",
  bench: "Bench",
  findingsTab: "Findings",
  openTheTrail: "Open the Trail",
  notSavedYet: "Not saved yet.",
  whatYouTryHere: "What you try here stays in this browser.",
  whatYouTypedIs: "What you typed is kept in this browser, and tried again by itself.",
  signIn: "Sign in",
  whatYouSeeBelow: "What you see below is from before this change.",
  undo: "Undo",
  countedFindings: (flag: ReactNode, findings: number) => (
    <>
      {flag} Findings {findings}
    </>
  ),
  backTo: (stage: string) => `Back to ${stage}`,
  opening: "Opening…",
  openingTheBuild: "Opening the build…",
  thisBuildIsNot: "This build is not in your garage",
  theBuildCannotBe: "The build cannot be opened just now",
  backToTheGarage: "Back to the garage",
  openTheBuild: "Open the build",
  thisBuildHasNo: "This build has no such setup.",
};
