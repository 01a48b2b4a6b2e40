/** What is said when it goes wrong. */

/** In wrong/WhenItGoesWrong.tsx. */
export const whenItGoesWrong = {
  call: (theNumber: string) => `Call ${theNumber}`,
  callYourEmergencyNumber: "Call your emergency number",
  fireServiceAmbulance: "fire service, ambulance",
  itIsNotEntered: "It is not entered yet: put it into the garage, so that it stands here.",
  whatHappened: "What happened",
  writeItDown: "Write it down",
  whatIsNotTicked: (kept: boolean) =>
    `${kept ? "Kept here, and written down when the server answers." : "Written into the journal."} What is not ticked holds the machine up until it is done.`,
  whatYouSaw: "what you saw",
  lookedAt: "Looked at",
  stillOpen: "Still open",
  stillOpenFromBefore: "Still open from before",
  whenItGoesWrong: "When it goes wrong",
  kindsOfTrouble: "Kinds of trouble",
  smokeOrHeat: "Smoke or heat",
  onPaper: "On paper",
  noAnswerFromThe: "No answer from the server. Everyone away from it, switch it off, call your emergency number.",
  opening: "Opening…",
  beforeAnythingAgain: (before: string) => `Before anything ${before} again`,
  openTheMachineIt: "Open the machine it happened to, and these hold it up until they are done.",
  keptInTheJournal: "kept in the journal",
  cautionsOfThisPlanner:
    "Cautions of this planner, not a fire service or a doctor. What they say on the phone goes before anything here.",
};
