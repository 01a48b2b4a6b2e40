/** What somebody reads who was sent a link. */
import { day } from "./locale";

/** In look/ShareLink.tsx. */
export const shareLink = {
  showToSomebody: (name: string) => `Show ${name} to somebody`,
  whoeverHasTheLink:
    "Whoever has the link sees this build with its figures, findings, steps and timed rides, and can change nothing. Riders and who did what stay unnamed, the rest of the garage stays closed; what you wrote into names of setups and reasons is shown.",
  forWhom: "For whom",
  forWhomToTell: "For whom, to tell links apart",
  goodFor: "Good for",
  oneDay: "1 day",
  days: (n: number) => `${n} days`,
  makeTheLink: "Make the link",
  shownThisOnceSend: "Shown this once. Send it to nobody but who should look.",
  aLink: "A link",
  madeGoodUntil: (by: string, created: string, expires: string) =>
    `${by && `by ${by}, `}made ${day(created)}, good until ${day(expires)}`,
  takeBackTheLink: (note: string, created: string) => `Take back the link ${note || `of ${day(created)}`}`,
  takeBack: "Take back",
};

/** In look/Look.tsx. */
export const look = {
  aBuildToLook: "A build to look at",
  workingItOut: "Working it out…",
  toTheFrontDoor: "To the front door",
  toLookAtNot: (expires: string) =>
    `To look at, not to change; until ${day(expires)}. Riders and who did what stay unnamed. What you see wrong, tell whoever sent you the link.`,
  setup: "Setup",
  inUse: (setup: string) => `${setup}, in use`,
  baseline: (setup: string) => `${setup}, baseline`,
  printIt: "Print it",
  cautionsAndNotes: "Cautions and notes",
  none: "None.",
  ridesThatWereTimed: "Rides that were timed",
  noneYet: "None yet.",
  timed: (when: string, setup: string, measured: string, predicted: string) => (
    <>
      {day(when)}, {setup}: <b>{measured}</b>
      {predicted && `, ${predicted} predicted`}
    </>
  ),
};
