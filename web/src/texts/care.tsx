/** What Care says. */
import { plainNumber } from "./units";

/** In stages/care/Charging.tsx. */
export const charging = {
  both: "both",
  hours: (whole: number, minutes: number) => `${whole} h ${String(minutes).padStart(2, "0")} min`,
  its: (charges: number) => `its ${charges}`,
  packsAtOnce: (all: string) => `${all} at a time`,
  chargersAtOnce: (all: string, sideBySide: number) => `${all}, ${sideBySide} at a time`,
  oneAfterTheOther: (all: string) => `${all} one after the other`,
  charging: "Charging",
  theEndVoltsAnd: "The end volts and the chemistry must be the pack's own. Each pack on its own charger, or the bank in place.",
  fitsEndsAtV: (endV: number) => `fits: ends at ${plainNumber(endV)} V`,
  doesNotFit: (why: string) => `does not fit: ${why}`,
  forOneChargeFor: (hours: string, charges: number, totalHours: string, p: string) =>
    `${hours} for one charge${charges > 1 ? `, ${totalHours} for ${p}` : ""}`,
  aPackForCharges: (charges: number, totalHours: string, p: string) =>
    `a pack${charges > 1 ? `, ${totalHours} for ${p}` : charges ? "" : "; the others are done sooner without it"}`,
  forTheBankIn: "for the bank in place",
  togetherChargersHaveEvery: (sharing: number, allHours: string) => (
    <>
      Together {sharing === 2 ? "both chargers" : `these ${sharing} chargers`} have every pack full after <b>{allHours}</b>.
    </>
  ),
  noChargerInThis: "No charger in this setup yet.",
  endsAt: "Ends at",
  chargesWith: "Charges with",
  packsAtATime: "Packs at a time",
  madeFor: "Made for",
  charges: "Charges",
  packsOneByOne: "packs one by one",
  theBankInPlace: "the bank in place",
  itsPlug: "Its plug",
  oneOfItsOwn: "one of its own",
  fitsOtherVoltsToo: "fits other volts too",
  chargesThrough: "Charges through",
  thePacksOwnPort: "the pack's own port or dock",
  theContactsItGives: "the contacts the machine draws from",
  whereItCharges: "Where it charges",
  nobodyNear: "nobody near",
  coldestAirThere: "Coldest air there",
  wasOpenedOrMended: "was opened or mended",
  bankCutOffMeanwhile: "Bank cut off meanwhile",
  packsStayJoinedMeanwhile: "packs stay joined meanwhile",
  takeItOut: "Take it out",
  addACharger: "Add a charger",
};

/** In stages/care/Journal.tsx. */
export const journal = {
  photosOfThisEntry: "Photos of this entry",
  journalOf: (name: string, text: string) => `Journal of ${name}: ${text}`,
  journal: "Journal",
  repairsChangesCrashesAnd: "Repairs, changes, crashes, and every stop that was overruled.",
  whatHappened: "What happened",
  whatHappenedAsked: "What happened?",
  kindOfEntry: "Kind of entry",
  writeItDown: "Write it down",
  thatDidNotWork: "That did not work. Your text is still here.",
  deleteThisEntry: "Delete this entry",
  showOlderEntries: "Show older entries",
  nothingWrittenYet: "Nothing written yet.",
};

/** In stages/care/Care.tsx. */
export const care = {
  care: "Care",
  chargingUpkeepAndWhat: "Charging, upkeep and what happened.",
};
