/** Protect: fuse and wire are one decision; the low-volt guard; plugs and switches. */
import { useState } from "react";
import type { Choice, Curve, Evaluation } from "../api/client";
import { type Doc, type Json, read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { duration, plainNumber, wire } from "../lib/units";
import { CheckField, NumberField, SelectField } from "../ui/Field";
import { Glyph } from "../ui/Glyph";
import { Plot } from "../ui/Plot";
import type { StageProps } from "../workspace/Workspace";
import { Block, Grid, Heading } from "./Heading";
import { rowsOf } from "./Power";

const WHY: Record<string, { word: string; line: string; small: boolean }> = {
  continuous: { word: "load", line: "it cannot carry the ride for good", small: true },
  limit_110: { word: "climb", line: "it does not carry the controller's limit on a long climb", small: true },
  nuisance: { word: "launch", line: "ten launches may open it", small: true },
  wire: { word: "wire", line: "the wire is too hot before it opens", small: false },
  parts: { word: "parts", line: "it is larger than a plug, switch or holder behind it", small: false },
  breaking: { word: "breaks", line: "a dead short is more than it can break", small: false },
  withstand: { word: "short", line: "a short damages the wire before it opens", small: false },
  cold_short: { word: "cold", line: "on a cold day a weak short would not open it", small: false },
  volts: { word: "volts", line: "its DC volts are under full charge", small: false },
  drop: { word: "drop", line: "over 10 % of the volts are lost in the lead", small: false },
  selectivity: { word: "order", line: "it opens before a row's own fuse", small: true },
};

function Matrix({ choice, pick }: { choice: Choice; pick: (kind: string, volts: number, rating: number, awg: number) => void }) {
  const { units } = useSettings();
  const [told, setTold] = useState("Each cell says the first condition that fails. Choose a cell to put that fuse and wire in.");
  const marked = [choice.best?.awg, choice.chosen?.awg].filter((awg) => awg !== undefined).map((awg) => choice.awg.indexOf(awg));
  const from = Math.max(0, Math.min(Math.min(...marked, 3) - 1, choice.awg.length - 5));
  const shown = choice.awg.slice(from, Math.max(from + 5, Math.max(...marked, 0) + 1));
  return (
    <div>
      <div className="overflow-x-auto">
        <table className="w-full border-separate border-spacing-[3px] text-[11.5px]">
          <thead>
            <tr>
              <th scope="col" className="text-left font-normal">
                Fuse
              </th>
              {shown.map((awg) => (
                <th key={awg} scope="col" className="leading-tight whitespace-nowrap">
                  {wire(awg, units)}
                  <br />
                  <span className="font-normal text-ink3">
                    {plainNumber(choice.ampacity_a[choice.awg.indexOf(awg)] ?? 0, 0)} A
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {choice.rows.map((row) => (
              <tr key={`${row.kind}${row.dc_volts_v}${row.rating_a}`}>
                <th scope="row" className="text-left whitespace-nowrap">
                  {plainNumber(row.rating_a)} A{" "}
                  <span className="font-normal text-ink3">
                    {row.kind} {plainNumber(row.dc_volts_v)} V
                  </span>
                </th>
                {shown
                  .map((awg) => ({ awg, fails: row.fails[choice.awg.indexOf(awg)] ?? [] }))
                  .map((cell) => {
                    const at = (p: Choice["chosen"]) =>
                      p != null &&
                      p.awg === cell.awg &&
                      p.kind === row.kind &&
                      p.rating_a === row.rating_a &&
                      p.dc_volts_v === row.dc_volts_v;
                    const best = at(choice.best);
                    const first = cell.fails[0];
                    const why = first ? WHY[first] : undefined;
                    const fits = cell.fails.length === 0;
                    const small = cell.fails.every((f) => WHY[f]?.small);
                    const words = `${plainNumber(row.rating_a)} A × ${wire(cell.awg, units)}: ${fits ? "fits every condition" : cell.fails.map((f) => WHY[f]?.line).join("; ")}`;
                    return (
                      <td key={cell.awg} className="p-0">
                        <button
                          type="button"
                          aria-label={words}
                          onMouseEnter={() => setTold(words)}
                          onFocus={() => setTold(words)}
                          onClick={() => pick(row.kind, row.dc_volts_v, row.rating_a, cell.awg)}
                          className={`flex h-[26px] w-full items-center justify-center gap-1 rounded-[5px] px-1 whitespace-nowrap max-desk:h-9 ${best ? "bg-leafdeep font-bold text-onleaf" : fits ? "bg-leaftint" : small ? "bg-ambertint" : "bg-hottint"} ${at(choice.chosen) ? "outline-[2.5px] outline-focus" : ""}`}
                        >
                          <Glyph mark={fits ? "fits" : small ? "caution" : "stop"} size={11} quiet />
                          {best
                            ? "best"
                            : fits
                              ? "fits"
                              : `${why?.word}${cell.fails.length > 1 ? ` +${cell.fails.length - 1}` : ""}`}
                        </button>
                      </td>
                    );
                  })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 min-h-[2.6em] text-small text-ink2" aria-live="polite">
        {told}
      </p>
    </div>
  );
}

function Conditions({ choice }: { choice: Choice }) {
  const { units } = useSettings();
  const picks = [
    ["now", choice.chosen],
    ["best", choice.best],
  ] as const;
  const lines: [string, string, (n: Record<string, number>) => string][] = [
    ["Load", "continuous", (n) => `${Math.round(100 * n.continuous_over_limit!)} %`],
    ["Launch", "nuisance", (n) => `${Math.round(100 * Math.min(n.nuisance_sum!, 99))} of 50 %`],
    ["Wire", "wire", (n) => `${plainNumber(n.derated_ampacity_a!, 0)} A stands`],
    ["Short", "withstand", (n) => `${plainNumber(n.prospective_a!, 0)} A, ${plainNumber(100 * n.i2t_over_withstand!, 0)} %`],
    ["Breaks", "breaking", (n) => `${plainNumber(n.near_fault_a!, 0)} A`],
    ["Cold", "cold_short", (n) => `${plainNumber(n.prospective_20_percent_coldest_a!, 0)} A`],
    ["Volts", "volts", (n) => `${Math.round(100 * n.full_volts_over_fuse_volts!)} %`],
    ["Drop", "drop", (n) => `${plainNumber(100 * n.drop_share_at_continuous_a!, 1)} %`],
  ];
  return (
    <table className="w-full text-small">
      <thead>
        <tr>
          <th scope="col" />
          {picks.map(
            ([name, p]) =>
              p && (
                <th key={name} scope="col" className="px-1 text-left leading-tight">
                  <span className={name === "best" ? "text-leaftext" : "text-focus"}>{name}</span>
                  <br />
                  {plainNumber(p.rating_a)} A × {wire(p.awg, units)}
                </th>
              ),
          )}
        </tr>
      </thead>
      <tbody>
        {lines.map(([name, key, say]) => (
          <tr key={key} className="border-t border-line">
            <th scope="row" className="py-0.5 text-left">
              {name}
            </th>
            {picks.map(
              ([who, p]) =>
                p && (
                  <td key={who} className="px-1">
                    <Glyph mark={p.fails.includes(key) ? "stop" : "fits"} size={12} /> {say(p.numbers)}
                  </td>
                ),
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function TimeCurrent({ choice, which }: { choice: Choice; which: "chosen" | "best" }) {
  const { units } = useSettings();
  const pick = choice[which];
  const lines = choice.curves?.[which] as Record<string, Curve> | undefined;
  if (!pick || !lines) return null;
  const { shortest, longest, wire: heat } = lines as { shortest: Curve; longest: Curve; wire: Curve };
  const fails = pick.fails.includes("wire") || pick.fails.includes("withstand");
  const fault = pick.numbers.prospective_a!;
  const low = Math.max(Math.min(pick.rating_a, choice.launch_peak_a) * 0.7, 1);
  return (
    <Block
      title={`${plainNumber(pick.rating_a)} A × ${wire(pick.awg, units)}`}
      line={fails ? "The wire is too hot before the fuse opens." : "The fuse opens first at every current."}
    >
      <Plot
        title={`Seconds to open against amps for ${pick.rating_a} A and ${wire(pick.awg, units)}`}
        xLabel="amps through the main lead"
        yLabel="seconds"
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
          { x: [fault, fault], y: [0.01, 2000], colour: "var(--ink)", dash: "3 3", width: 1.3 },
        ]}
        words={[
          {
            x: low * 1.06,
            y: 0.016,
            text: `launch ${plainNumber(choice.launch_peak_a, 0)} A, ${choice.launch_s.toFixed(1)} s`,
            colour: "var(--amber-text)",
          },
          { x: fault * 0.95, y: 700, text: `short ${plainNumber(fault, 0)} A`, anchor: "end" },
          {
            x: heat.x[Math.floor(heat.x.length / 3)] ?? low,
            y: heat.y[Math.floor(heat.y.length / 3)] ?? 1,
            text: ` ${wire(pick.awg, units)} too hot`,
            colour: fails ? "var(--hot-text)" : "var(--leaf-text)",
            bold: true,
          },
          {
            x: longest.x[Math.floor(longest.x.length / 2)] ?? low,
            y: (longest.y[Math.floor(longest.y.length / 2)] ?? 1) * 0.75,
            text: " fuse open",
            colour: "var(--ink-2)",
          },
        ]}
      />
    </Block>
  );
}

function at(curve: Curve, x: number): number {
  const i = curve.x.findIndex((v) => v >= x);
  return curve.y[i < 0 ? curve.y.length - 1 : i] ?? 0.01;
}

function GuardPlot({ evaluation, level }: { evaluation: Evaluation; level: number | undefined }) {
  const ride = evaluation.curves.ride;
  const volts = ride?.volts;
  const charge = ride?.charge;
  const o = evaluation.outcome;
  if (!volts || !charge || !o) return null;
  const left = charge.y.at(-1) ?? 0;
  const top = Math.max(...volts.y) * 1.02;
  const bottom = Math.min(...volts.y, level ?? 1e9, evaluation.bank?.empty_v ?? 1e9) * 0.96;
  return (
    <Plot
      title={`Volts at the controller over the ride, which ends by ${o.ends_by} after ${duration(o.run_time_s)} with ${Math.round(100 * left)} percent left`}
      xLabel="charge left, %"
      yLabel="volts at cruise"
      x={[100, 0]}
      y={[bottom, top]}
      height={190}
      lines={[
        { x: charge.y.map((s) => 100 * s), y: volts.y },
        ...(level === undefined ? [] : [{ x: [100, 0], y: [level, level], colour: "var(--focus)", width: 1.8 }]),
      ]}
      zones={left > 0.005 ? [{ x0: 100 * left, x1: 0, colour: "var(--amber-tint)", opacity: 0.9 }] : []}
      words={[
        ...(level === undefined
          ? []
          : [
              {
                x: 97,
                y: level + (top - bottom) * 0.03,
                text: `guard ${plainNumber(level)} V`,
                colour: "var(--focus)",
                bold: true,
              },
            ]),
        {
          x: Math.max(100 * left, 30),
          y: top * 0.995,
          text: `ends by ${o.ends_by}, ${Math.round(100 * left)} % unused`,
          anchor: "end" as const,
        },
      ]}
    />
  );
}

const SWITCH_KINDS = [
  ["switch", "switch"],
  ["pullable plug", "plug to pull"],
  ["breaker", "breaker"],
  ["relay", "relay"],
] as const;

export function Protect({ draft, plan }: StageProps) {
  const choice = plan.evaluation?.choice;
  const { doc } = draft;
  const { units } = useSettings();
  const rows = rowsOf(doc);
  const pick = (kind: string, volts: number, rating: number, awg: number) => {
    const fuse = (read(doc, "/main_fuse") as Doc | null) ?? {};
    draft.replace(
      {
        ...doc,
        main_fuse: { ...fuse, kind, dc_volts_v: volts, rating_a: rating, breaking_a: null, holder_a: null },
        main_lead: { ...(read(doc, "/main_lead") as Doc), awg },
      } as Doc,
      `${rating} A fuse with ${awg} AWG`,
    );
  };
  const lead = read(doc, "/main_lead");
  const level = read(doc, "/guard/volts_v/value") as number | undefined;
  const start = (path: string, part: Json, words: string) => (
    <button type="button" className="btn" onClick={() => draft.edit(path, part)}>
      {words}
    </button>
  );
  const gauges = [18, 16, 14, 12, 10, 8, 6, 4, 2].map((g) => [String(g), wire(g, units)] as const);
  return (
    <>
      <Heading title="Protect" line="The fuse must open before the wire is too hot." />
      {choice ? (
        <div className="grid grid-cols-[minmax(0,1.8fr)_minmax(0,1fr)] gap-5 max-wide:grid-cols-1">
          <Matrix choice={choice} pick={pick} />
          <div>
            <Conditions choice={choice} />
            {!choice.best && (
              <p className="mt-2 rounded-lg border-2 border-hotdeep bg-hottint p-2">
                No fuse and wire fit yet. What stands in the way:{" "}
                {choice.blocking
                  .slice(0, 2)
                  .map((b) => WHY[b]?.line)
                  .join("; ") || "several conditions at once: shorten the lead or lower the amps"}
                .
              </p>
            )}
          </div>
        </div>
      ) : (
        <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">
          Enter the main lead, the packs and the motor: then every fuse is tried with every wire.
        </p>
      )}
      {choice && (
        <div className="mt-3 grid grid-cols-2 gap-5 border-t border-line pt-3 max-desk:grid-cols-1">
          <TimeCurrent choice={choice} which={choice.chosen ? "chosen" : "best"} />
          {choice.chosen && choice.best ? <TimeCurrent choice={choice} which="best" /> : null}
        </div>
      )}
      <div className="mt-3 grid grid-cols-2 gap-6 border-t border-line pt-3 max-desk:grid-cols-1">
        <Block title="Low-volt guard" line="It saves the cells from being drained; the cut-off is the hand switch.">
          {read(doc, "/guard") ? (
            <Grid min={130}>
              <NumberField label="Set point" pointer="/guard/volts_v" unit="V" />
              <NumberField label="Stands" pointer="/guard/rating_a" unit="A" />
              <SelectField
                label="Kind"
                pointer="/guard/kind"
                options={[
                  ["module", "module"],
                  ["voltmeter", "voltmeter, watched"],
                ]}
              />
              {start("/guard", null, "No guard")}
            </Grid>
          ) : (
            start(
              "/guard",
              {
                kind: "module",
                volts_v: { value: Math.round((plan.evaluation?.bank?.empty_v ?? 15) * 10.3) / 10, basis: "nameplate" },
              },
              "Add a low-volt guard",
            )
          )}
          {plan.evaluation && <GuardPlot evaluation={plan.evaluation} level={level} />}
        </Block>
        <div className="grid content-start gap-5">
          <Block title="Main lead and main fuse">
            {lead ? (
              <Grid min={130}>
                <SelectField label="Wire" pointer="/main_lead/awg" options={gauges} />
                <NumberField label="Length one way" pointer="/main_lead/length_m" kind="length" />
                <SelectField
                  label="Insulation"
                  pointer="/main_lead/insulation"
                  options={[
                    ["60", "60 °C"],
                    ["75", "75 °C"],
                    ["105", "105 °C"],
                    ["silicone", "silicone"],
                  ]}
                />
                <NumberField label="Wires in the bundle" pointer="/main_lead/bundle_conductors" plain whole />
                {read(doc, "/main_fuse") ? (
                  <>
                    <NumberField label="Fuse" pointer="/main_fuse/rating_a" unit="A" plain />
                    <NumberField label="Its DC volts" pointer="/main_fuse/dc_volts_v" unit="V" plain />
                    <SelectField
                      label="Sits in the"
                      pointer="/main_fuse/side"
                      options={[
                        ["positive", "plus lead"],
                        ["negative", "minus lead"],
                        ["unknown", "not known"],
                      ]}
                    />
                    <NumberField label="From the packs" pointer="/main_fuse/distance_m" kind="length" />
                  </>
                ) : (
                  start("/main_fuse", { kind: "blade", rating_a: 30, dc_volts_v: 58 }, "Add a main fuse")
                )}
              </Grid>
            ) : (
              start(
                "/main_lead",
                { awg: 12, length_m: { value: 0.8, basis: "assumed" }, insulation: "105", bundle_conductors: 2 },
                "Enter the main lead",
              )
            )}
          </Block>
          {rows.length > 1 && (
            <Block title="Row fuses">
              <Grid min={130}>
                {rows.map((row, r) =>
                  row.fuse ? (
                    <NumberField
                      key={r}
                      label={`Fuse of row ${String.fromCharCode(65 + r)}`}
                      pointer={`/bank/rows/${r}/fuse/rating_a`}
                      unit="A"
                      plain
                    />
                  ) : (
                    <div key={r}>
                      {start(
                        `/bank/rows/${r}/fuse`,
                        { kind: "blade", rating_a: 20, dc_volts_v: 58 },
                        `Fuse for row ${String.fromCharCode(65 + r)}`,
                      )}
                    </div>
                  ),
                )}
              </Grid>
            </Block>
          )}
          <Block title="Cut-off and plugs">
            <Grid min={130}>
              {read(doc, "/cut_off") ? (
                <>
                  <SelectField label="Cut-off" pointer="/cut_off/kind" options={SWITCH_KINDS} />
                  <NumberField label="Stands" pointer="/cut_off/rating_a" unit="A" />
                  <NumberField label="At DC volts" pointer="/cut_off/dc_volts_v" unit="V" />
                </>
              ) : (
                start("/cut_off", { kind: "switch" }, "Add a cut-off")
              )}
              {((read(doc, "/plugs") as Json[]) ?? []).map((_, i) => (
                <div key={i} className="grid gap-1">
                  <SelectField
                    label={`Plug ${i + 1}`}
                    pointer={`/plugs/${i}/kind`}
                    options={["spade 6.3", "bullet 4", "bullet 5.5", "two-pole 60", "two-pole 90", "genderless 45", "other"].map(
                      (k) => [k, k] as const,
                    )}
                  />
                  <CheckField label="browned or melted" pointer={`/plugs/${i}/browned`} />
                </div>
              ))}
              {start("/plugs", [...((read(doc, "/plugs") as Json[]) ?? []), { kind: "two-pole 60", poles: 2 }], "Add a plug")}
            </Grid>
          </Block>
        </div>
      </div>
    </>
  );
}
