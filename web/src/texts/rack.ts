/** What the rack's screens say. */

/** In rack/kinds.ts. */
export const kinds = {
  names: {
    packs: "Packs",
    motors: "Motors",
    controllers: "Controllers",
    chargers: "Chargers",
    throttles: "Throttles",
    gearboxes: "Gearboxes",
    wheels: "Wheels",
    fuses: "Fuses",
    wires: "Wire",
    plugs: "Plugs",
    switches: "Switches",
    guards: "Low-volt guards",
    converters: "Converters",
    hardware: "Sprockets, chains and the like",
    leads: "Leads",
    "plug colours": "Plug colours",
  },
};

/** In rack/PartFields.tsx. */
export const partFields = {
  kind: "Kind",
  knobModule: "knob module before the pedal",
  labelVolts: "Volts on its label",
  mostVolts: "Most volts it stands",
  lowCutOff: "Low cut-off",
  packSideLimit: "Bank-side limit",
  motorSideLimit: "Motor-side limit",
  readsAThrottle: "Reads a throttle",
  needsHalls: "Works only with Hall sensors",
  brakeInput: "Has an input for the brake lever",
  softStart: "Soft start",
  putsBack: "Puts back on release",
  length: "Longest side, with plugs",
  width: "Second side",
  height: "Third side",
  whatItIs: "What it is",
  teeth: "Teeth",
  chainSize: "Chain size, as stamped",
  links: "Links",
  fits: "Fits (shaft, bore, bolts)",
  rated: "Rated for",
  atDcVolts: "At DC volts",
  mass: "Mass",
  chemistry: "Chemistry",
  endVolts: "Stops at",
  ampsAPort: "Amps, each port",
  ports: "Ports",
  plugOfIt: "Its plug",
  returns: "Snaps back by itself when let go",
  ratio: "Ratio",
  efficiency: "Efficiency",
  standsNm: "Stands at the wheel",
  across: "Across",
  tyre: "Tyre",
  dcVolts: "DC volts on it",
  breaks: "Breaks up to",
  gauge: "Gauge",
  copper: "Copper, if sold so",
  insulation: "Insulation stands, °C",
  colour: "Colour",
  left: "Left on the reel",
  poles: "Contacts passed",
  browned: "Browned or melted",
  setPoint: "Switches off at",
  comesBackAt: "Comes back at",
  from: "Works from",
  upTo: "Up to",
  gives: "Gives",
  atMost: "At most",
};

/** In rack/AboutFields.tsx. */
export const aboutFields = {
  status: "Where it is",
  onHand: "on hand",
  ordered: "ordered",
  borrowed: "borrowed",
  wanted: "only wished for",
  expected: "Expected",
  whose: "Whose it is",
  goesBack: "Goes back",
  state: "How it is",
  notLooked: "not looked at",
  retired: "retired for good",
  bought: "Bought",
  asked: "What is asked for it",
  paid: "What it cost",
  currency: "Currency",
  where: "Where",
  had: "Can one still be had",
  nobodyKnows: "not known",
  stillMade: "yes",
  noLongerMade: "no longer made",
  seen: "Seen at",
  notes: "Notes",
  noPrice: "Take the price out",
};

/** In rack/NewPart.tsx. */
export const newPart = {
  aNewPart: "A part of yours",
  whatItsLabelSays: "Enter what its label says. What it does not say stays empty, and is then taken as typical and marked so.",
  whatItIs: "What it is",
  kind: "Kind",
  like: "Like one of these",
  fromNothing: "none of these: I type its label",
  calls: "What you call it",
  own: (kind: string) => `${kind}: one of mine`,
  howMany: "How many",
  eachGetsASticker: "Each of these gets a sticker with a letter, so that what happens to one is known of that one.",
  enterAWholeNumber: "Enter a whole number from 1.",
  label: "Its label",
  thing: "The thing itself",
  putItOnThe: "Put it on the rack",
};

/** In rack/RackPage.tsx and rack/Crumbs.tsx. */
export const rackPage = {
  rack: "Rack",
  addAPart: "Add a part",
  find: "Find a part by any word",
  kindOfPart: "Kind of part",
  all: "All",
  opening: "Opening the rack…",
  nothingHereYet: "Nothing here yet",
  whatYouOwnIs:
    "What you own is not on the list to buy, and a pack with its sticker brings along what was measured on it. Begin with the part in your hand.",
  nothingFound: "No part has these words. Take one away, or look at another kind.",
  more: (count: number) => `Show more of the other ${count}`,
  out: (why: string) => `${why}: out of every plan`,
  ordered: "ordered",
  orderedFor: (day: string) => `ordered, expected ${day}`,
  borrowed: "borrowed",
  borrowedFrom: (whose: string) => `borrowed from ${whose}`,
  wanted: "only wished for",
  left: (length: string) => `${length} left`,
  oneLess: (label: string) => `One ${label} less`,
  oneMore: (label: string) => `One ${label} more`,
};

/** In rack/RackShelf.tsx. */
export const rackShelf = {
  rack: "Rack",
  addAPart: "Add a part",
  nothingOnTheRack: "Nothing on the rack yet. Parts you own are not on the list to buy.",
  isOut: (name: string, why: string) => `${name} ${why}: out of every plan`,
  sticker: (label: string, letter: string) => `${label} ${letter}`,
  count: (count: number) => `${count} ×`,
  more: (count: number) => `${count} more kinds on the rack`,
};

/** In rack/PartPage.tsx. */
export const partPage = {
  label: "Its label",
  whatItIs: "What it is",
  name: "What you call it",
  sticker: "Sticker",
  thing: "The thing itself",
  whereItIsUsed: "Where it is used",
  inNoSetup: "In no setup yet.",
  changeThereToo:
    "What you change here changes there too, unless the setup has it otherwise. Untick where it shall stay as it is.",
  changeIn: (build: string, setup: string) => `Change it in ${build}: ${setup} too`,
  inUseNow: "in use now",
  save: (count: number) => (count === 0 ? "Save" : count === 1 ? "Save, in 1 setup too" : `Save, in ${count} setups too`),
  asItWas: "As it was",
  startWithIt: "What would it take? Start a build with it",
  retireIt: "Retire it",
  backIntoUse: "Back into use",
  takeItOff: "Take it off the rack",
  notThere: "This part is not on the rack. It may lie in the bin, or in another garage.",
  bought: (day: string) => `bought ${day}`,
  isOut: (name: string, why: string) => `${name} ${why}: out of every plan.`,
  othersLikeIt: "Others like it",
  whatBecomesOfIt: "What becomes of it",
};

/** In rack/Happened.tsx. */
export const happened = {
  yes: "yes",
  no: "no",
  whatHappened: "What happened to it",
  oneYesCanTake: "One yes can take it out of every plan.",
  names: {
    dropped: "Dropped",
    wet: "Got wet",
    swollen: "Swollen",
    opened: "Opened",
    warm: "Warm while it rests",
  },
  ifYes: (what: string) => `If yes: ${what.slice(0, 1).toLowerCase()}${what.slice(1)}`,
  lookedAt: "I have looked at it…",
  whatDidYouSee: "What did you see or measure?",
  itIsSo: "It is so: back into plans",
  backIn: (seen: string) => (seen ? `Looked at, back in: ${seen}` : "Looked at, back in."),
};

/** In rack/Partner.tsx. */
export const partner = {
  ridesWith: "Kept together with",
  part: "Part them",
  packsThatAge: "Packs that are used together age together. Keep such a pair together, and plans take both or neither.",
  nobody: "nobody",
  noOther: "there is no other pack",
};

/** In rack/Life.tsx. */
export const life = {
  whatItHolds: "What it holds",
  howMuchItSags: "How much it sags",
  at10A: (volts: string) => `${volts} V at 10 A`,
  readings: (count: number) => (count === 1 ? "by 1 reading" : `by ${count} readings`),
  asOnTheLabel: "not measured: as its label lets one expect",
  span: (low: string, high: string) => `${low} to ${high}`,
  today: "today",
};

/** In rack/Log.tsx. */
export const log = {
  log: "Log",
  addAReading: "Add a reading",
  addANote: "Add a note",
  close: "Close",
  nothingYet: "Nothing yet. Readings from Power, Hookup and Prove land here by themselves.",
  noNotes: "Nothing yet.",
  more: "Show more",
  what: "What was read",
  names: {
    rested: "Rested volts",
    capacity: "Capacity",
    resistance: "Resistance",
    charged: "Charged",
    mishap: "Happened",
    note: "Note",
  },
  how: {
    rested: "Volts on its own terminals, an hour after it was last used or charged.",
    capacity: "Amp-hours it gave from full to the guard, or took from there to full by a meter in the lead.",
    resistance: "Volts at rest less volts under a known load, over the amps of the load. Power does this sum for you.",
    charged: "Amp-hours the charger put back, by its display or a meter in the lead.",
    note: "Anything worth finding again.",
  },
  reading: (unit: string) => `Reading, ${unit}`,
  plusMinus: "Give or take",
  asUsual: "as usual",
  day: "Day (empty: today)",
  note: "Note",
  aNumberAbove: "Enter a number above nothing, such as 3,2 or 27.9.",
  write: "Write it down",
  remove: (what: string, day: string) => `Take out ${what} of ${day}`,
  from: {
    "by hand": "by hand",
    Power: "from Power",
    Hookup: "from Hookup",
    Prove: "from Prove",
    Care: "from Care",
  },
};
