/** What the bin says. */
import { day } from "./locale";

/** In bin/Undo.tsx. */
export const undo = {
  isInTheBin: (name: string) => (
    <>
      <b>{name}</b> is in the bin for 30 days.
    </>
  ),
  bringItBack: "Bring it back",
  close: "Close",
};

/** In bin/BinList.tsx. */
export const binList = {
  kinds: {
    build: "build",
    setup: "setup",
    trial: "trial",
    entry: "journal",
    part: "part",
    line: "line of a log",
    photo: "photo",
    rider: "rider",
  },
  bin: "Bin",
  whatWasDeletedStays: "What was deleted stays here for 30 days, then it is gone for good.",
  empty: "Empty.",
  until: (kind: string, within: string, by: string, until: string) =>
    `${kind}${within && ` of ${within}`}${by && `, by ${by}`}, until ${day(until)}`,
  bringNamedBack: (name: string) => `Bring ${name} back`,
  bringBack: "Bring back",
  deleteForGood: (name: string) => `Delete ${name} for good`,
  forGood: "For good",
  older: "Older",
};
