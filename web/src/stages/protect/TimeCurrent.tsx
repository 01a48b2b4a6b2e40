/** When the fuse opens and how long the wire stands it, on logarithmic axes. */
import { memo } from "react";
import type { Choice, Curve } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { timeCurrent as say } from "../../texts/protect";
import { plainNumber, sizeWords } from "../../texts/units";
import { Plot } from "../../ui/Plot";
import { Block } from "../Heading";
import { at } from "./GuardPlot";

export const TimeCurrent = memo(function TimeCurrent({
  choice,
  which,
  name = say.theMainLead,
  use,
}: {
  choice: Choice;
  which: "chosen" | "best";
  name?: string;
  /** Puts this pair forward, to see what it changes. */
  use?: () => void;
}) {
  const { units } = useSettings();
  const pick = choice[which];
  const lines = choice.curves?.[which];
  if (!pick || !lines) return null;
  const { shortest, longest, wire: heat, withstand } = lines as Record<"shortest" | "longest" | "wire" | "withstand", Curve>;
  const fails = pick.fails.includes("wire") || pick.fails.includes("withstand");
  const fault = pick.numbers.prospective_a!;
  const low = Math.max(Math.min(pick.rating_a, choice.launch_peak_a) * 0.7, 1);
  return (
    <Block
      title={`${plainNumber(pick.rating_a)} A × ${sizeWords(pick.size, units)}`}
      line={fails ? say.theWireIsToo : say.theFuseOpensFirst}
    >
      <Plot
        title={say.secondsToOpenAgainst(pick.rating_a, sizeWords(pick.size, units))}
        xLabel={say.ampsThrough(name)}
        yLabel={say.seconds}
        log
        x={[low, Math.max(fault * 1.6, pick.rating_a * 12)]}
        y={[0.01, 2000]}
        zones={[
          {
            x0: low,
            x1: Math.max(choice.launch_peak_a, low * 1.01),
            y0: 0.01,
            y1: Math.max(choice.launch_s, 0.02),
            colour: "var(--amber-tint)",
            opacity: 0.9,
          },
        ]}
        bands={
          longest.x.length
            ? [{ x: longest.x, low: longest.x.map((x) => at(shortest, x)), high: longest.y, colour: "var(--ink)", opacity: 0.14 }]
            : []
        }
        lines={[
          { ...shortest, colour: "var(--ink-2)", width: 1.3 },
          { ...longest, colour: "var(--ink)", width: 2 },
          { ...heat, colour: fails ? "var(--hot-deep)" : "var(--leaf-deep)", width: 2.6 },
          ...(withstand.x.length
            ? [{ ...withstand, colour: fails ? "var(--hot-deep)" : "var(--leaf-deep)", dash: "6 3", width: 1.6 }]
            : []),
          { x: [fault, fault], y: [0.01, 2000], colour: "var(--ink)", dash: "3 3", width: 1.3 },
        ]}
        words={[
          {
            x: low * 1.06,
            y: 0.016,
            text: say.launchAS(choice.launch_peak_a, choice.launch_s),
            colour: "var(--amber-text)",
          },
          { x: fault * 0.95, y: 700, text: say.shortA(fault), anchor: "end" },
          {
            x: heat.x[Math.floor(heat.x.length / 3)] ?? low,
            y: heat.y[Math.floor(heat.y.length / 3)] ?? 1,
            text: say.tooHot(sizeWords(pick.size, units)),
            colour: fails ? "var(--hot-text)" : "var(--leaf-text)",
            bold: true,
          },
          ...(withstand.x.length
            ? [
                {
                  x: Math.max(fault * 1.6, pick.rating_a * 12) * 0.97,
                  y: Math.min(Math.max(at(heat, fault), at(withstand, fault)) * 9, 300),
                  text: say.dashedAShortIt,
                  colour: "var(--ink-2)",
                  anchor: "end" as const,
                },
              ]
            : []),
          {
            x: longest.x[Math.floor(longest.x.length / 2)] ?? low,
            y: (longest.y[Math.floor(longest.y.length / 2)] ?? 1) * 0.75,
            text: say.fuseOpen,
            colour: "var(--ink-2)",
          },
        ]}
      />
      {use && (
        <button type="button" className="btn mt-1" onClick={use}>
          {say.whatWouldAChange(pick.rating_a, sizeWords(pick.size, units))}
        </button>
      )}
    </Block>
  );
});
