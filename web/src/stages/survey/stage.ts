import { lazy } from "react";
import { planMark, type Stage } from "../stage";

export const survey: Stage = {
  name: "survey",
  Panel: lazy(() => import("./Survey").then((m) => ({ default: m.Survey }))),
  // Done when everything it asks was looked at, whichever stage that is of.
  mark: (known) => planMark(known, { open: known.unasked }),
};
