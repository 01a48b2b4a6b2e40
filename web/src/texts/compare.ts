/** What setups side by side say. */
import { countWords } from "./units";

/** In compare/Compare.tsx. */
export const compare = {
  theTrails: "The trails",
  howMuchEachIsAsked: "How much of what it stands each station is asked for. Past the line it is too much.",
  whichSetups: "Which setups",
  baseline: "baseline",
  aGoal: "A goal",
  itShouldGo: "It should go…",
  goal: "Goal",
  thisSetupCannotBe: "This setup cannot be computed.",
  tryingWhatReachesIt: "Trying what reaches it…",
  sideBySide: "Side by side",
  comparedWithTheFirst: "The others are compared with the first one chosen.",
  thisBuildHasOne: "This build has one setup. Copy it in its menu and change the copy: then the two can be compared.",
  chooseOneMore: "Choose one more.",
  workingOutEachSetup: "Working out each setup…",
  whatTheRiderGets: "What the rider gets",
  likelyRange: "likely range",
  whatWasChanged: "What was changed",
  same: "same",
  theMachinesAreAlike: "The machines are alike in all that is entered.",
  showTheThatAre: (alike: number) => `show the ${alike} that are the same, too`,
  stopsAndCautions: (stops: number, cautions: number) => `${countWords(stops, "stop")}, ${countWords(cautions, "caution")}`,
};

/** In compare/Costs.tsx. */
export const costs = {
  whatItCosts: "What it costs",
  whatYouOwnCounts: "What you own counts",
  asNothing: "what I own: nothing",
  atItsPrice: "what I own: at its price",
  unpriced: (count: number) => (count === 1 ? "1 kind of part has no price" : `${count} kinds of parts have no price`),
  aNewMachine: "A new machine of this kind",
  notEntered: "not entered",
  enterAnAmount: "Enter an amount such as 349, or leave it empty.",
  whereItComesFrom:
    "Prices come from your rack, paid or asked; where there are none, from planning values. What stays on the machine costs nothing.",
};
