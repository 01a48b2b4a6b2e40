/** What the rider gets, with its range and the baseline beside it. */
import { memo } from "react";
import type { Evaluation, Ranges } from "../api/client";
import { useSettings } from "../lib/settings";
import { fixed } from "../texts/locale";
import { outcomeBand as say } from "../texts/outcome";
import { plainNumber, sentence, shown, unitOf } from "../texts/units";
import { BasisGlyph, Glyph } from "../ui/Glyph";

interface Item {
  name: string;
  label: string;
  /** Where there is little room. */
  short?: string;
  value: string;
  unit: string;
  range: string;
  base: string;
  gain?: string;
}

export function useOutcomeItems(evaluation: Evaluation | undefined, ranges: Ranges | undefined): Item[] {
  const { units } = useSettings();
  const o = evaluation?.outcome;
  if (!o) return [];
  const b = evaluation?.baseline;
  const span = (name: string, tell: (v: number) => string) => {
    const r = ranges?.outcomes[name];
    return r ? `${tell(r.low)}–${tell(r.high)}` : "";
  };
  const speed = (v: number) => shown(v, "speed", units);
  const minutes = (v: number) => String(Math.round(v / 60));
  const percent = (v: number) => String(Math.round(100 * v));
  const amps = (v: number) => plainNumber(v, v < 10 ? 1 : 0);
  const volts = (v: number) => fixed(v, 1);
  const temp = (v: number) => shown(v, "temp", units);
  const item = (
    name: keyof typeof o & string,
    label: string,
    unit: string,
    tell: (v: number) => string,
    before?: number,
  ): Item => ({
    name,
    label,
    unit,
    value: tell(o[name] as number),
    range: span(name, tell),
    base: before === undefined ? "" : say.asFound(tell(before)),
  });
  const gained = b ? o.top_speed_m_s - b.top_speed_m_s : 0;
  return [
    {
      ...item("top_speed_m_s", say.topSpeed, unitOf("speed", units), speed, b?.top_speed_m_s),
      ...(b ? { gain: `${gained >= 0 ? "+" : "−"}${speed(Math.abs(gained))}` } : {}),
    },
    {
      ...item("run_time_s", o.course, "min", minutes, b?.run_time_s),
      // Where rides may end by more than one thing, the range is that of the likeliest: all together would reach from one to the other.
      ...((ranges?.endings?.[0]?.share ?? 1) < 0.95 && { range: ending(ranges, ranges?.endings?.[0]?.ends_by ?? "", minutes) }),
      short: say.runTime,
    },
    item("hill_grade", say.steepestHill, "%", percent, b?.hill_grade),
    item("peak_a", say.peakAmps, "A", amps, b?.peak_a),
    item("lowest_v", say.lowestPackVolts, "V", volts, b?.lowest_v),
    o.winding_stop_s == null
      ? item("motor_20min_c", say.motorAt20Min, units.temp, temp, b?.motor_20min_c)
      : {
          // Past its end a winding has no temperature to tell: only when it gets there.
          name: "motor_20min_c",
          label: say.motorAfter(temp(155), units),
          value: minutes(o.winding_stop_s),
          unit: "min",
          range: ending(ranges, "winding 155 C", minutes),
          base: b ? say.asFoundAt20(temp(b.motor_20min_c)) : "",
        },
  ];
}

/** When the likely rides end by one thing, and in how many of ten, where that is not all of them. */
function ending(ranges: Ranges | undefined, name: string, tell: (v: number) => string): string {
  const found = ranges?.endings?.find((one) => one.ends_by === name);
  if (!found) return "";
  return `${tell(found.low_s)}–${tell(found.high_s)}${found.share < 0.95 ? say.soManyOfTenRides(found.share) : ""}`;
}

export const OutcomeBand = memo(function OutcomeBand({
  evaluation,
  ranges,
  tried,
}: {
  evaluation: Evaluation | undefined;
  ranges: Ranges | undefined;
  /** What holds it back by trying every change: better than the quick word, once it is there. */
  tried?: Evaluation["held_back"] | undefined;
}) {
  const { units } = useSettings();
  const items = useOutcomeItems(evaluation, ranges);
  const quick = evaluation?.held_back;
  const held = quick?.state === "over" ? quick : (tried ?? quick);
  const bases = evaluation?.outcome?.bases ?? {};
  if (items.length === 0) {
    const missing = evaluation?.gaps.filter((g) => g.kind === "missing") ?? [];
    return (
      <section className="band border-t-[1.5px] border-ink bg-paper px-4 py-2" aria-label={say.outcome}>
        <b>{say.notEnoughYetTo}</b>
        <p className="truncate text-ink2">{missing.map((g) => g.message).join(" ")}</p>
      </section>
    );
  }
  return (
    <section
      className="band grid grid-cols-[1.3fr_1fr_.9fr_.9fr_1fr_1fr_1.7fr] border-t-[1.5px] border-ink bg-paper max-desk:grid-cols-[1.15fr_1fr_1.35fr]"
      aria-label={say.outcome}
      aria-live="polite"
    >
      {items.map((item, i) => (
        <div
          key={item.name}
          className={`min-w-0 border-line px-3 pt-1.5 ${i > 0 ? "border-l" : ""} ${i > 1 ? "max-desk:hidden" : ""}`}
          data-outcome={item.name}
        >
          <div className="flex items-center justify-between gap-1 text-small whitespace-nowrap text-ink2">
            <span className={`truncate ${item.short ? "max-desk:hidden" : ""}`}>{item.label}</span>
            {item.short && <span className="truncate desk:hidden">{item.short}</span>}{" "}
            <BasisGlyph basis={bases[item.name] ?? "assumed"} />
          </div>
          <div
            className="font-head leading-[30px] font-bold whitespace-nowrap"
            style={{ fontSize: i === 0 ? 31 : 26, letterSpacing: "-.025em" }}
          >
            {item.value}
            <span className="ml-1 font-text text-[13px] font-normal tracking-normal text-ink3">{item.unit}</span>
            {item.gain && (
              <span className="ml-2 rounded bg-leaftint px-1.5 align-[5px] font-text text-[13px] tracking-normal text-leaftext max-desk:hidden">
                {item.gain}
              </span>
            )}
          </div>
          <div className="truncate text-[11.5px] leading-[14px] text-ink2 max-desk:leading-[13px] max-desk:whitespace-normal">
            {item.range ? say.likely(item.range) : "\u00a0"}
          </div>
          <div className="truncate text-[11.5px] leading-[14px] text-ink3 max-desk:hidden">{item.base || "\u00a0"}</div>
        </div>
      ))}
      {held && (
        <div
          className={`min-w-0 overflow-hidden border-l border-line px-3 pt-1.5 ${held.state === "over" ? "bg-hottint" : held.state === "close" ? "bg-ambertint" : "bg-leaftint"}`}
        >
          <div className="text-small text-ink2">{say.heldBackBy}</div>
          <div className="flex items-center gap-1.5 truncate font-head text-[19px] leading-6 font-bold max-desk:text-[16px] max-desk:leading-[18px] max-desk:whitespace-normal">
            <Glyph mark={held.state === "over" ? "over" : held.state === "close" ? "close" : "fine"} size={16} /> {held.title}
          </div>
          <p className="line-clamp-2 text-small leading-[15px] text-ink2 max-desk:hidden" title={sentence(held.sentence, units)}>
            {sentence(held.sentence, units)}
          </p>
        </div>
      )}
    </section>
  );
});
