/** Drive: controller, motor, gearing, wheel, rider's cap; what pushes and what holds back. */
import { useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import { useGarage } from "../../app/Header";
import { useParts } from "../../lib/parts";
import { type Doc, read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { duration, plainNumber, sentence, shown, withUnit } from "../../lib/units";
import { CheckField, NumberField, SelectField } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { PickPart } from "../../ui/PickPart";
import type { StageProps } from "../../workspace/Workspace";
import { Block, Grid, Heading } from "../Heading";
import { HeatPlot } from "./HeatPlot";
import { Knob } from "./Knob";
import { HOLDS, PushPlot } from "./PushPlot";

const HILL_ENDS: Record<string, string> = { traction: "then it slips", "tips back": "then it tips back" };

const THROTTLES = [
  ["hall", "three-wire Hall"],
  ["potentiometer", "potentiometer"],
  ["switch", "switch"],
  ["unknown", "not known"],
] as const;

export function Drive({ draft, plan }: StageProps) {
  const { units } = useSettings();
  const { doc } = draft;
  const garage = useGarage();
  const parts = useParts();
  const overview = useQuery({
    queryKey: ["garage", garage?.id],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}", { params: { path: { garage_id: garage?.id ?? 0 } } })),
    enabled: garage !== undefined,
  });
  const evaluation = plan.evaluation;
  const o = evaluation?.outcome;
  const mark = (read(doc, "/throttle/limiter_mark") as number | null) ?? 1;
  const direct = read(doc, "/controller/kind") === "none";
  const kind = String(read(doc, "/drivetrain/kind") ?? "");
  const held = evaluation?.held_back;
  const setMark = (value: number) =>
    draft.edit("/throttle", {
      ...((read(doc, "/throttle") as Doc | null) ?? { kind: "unknown" }),
      limiter_mark: value >= 0.999 ? null : Math.round(value * 100) / 100,
    });
  return (
    <>
      <Heading title="Drive" line="What pushes, what holds back, and what gets hot." />
      {evaluation && o ? (
        <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(210px,1fr)] gap-5 max-desk:grid-cols-1">
          <PushPlot evaluation={evaluation} />
          <div className="grid content-start gap-3">
            <div className="card bg-paper p-3">
              <p className="flex justify-between">
                <b>{String(read(doc, "/rider/name") || "Rider")}</b>{" "}
                <span className="text-ink3">{o.cap_m_s == null ? "no cap" : `cap ${withUnit(o.cap_m_s, "speed", units)}`}</span>
              </p>
              {direct ? (
                <p className="mt-2 text-ink2">Pedal straight to motor: there is no knob to set.</p>
              ) : (
                <div className="flex items-center gap-3">
                  <Knob mark={mark} />
                  <div>
                    <label className="block text-small text-ink2" htmlFor="limiter">
                      Limiter mark
                    </label>
                    <input
                      id="limiter"
                      type="range"
                      min="1"
                      max="10"
                      step="0.1"
                      value={10 * mark}
                      onChange={(e) => setMark(Number(e.target.value) / 10)}
                      className="w-28 accent-[var(--leaf-deep)]"
                    />
                    <p className="font-head text-[18px] font-bold">
                      {plainNumber(10 * mark)} <span className="font-text text-small font-normal">of 10</span>
                    </p>
                  </div>
                </div>
              )}
              {evaluation.curves.knob && (
                <p className="text-small text-ink2">
                  A mark is no percentage: 5 gives {withUnit(evaluation.curves.knob.y[4] ?? 0, "speed", units)}, 10 gives{" "}
                  {withUnit(evaluation.curves.knob.y[9] ?? 0, "speed", units)} at half charge.
                </p>
              )}
            </div>
            {held && (
              <div className="border-l-4 border-amber pl-3">
                <h2 className="flex items-center gap-1.5 text-[15px]">
                  <Glyph mark={held.state === "over" ? "over" : "note"} quiet /> Held back by {held.title.toLowerCase()}
                </h2>
                <p className="text-ink2">{sentence(held.sentence, units)}</p>
              </div>
            )}
            <dl className="grid grid-cols-2 gap-x-3 gap-y-1">
              {(
                [
                  ["On the slope", withUnit(o.top_speed_grade_m_s, "speed", units)],
                  ["At half charge", withUnit(o.top_speed_half_m_s, "speed", units)],
                  ["At 20 %", withUnit(o.top_speed_low_m_s, "speed", units)],
                  ["Launch to 90 %", `${o.launch_s.toFixed(1)} s`],
                  ["Stops in", withUnit(o.stop_m, "length", units)],
                  [
                    "Front lifts",
                    o.wheelie_margin == null
                      ? "cannot"
                      : o.wheelie_margin > 1
                        ? `${o.wheelie_margin.toFixed(1)} × away`
                        : "at launch",
                  ],
                  ["Stalled, burns in", o.stalled_to_stop_s == null ? "never" : duration(o.stalled_to_stop_s)],
                  [
                    "Steepest hill",
                    `${Math.round(100 * o.hill_grade)} %, ${HILL_ENDS[o.hill_ends_by] ?? HOLDS[o.hill_ends_by.replace("motor:", "")] ?? o.hill_ends_by}`,
                  ],
                ] as const
              ).map(([name, text]) => (
                <div key={name} className="border-b border-line">
                  <dt className="text-small text-ink3">{name}</dt>
                  <dd className="font-bold">{text}</dd>
                </div>
              ))}
            </dl>
          </div>
        </div>
      ) : (
        <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">
          Motor, controller and packs make the push: enter them below and the plot appears.
        </p>
      )}
      <div className="mt-4 grid grid-cols-2 gap-6 border-t border-line pt-3 max-desk:grid-cols-1">
        <div className="grid content-start gap-5">
          <Block title="Motor">
            <Grid min={128}>
              <SelectField
                label="Kind"
                pointer="/motor/kind"
                options={["small gear motor", "brushed", "hub", "brushless mid"].map((k) => [k, k] as const)}
              />
              <SelectField
                label="How many"
                pointer="/motor/wiring"
                options={[
                  ["single", "one"],
                  ["parallel", "two, in parallel (high)"],
                  ["series", "two, in series (low)"],
                ]}
                onPick={(v) =>
                  draft.edit("/motor", {
                    ...((read(doc, "/motor") as Doc | null) ?? { kind: "brushed" }),
                    wiring: v,
                    count: v === "single" ? 1 : 2,
                  })
                }
              />
              <NumberField label="Plate volts" pointer="/motor/volts_v" unit="V" />
              <NumberField label="Plate watts, each" pointer="/motor/power_w" unit="W" />
              <NumberField label="Rated speed" pointer="/motor/speed_rpm" unit="rpm" />
              <NumberField label="No-load speed" pointer="/motor/no_load_rpm" unit="rpm" />
              <NumberField label="Motor mass, each" pointer="/motor/mass_kg" kind="mass" />
            </Grid>
          </Block>
          <Block title="Controller">
            <PickPart
              label="Take a common one"
              className="mb-3 block"
              parts={parts.controllers}
              onPick={(part) => draft.edit("/controller", part)}
            />
            <Grid min={128}>
              <SelectField
                label="Kind"
                pointer="/controller/kind"
                options={[
                  ["none", "none: pedal straight to motor"],
                  ["brushed", "brushed"],
                  ["brushless", "brushless"],
                ]}
              />
              {!direct && (
                <>
                  <NumberField label="Label volts" pointer="/controller/nominal_v" unit="V" />
                  <NumberField label="Most volts" pointer="/controller/max_v" unit="V" />
                  <NumberField label="Low cut-off" pointer="/controller/undervoltage_v" unit="V" />
                  <NumberField label="Bank-side limit" pointer="/controller/battery_limit_a" unit="A" />
                  <NumberField label="Motor-side limit" pointer="/controller/phase_limit_a" unit="A" />
                  <SelectField label="Reads a throttle" pointer="/controller/throttle" options={THROTTLES} />
                  <SelectField label="Throttle there is" pointer="/throttle/kind" options={THROTTLES} />
                  <CheckField label="Brake lever has a sensor" pointer="/throttle/brake_cut_off_present" />
                  <CheckField label="Brake cut-off wired" pointer="/throttle/brake_cut_off_wired" />
                  <CheckField label="Rider can reach the limiter" pointer="/throttle/limiter_reachable" />
                  <CheckField label="Pre-charge path" pointer="/controller/precharge" />
                </>
              )}
              {direct && <NumberField label="Pedal switch stands" pointer="/pedal_switch/rating_a" unit="A" />}
              {read(doc, "/vehicle/family") === "quad" && (
                <CheckField label="Foot switch wired" pointer="/throttle/foot_switch_wired" />
              )}
            </Grid>
          </Block>
        </div>
        <div className="grid content-start gap-5">
          {evaluation && (
            <Block title="Winding heat">
              <HeatPlot evaluation={evaluation} />
            </Block>
          )}
          <Block title="Gearing and wheel">
            <Grid min={128}>
              <SelectField
                label="Drive"
                pointer="/drivetrain/kind"
                options={["hub", "chain", "plastic gearbox", "differential", "worm transaxle"].map((k) => [k, k] as const)}
              />
              {kind === "chain" && (
                <>
                  <NumberField label="Motor teeth" pointer="/drivetrain/motor_teeth" plain whole />
                  <NumberField label="Wheel teeth" pointer="/drivetrain/wheel_teeth" plain whole />
                </>
              )}
              {kind !== "hub" && (
                <NumberField
                  label={kind === "chain" ? "Ratio, if not by teeth" : "Ratio"}
                  pointer="/drivetrain/ratio"
                  unit=": 1"
                />
              )}
              <NumberField label="Wheel across" pointer="/wheel/diameter_m" kind="small" />
              <SelectField
                label="Tyre"
                pointer="/wheel/tyre"
                options={[
                  ["plastic", "plastic"],
                  ["banded plastic", "plastic, rubber band"],
                  ["solid", "solid"],
                  ["pneumatic", "pneumatic"],
                ]}
              />
            </Grid>
          </Block>
          <Block title="Rider and ground">
            {(overview.data?.riders.length ?? 0) > 0 && (
              <div className="mb-3 flex flex-wrap gap-1.5">
                {overview.data?.riders.map((r) => (
                  <button
                    key={r.id}
                    type="button"
                    className="btn"
                    aria-pressed={read(doc, "/rider/name") === r.name}
                    onClick={() => draft.edit("/rider", r.document as Doc)}
                  >
                    {r.name}
                  </button>
                ))}
              </div>
            )}
            <Grid min={128}>
              <NumberField label="Age" pointer="/rider/age_years" unit="years" plain />
              <NumberField label="Rider's mass" pointer="/rider/mass_kg" kind="mass" />
              <NumberField
                label="Speed cap"
                pointer="/rider/cap_m_s"
                kind="speed"
                {...(o?.cap_m_s == null ? {} : { typical: shown(o.cap_m_s, "speed", units) })}
              />
              <SelectField
                label="Ground"
                pointer="/ground/surface"
                options={["paving", "packed dirt", "short grass", "long grass", "deep sand"].map((k) => [k, k] as const)}
              />
              <NumberField label="Steepest slope" pointer="/ground/hill_grade" kind="grade" plain />
              <NumberField label="Warm day" pointer="/ground/ambient_c" kind="temp" plain />
            </Grid>
            <p className="mt-2 text-small text-ink3">
              A speed cap is a starting point. Local rules on where such machines may be ridden and the maker's limits come first.
            </p>
          </Block>
        </div>
      </div>
    </>
  );
}
