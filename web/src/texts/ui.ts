/** What the parts of screens say. */
import { decimals } from "./locale";
import { countWords } from "./units";

/** In ui/Trouble.tsx. */
export const trouble = {
  thatDidNotWork: "That did not work. Try again.",
};

/** In ui/Glyph.tsx. */
export const glyph = {
  names: {
    done: "done",
    fine: "fine",
    fits: "fits",
    caution: "caution",
    close: "close",
    stop: "stop",
    over: "over",
    note: "note",
    open: "not started",
    now: "current",
    unknown: "not known",
  },
};

/** In ui/More.tsx. */
export const more = {
  fetching: "Fetching…",
};

/** In ui/OnceLink.tsx. */
export const onceLink = {
  theLink: "The link",
  copied: "Copied",
  copy: "Copy",
};

/** In ui/Field.tsx. */
export const field = {
  helpWith: (label: string) => `Help with: ${label}`,
  thisMustBeA: decimals("This must be a number, such as 12.5"),
  thisMustBeAWhole: "This must be a whole number",
  assumed: "assumed",
  changeWhereThisNumber: "Change where this number comes from",
  typical: (guess: string) => `${guess}, typical`,
  notKnown: "not known",
  choose: "Choose…",
};

/** In ui/PickPart.tsx. */
export const pickPart = {
  choose: "Choose…",
  outOfPlans: (name: string, why: string) => `${name} ${why}: out of plans`,
  withWords: (name: string, words: string) => `${name} (${words})`,
  status: { "on hand": "", ordered: "ordered", borrowed: "borrowed", wanted: "wished for" },
  had: { unknown: "", available: "", discontinued: "no longer made", "from a donor": "only from a donor" },
  find: "Find…",
  findOne: (label: string) => `${label}: find by name`,
  aFewLetters: "A few letters of its name, in any order",
  found: "Parts of that name",
  nothingOfThatName: "No part has all of these in its name.",
  andMore: (more: number) => `And ${more} more: type another word.`,
  moreByName: (more: number) => `${more} more: find them by name`,
};

/** In ui/RackSlot.tsx. */
export const rackSlot = {
  fromYourRack: "from your rack",
  noLongerOnThe: "is no longer on the rack",
  tiedOn: "Tied on for one try only",
  notThisOne: "It is another one like it",
};

/** In ui/Terms.tsx. */
export const terms = {
  whatMeans: (words: string | undefined) => `What ${words} means`,
};

/** In ui/WhatIf.tsx. */
export const whatIf = {
  topSpeed: "Top speed",
  runTime: "Run time",
  peakAmps: "Peak amps",
  lowestVolts: "Lowest volts",
  motorAt20Min: "Motor at 20 min",
  whatThisChanges: "What this changes",
  stopsThenAndNow: (stopsThen: number, cautionsThen: number, stopsNow: number, cautionsNow: number) =>
    `${countWords(stopsThen, "stop")}, ${countWords(cautionsThen, "caution")}; now ${stopsNow} and ${cautionsNow}.`,
  goes: (gone: string) => `Goes: ${gone}`,
  comes: (come: string) => `Comes: ${come}`,
  speedRunTimeAnd: "Speed, run time and findings stay as they are.",
  workingItOut: "Working it out…",
  putItIn: "Put it in",
  leaveItAsIt: "Leave it as it is",
};

/** In ui/Scrubbed.tsx. */
export const scrubbed = {
  over: (name: string, xLabel: string) => `${name} over ${xLabel}`,
};
