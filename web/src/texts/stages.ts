/** What all stages share. */
import { countWords } from "./units";

/** In stages/stage.ts. */
export const stage = {
  stops: (stops: number) => countWords(stops, "stop"),
  toLookAt: (open: number) => `${open} to look at`,
  open: (mine: number) => `${mine} open`,
  done: "done",
  checked: (done: number) => `${done} checked`,
  notStarted: "not started",
};

/** In stages/LeadFields.tsx. */
export const leadFields = {
  fuseOfYours: "Fuse of your rack",
  fromAReel: "Cut from a reel of yours",
  noReel: "As entered below",
  crimp: "crimp",
  solder: "solder",
  copperOneWire: "Copper, one wire",
  wire: "Wire",
  lengthOneWay: "Length one way",
  insulation: "Insulation",
  madeOf: "Made of",
  wiresInTheBundle: "Wires in the bundle",
  wiresSideBySide: "Wires side by side",
  endsJoinedBy: "Ends joined by",
  notKnown: "not known",
  colourPlus: "Colour, plus",
  colourMinus: "Colour, minus",
  airAroundIt: "Air around it",
  lugsAtBothEnds: "lugs at both ends",
  chooseByGauge: "Choose by gauge",
  enterMmInstead: "Enter mm² instead",
  fuse: "Fuse",
  kind: "Kind",
  itsDcVolts: "Its DC volts",
  sitsInThe: "Sits in the",
  plusLead: "plus lead",
  minusLead: "minus lead",
  fromThePacks: "From the packs",
  breaksAShortOf: "Breaks a short of",
  holderStands: "Holder stands",
  holdersDcVolts: "Holder's DC volts",
};
