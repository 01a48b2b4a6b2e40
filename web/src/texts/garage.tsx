/** What the garage says. */
import { day, decimals, fixed, minute } from "./locale";
import { countWords, sentence, type UnitChoice } from "./units";

/** In garage/Account.tsx. */
export const account = {
  phone: "phone",
  tablet: "tablet",
  computer: "computer",
  passwordNow: "Password now",
  newPassword: "New password",
  changedEveryOtherBrowser: "Changed. Every other browser is signed out.",
  changeThePassword: "Change the password",
  signedInWith: "Signed in with",
  thisOne: "(this one)",
  sinceLastUsed: (address: string, created: string, seen: string) =>
    `${address}, since ${minute(created)}, last used ${minute(seen)}`,
  signTheOfOut: (browser: string, address: string) => `Sign the ${browser} of ${address} out`,
  signOut: "Sign out",
  signOutEverywhereElse: "Sign out everywhere else",
  deleteThisAccount: "Delete this account…",
  deleteYourAccount: "Delete your account?",
  itCannotBeBrought:
    "It cannot be brought back. A garage nobody else belongs to goes with it, with all its builds; one that others belong to stays theirs.",
  takeAlongWhatYou: "Take along what you may want later:",
  allOfItAs: (name: string) => `${name}, all of it as one file`,
  yourPassword: "Your password",
  keepIt: "Keep it",
  deleteItForGood: "Delete it for good",
  yourAccount: "Your account",
};

/** In garage/Backups.tsx. */
export const backups = {
  kb: (bytes: number) => `${Math.max(1, Math.round(bytes / 1e3))} kB`,
  mb: (bytes: number) => `${fixed(bytes / 1e6, 1)} MB`,
  putBackWhatWas: (made: string) => `Put back what was there on ${minute(made)}?`,
  whatIsThereNow:
    "What is there now is backed up first. Everybody has to sign in anew, and unsaved work on other devices becomes a file there.",
  garages: (garages: number) => countWords(garages, "garage"),
  builds: (builds: number) => countWords(builds, "build"),
  setups: (setups: number) => countWords(setups, "setup"),
  trials: (trials: number) => countWords(trials, "trial"),
  accounts: (accounts: number) => countWords(accounts, "account"),
  lastChangedZ: (latest: string) => `last changed ${minute(`${latest}Z`)}`,
  nothingWasChangedIn: "nothing was changed in it",
  readingItThrough: "Reading it through…",
  leaveIt: "Leave it",
  puttingItBack: "Putting it back…",
  putItBack: "Put it back",
  backups: "Backups",
  ofTheWholeServer:
    "Of the whole server, made while it runs and checked. Kept: all of the last day, then one of each of seven days, four weeks and twelve months. Keep one on another device too.",
  copyingAndChecking: "Copying and checking…",
  backUpNow: "Back up now",
  backupKeptElsewhere: "Backup kept elsewhere",
  sendingAndChecking: (sent: number) => `Sending and checking… ${Math.round(sent * 100)} %`,
  takeInAFile: "Take in a file…",
  noneYet: "None yet.",
  saveAsFile: "Save as file",
  putBack: "Put back…",
};

/** In garage/Garages.tsx. */
export const garages = {
  nameOfAnotherGarage: "Name of another garage",
  anotherGarageSuchAs: "Another garage, such as the club's",
  makeIt: "Make it",
  leaveAsked: (name: string) => `Leave ${name}?`,
  whatBecomesOfItsMachines:
    "Its machines stay with its other members. If you are the last one, the garage goes too: all its builds are deleted for good.",
  takeAllOfIt: (file: string) => (
    <>
      <a className="underline underline-offset-2" href={file} download>
        Take all of it along as one file
      </a>{" "}
      first, if you may want it later.
    </>
  ),
  nameOfTheGarage: "Name of the garage, once more",
  stay: "Stay",
  deleteItAndLeave: "Delete it and leave",
  leaveIt: "Leave it",
  garages: "Garages",
  here: "(here)",
  goTo: (name: string) => `Go to ${name}`,
  goThere: "Go there",
  saveAllOfAs: (name: string) => `Save all of ${name} as one file`,
  saveAsFile: "Save as file",
  leaveNamed: (name: string) => `Leave ${name}`,
  leave: "Leave…",
  theFileHoldsEvery:
    "The file holds every build with its whole history, riders, rack and house rules. Import reads it in again, here or elsewhere.",
};

/** In garage/roles.ts. */
export const roles = {
  everythingAndWhoBelongs: "everything, and who belongs to it",
  allWorkOnThe: "all work on the machines",
  looksChangesNothing: "looks, changes nothing",
};

/** In garage/Invitations.tsx. */
export const invitations = {
  inviteByALink: "Invite by a link",
  asWhat: "As what",
  goodFor: "Good for",
  oneDay: "1 day",
  days: (n: number) => `${n} days`,
  makeTheLink: "Make the link",
  shownThisOnceWhoever: "Shown this once. Whoever has it gets in, one account and no more.",
  madeGoodUntil: (created: string, expires: string) => `made ${day(created)}, good until ${day(expires)}`,
  takeTheInvitationOf: (role: string, created: string) => `Take the invitation of a ${role} of ${day(created)} back`,
  takeBack: "Take back",
};

/** In garage/SecurityLog.tsx. */
export const securityLog = {
  words: {
    "signed in": "signed in",
    "signed out": "signed out",
    failed: "wrong password",
    password: "password",
    "let in": "let in",
    role: "may now be",
    "taken out": "taken out",
  },
  whatHappenedAroundThese: "What happened around these accounts",
  nothingYet: "Nothing yet.",
  from: (address: string) => `, from ${address}`,
  older: "Older",
};

/** In garage/Household.tsx. */
export const household = {
  emergencyNumberShownUnder: "Emergency number, shown under Trouble",
  suchAs112Or: "such as 112 or 911",
  keep: "Keep",
  household: "Household",
  you: "(you)",
  whatMayDo: (username: string) => `What ${username} may do`,
  takeOut: (username: string) => `Take ${username} out`,
  somebodyElseWorksOn: "Somebody else works on these builds? Make the name and a first password.",
  nameToSignIn: "Name to sign in with",
  name: "Name",
  firstPassword: "First password",
  password: "Password",
  letThemIn: "Let them in",
  thisIsTheDemo: "This is the demo garage: it opens without signing in.",
  signOut: "Sign out",
};

/** In garage/ImportFile.tsx. */
export const importFile = {
  words: { waiting: "Waiting its turn", checking: "Checking", storing: "Storing" },
  thatDidNotWork: "That did not work.",
  fileOfABuild: "File of a build or a garage",
  import: "Import",
  beingReadIn: "Being read in",
  sending: "Sending",
  stop: "Stop",
  nothingWasImported: "Nothing was imported",
  andMoreProblems: (problems: number) => `and ${problems} more`,
  itIsInThe: "It is in the garage",
  from: (builds: number, name: string) => `${countWords(builds, "build")} from ${name}.`,
  andMoreBuilds: (builds: number) => `and ${builds} more`,
  leftOutBecauseIt: "Left out, because it could not be read:",
  photos: (count: number) => `With ${countWords(count, "photo")}.`,
  itsRidersAndParts: "Its riders and parts were here already.",
  newHereAndOn: (riders: number, parts: number) =>
    `New here: ${countWords(riders, "rider")} and ${countWords(parts, "part")} on the rack. What was here already was not added again.`,
  itsUnitsHouseRules: "Its units, house rules and emergency number are this garage's now.",
  unitsHouseRulesAnd: "Units, house rules and emergency number of this garage stay as they are.",
  itWasTheGarage: (members: string) =>
    `It was the garage of ${members}. Their names stay with what they did; they get in here by invitation only.`,
};

/** In garage/Riders.tsx. */
export const riders = {
  riders: "Riders",
  years: (ageYears: number) => `${ageYears} years`,
  remove: (name: string) => `Remove ${name}`,
  name: "Name",
  ridersName: "Rider's name",
  age: "Age",
  ridersAge: "Rider's age",
  add: "Add",
  enterTheAgeIn: "Enter the age in years, such as 8, or leave it empty.",
};

/** In garage/HouseRules.tsx. */
export const houseRules = {
  fuseAndWire: "Fuse and wire",
  aFuseLetsA:
    "A fuse lets a third more than its rating through for minutes: the careful school looks at how hot the wire gets meanwhile.",
  carefulTheFuseOpens: "careful: the fuse opens before the wire is too hot",
  commonRatingUpTo: "common: rating up to what the wire stands",
  wireTable: "Wire table",
  vehicleLeadsLieIn: "Vehicle leads lie in free air in short runs; building wire is counted for walls and is far more cautious.",
  vehicleTableBundledAnd: "vehicle table, bundled and derated",
  buildingWire: "building wire",
  fusesAtASingle: "Fuses at a single pack",
  withOneRowThe:
    "With one row the main fuse close to the pack guards all that lies behind it. Rows side by side need their own in any school.",
  oneMainFuseClose: "one main fuse close to the pack",
  oneAtThePack: "one at the pack and a main fuse",
  lowVoltGuard: "Low-volt guard",
  aModuleActsWhen: "A module acts when nobody looks; a child does not watch a voltmeter.",
  aModuleThatSwitches: "a module that switches off",
  watchingAVoltmeterIs: "watching a voltmeter is enough",
  joints: "Joints",
  twistCapsAreMade:
    "Twist caps are made for walls that stand still. A machine that shakes loosens them, and a loose joint burns.",
  crimpedOrSolderedTwist: "crimped or soldered; twist caps are flagged",
  twistCapsAreOnly: "twist caps are only noted",
  voltsOverTheMotors: "Volts over the motor's plate",
  oneStepUpAbout:
    "One step up, about half more, is fine if run briefly and cooled; beyond it the heat model must clear the course.",
  oneStepUpTo: decimals("one step up, to 1.5 times"),
  aLittleTo1: decimals("a little, to 1.25 times"),
  toTwiceWithThe: "to twice, with the heat watched",
  brakeCutOff: "Brake cut-off",
  theLeverThatStops: "The lever that stops the motor is the rider's last word when the throttle sticks.",
  keepItWired: "keep it wired",
  itMayBeLeft: "it may be left out",
  houseRules: "House rules",
  wherePractitionersDifferThese:
    "Where practitioners differ, these choose the school this garage follows. A stop on which all agree stays.",
};

/** In garage/Strays.tsx. */
export const strays = {
  unsavedWorkOfAnother: "Unsaved work of another garage",
  onThisDeviceLies: (
    <>
      <b>On this device lies unsaved work of another database or account.</b> It is not put into any setup here. Keep it as a
      file, and type what you need of it.
    </>
  ),
  keep: (name: string) => `Keep ${name}`,
  throwAway: (name: string) => `Throw ${name} away`,
};

/** In garage/GarageHome.tsx. */
export const garageHome = {
  stops: (stops: number) => countWords(stops, "stop"),
  toLookAt: (looks: number) => `${looks} to look at`,
  nothingOpen: "nothing open",
  setups: (setups: number) => countWords(setups, "setup"),
  cannotBeComputed: (trouble: string, units: UnitChoice) => `Cannot be computed: ${sentence(trouble, units)}`,
  workedOn: (workedOn: string) => `Worked on: ${workedOn}.`,
  weakLink: "Weak link",
  notKnownYet: "not known yet",
  lastTrial: "Last trial",
  planned: "Planned",
  stages: "Stages",
  next: "Next",
  open: (nextStage: string) => `Open ${nextStage}`,
  garage: "Garage",
  noGarage: "No garage",
  otherGarages: "Other garages",
  builds: (total: number, stops: number, builds: number) => {
    const toClear = stops ? `, ${countWords(stops, "stop")} to clear${builds < total ? ` in the ${builds} shown` : ""}` : "";
    return `${countWords(total, "build")}${toClear}`;
  },
  opening: "Opening…",
  startABuild: "Start a build",
  theGarageCannotBe: "The garage cannot be read just now. Reload to try again.",
  youBelongToNo: "You belong to no garage",
  makeOneOfYour: "Make one of your own, or open the link of an invitation to another.",
  anEmptyGarageAnd: "An empty garage, and a good afternoon for it",
  sayWhatMachineYou:
    "Say what machine you have and which packs are on the shelf. In about two minutes you see how fast each arrangement goes, how long, and what would stop it.",
  startYourFirstBuild: "Start your first build",
  showMoreOfThe: (total: number) => `Show more of the ${total} builds`,
  rackAndRiders: "Rack and riders",
};
