/** What is said where no page opens. */

/** In app/App.tsx. */
export const app = {
  nothingHere: "Nothing here",
  backToTheGarage: "Back to the garage",
  thisPageBroke: "This page broke",
  whatYouTypedIs:
    "What you typed is kept in this browser. Reload the page; if it breaks again, go back to the garage and open another stage.",
  reload: "Reload",
  opening: "Opening…",
  theServerDoesNot: "The server does not answer. Is it running? Reload to try again.",
};
