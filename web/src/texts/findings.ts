/** What is said around findings; each finding's own words are the core's. */

/** In findings/Findings.tsx. */
export const findings = {
  stop: "Stop",
  toLookAt: "To look at",
  caution: "Caution",
  note: "Note",
  lookedAt: "Looked at",
  overrule: "Overrule",
  writeWhatYouSaw:
    "Write what you saw or measured. It is kept in the journal with your name and the time, and printed on the build sheet.",
  aChildMayRide:
    "A child may ride on this. Write why you accept it; the reason is kept in the journal with your name and these numbers, and printed on the build sheet. Should the numbers rise later, it no longer covers the stop.",
  whatYouSaw: "What you saw",
  reason: "Reason",
  leaveItOpen: "Leave it open",
  writeItDown: "Write it down",
  overruleIt: "Overrule it",
  overruled: "Overruled",
  before: (gate: string) => `before ${gate}`,
  asFound: "as found",
  itNoLongerCovers: "It no longer covers this: the numbers rose since. Say it again, or mend it.",
  lookAt: "Looked at…",
  overruleFirst: "Overrule…",
  takeItBack: "Take it back",
  findings: "Findings",
  toLookAtAlso: "to look at",
  nothingToMendHere: "Nothing to mend here.",
  moreCaution: "more caution",
  lessPressing: (stage: string) => `Less pressing, ${stage}`,
};

/** In findings/OpenList.tsx. */
export const openList = {
  nothingIsOpen: "Nothing is open.",
  openBefore: (gate: string) => `Open before ${gate}`,
  stopsOfThePlan: "Stops of the plan",
  toLookAtBefore: (gate: string) => `To look at before ${gate}`,
  asFound: "as found",
  noLongerCoveredIts: "no longer covered: its numbers rose",
  notYet: "Not yet",
  andMore: (reasons: number) => `and ${reasons - 4} more`,
};
