/** What the front door says. */

/** In door/Door.tsx. */
export const door = {
  pluckyGecko: "Plucky Gecko",
  code: "Code",
  itIsPrintedWhere: "It is printed where the server was started.",
  openYourGarage: "Open your garage",
  signIn: "Sign in",
  thisMakesTheAccount: "This makes the account on this computer. Nothing leaves it.",
  yourBuildsAreWhere: "Your builds are where you left them.",
  yourName: "Your name",
  password: "Password",
  atLeastEightCharacters: "At least eight characters.",
  nameOfTheGarage: "Name of the garage",
  suchAsTheStreet: "Such as the street, or what it smells of.",
  openTheGarage: "Open the garage",
};

/** In door/Join.tsx. */
export const join = {
  anInvitation: "An invitation",
  lookingAtIt: "Looking at it…",
  toTheGarage: "To the garage",
  signInInstead: "Sign in instead",
  letsYouInBeside: (by: string, role: string) =>
    `${by || "Its owner"} invites you${role === "viewer" ? " to look" : ""}. The garages you have stay as they are.`,
  youAreSignedIn: (username: string | null | undefined) => (
    <>You are signed in as {username}. For an account of its own sign out first, under Household, and open the link again.</>
  ),
  comeInAs: (username: string | null | undefined) => <>Come in as {username}</>,
  notNow: "Not now",
  letsYouInChoose: (by: string, role: string) =>
    `${by || "Its owner"} invites you${role === "viewer" ? " to look" : ""}. Choose a name and a password of your own.`,
  yourName: "Your name",
  password: "Password",
  atLeastEightCharacters: "At least eight characters.",
  comeIn: "Come in",
};
