import { lazy } from "react";
import { planMark, type Stage } from "../stage";

export const care: Stage = {
  name: "care",
  Panel: lazy(() => import("./Care").then((m) => ({ default: m.Care }))),
  mark: (known) => planMark(known, { done: "fits" }),
};
