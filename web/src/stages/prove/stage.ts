import { lazy } from "react";
import { type Stage, tickMark } from "../stage";

export const prove: Stage = {
  name: "prove",
  Panel: lazy(() => import("./Prove").then((m) => ({ default: m.Prove }))),
  mark: (known) => tickMark(known, (step) => step.startsWith("stand_"), known.ride ? "done" : "now"),
};
