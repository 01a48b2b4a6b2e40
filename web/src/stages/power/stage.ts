import { lazy } from "react";
import { planMark, type Stage } from "../stage";

export const power: Stage = {
  name: "power",
  Panel: lazy(() => import("./Power").then((m) => ({ default: m.Power }))),
  mark: planMark,
};
