import { lazy } from "react";
import { planMark, type Stage } from "../stage";

export const protect: Stage = {
  name: "protect",
  Panel: lazy(() => import("./Protect").then((m) => ({ default: m.Protect }))),
  mark: planMark,
};
