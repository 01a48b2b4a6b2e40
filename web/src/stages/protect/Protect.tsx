/** Protect: fuse and wire are one decision; the low-volt guard; plugs and switches. */
import { type Doc, type Json, read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { plainNumber, wire } from "../../lib/units";
import { CheckField, NumberField, SelectField } from "../../ui/Field";
import type { StageProps } from "../../workspace/Workspace";
import { Block, Grid, Heading } from "../Heading";
import { rowsOf } from "../power/rows";
import { Conditions } from "./Conditions";
import { GuardPlot } from "./GuardPlot";
import { Matrix, WHY } from "./Matrix";
import { TimeCurrent } from "./TimeCurrent";

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
          ) : plan.evaluation?.bank ? (
            start(
              "/guard",
              { kind: "module", volts_v: { value: plan.evaluation.bank.guard_v, basis: "nameplate" } },
              `Add a low-volt guard at ${plainNumber(plan.evaluation.bank.guard_v)} V`,
            )
          ) : (
            <p className="text-ink2">Choose the packs first: its set point follows from them.</p>
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
