/** What the frame around every page says. */
import { countWords } from "./units";

/** In frame/Outbox.tsx. */
export const outbox = {
  keptHereSentWhen: (waiting: number) => `${countWords(waiting, "entry", "entries")} kept here, sent when the server answers. `,
  refusedByTheServer: (refused: number) => `${countWords(refused, "entry", "entries")} refused by the server. `,
  tryAgain: "Try again",
  takeItOutAs: "Take it out, as a file",
};

/** In frame/Shortcuts.tsx. */
export const shortcuts = {
  shiftU: "Shift + u",
  byKey: (key: string) => `key ${key}`,
  stages: "stages",
  previousAndNextStation: "previous and next station",
  firstFinding: "first finding",
  setups: "setups",
  theBaselineAndBack: "the baseline, and back",
  undo: "undo",
  redo: "redo",
  findBuildsSetupsStations: "find builds, setups, stations, parts, trials, and do what keys do",
  thisList: "this list",
  does: {
    f: "Go to the first finding",
    s: "Open the setups",
    b: "Go to the baseline, and back",
    u: "Undo",
    U: "Redo",
  },
  find: "Find",
  findBuildsSetupsStationsParts: "Find builds, setups, stations, parts and trials",
  aBuildSetupStation: "A build, setup, station, part, or what a key does",
  found: "Found",
  nothingOfThatName: "Nothing of that name.",
  keys: "Keys",
  theyWorkWhileNo: "They work while no field has the focus.",
  keysAreOn: "Keys are on",
  onTheRack: "on the rack",
  setupOf: (build: string) => `setup of ${build}`,
};

/** In frame/Header.tsx. */
export const header = {
  units: "Units",
  mph: "mph",
  kmH: "km/h",
  troubleWhenItGoes: "Trouble: when it goes wrong",
  trouble: "Trouble",
  findKey: "Find (key /)",
  light: "Light",
  dark: "Dark",
  keysKey: "Keys (key ?)",
  pluckyGeckoToThe: "Plucky Gecko, to the garage",
  pluckyGecko: "Plucky Gecko",
  garage: "Garage",
};
