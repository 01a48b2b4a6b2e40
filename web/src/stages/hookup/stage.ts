import { lazy } from "react";
import { type Stage, tickMark } from "../stage";

export const hookup: Stage = {
  name: "hookup",
  Panel: lazy(() => import("./Hookup").then((m) => ({ default: m.HookupStage }))),
  mark: (known) => tickMark(known, (step) => !step.startsWith("stand_"), "now"),
};
