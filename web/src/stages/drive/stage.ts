import { lazy } from "react";
import { planMark, type Stage } from "../stage";

export const drive: Stage = {
  name: "drive",
  Panel: lazy(() => import("./Drive").then((m) => ({ default: m.Drive }))),
  mark: planMark,
};
