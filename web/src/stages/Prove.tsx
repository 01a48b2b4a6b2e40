/** Prove: checks on the stand, then timed distances; prediction against measurement, gain over the baseline. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { client, Failed, type NewTrial, type Trial, unwrap } from "../api/client";
import { read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { fromShown, parseNumber, plainNumber, shown, toShown, withUnit } from "../lib/units";
import { Glyph } from "../ui/Glyph";
import { Plot } from "../ui/Plot";
import type { StageProps } from "../workspace/Workspace";
import { Block, Heading } from "./Heading";

type PassText = { time: string; direction: "out" | "back" };

function Small({
  label,
  unit,
  value,
  onChange,
  wide,
}: {
  label: string;
  unit: string;
  value: string;
  onChange: (v: string) => void;
  wide?: boolean;
}) {
  const id = useId();
  return (
    <div className={wide ? "col-span-2" : ""}>
      <label htmlFor={id} className="mb-1 block text-small font-bold text-ink2">
        {label} <span className="font-normal text-ink3">{unit}</span>
      </label>
      <input
        id={id}
        className="input"
        inputMode="decimal"
        autoComplete="off"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </div>
  );
}

function EntryForm({ build, row, draft }: StageProps) {
  const { units } = useSettings();
  const queryClient = useQueryClient();
  const direct = read(draft.doc, "/controller/kind") === "none";
  const limiter = (read(draft.doc, "/throttle/limiter_mark") as number | null) ?? 1;
  const [distance, setDistance] = useState(units.length === "ft" ? "100" : "30");
  const [passes, setPasses] = useState<PassText[]>([
    { time: "", direction: "out" },
    { time: "", direction: "back" },
  ]);
  const [knob, setKnob] = useState(String(plainNumber(10 * limiter)));
  const [before, setBefore] = useState("");
  const [after, setAfter] = useState("");
  const [note, setNote] = useState("");
  const [trouble, setTrouble] = useState("");
  const save = useMutation({
    mutationFn: (body: NewTrial) =>
      unwrap(client.POST("/api/builds/{build_id}/trials", { params: { path: { build_id: build.id } }, body })),
    onSuccess: () => {
      setPasses([
        { time: "", direction: "out" },
        { time: "", direction: "back" },
      ]);
      setNote("");
      queryClient.invalidateQueries({ queryKey: ["trials", build.id] });
      queryClient.invalidateQueries({ queryKey: ["garage"] });
    },
    onError: (e) => setTrouble(e instanceof Failed ? e.error.message : "That did not work. Your numbers are still here."),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setTrouble("");
    const metres = parseNumber(distance);
    if (metres === undefined || metres <= 0) return setTrouble("Enter the marked length, such as 100.");
    const filled = passes.filter((p) => p.time.trim() !== "");
    if (filled.length === 0) return setTrouble("Enter at least one time, in seconds.");
    const times = filled.map((p) => parseNumber(p.time));
    if (times.some((t) => t === undefined || t <= 0))
      return setTrouble("A time must be a number of seconds above zero, such as 12.4.");
    const optional = (text: string) => (text.trim() === "" ? null : parseNumber(text));
    const [mark, v0, v1] = [optional(knob), optional(before), optional(after)];
    if (mark === undefined || v0 === undefined || v1 === undefined)
      return setTrouble("Knob and volts must be numbers, or empty.");
    if (mark !== null && (mark <= 0 || mark > 10)) return setTrouble("The knob's mark is between 0 and 10.");
    save.mutate({
      setup_id: row.id,
      passes: filled.map((p, i) => ({ distance_m: fromShown(metres, units.length), time_s: times[i]!, direction: p.direction })),
      knob: direct || mark === null ? null : mark / 10,
      surface: String(read(draft.doc, "/ground/surface") ?? ""),
      grade: 0,
      volts_before_v: v0,
      volts_after_v: v1,
      motor_c: null,
      note,
      when: null,
    });
  };
  return (
    <form className="card bg-focustint p-3" onSubmit={submit} aria-label="New trial run">
      <h2 className="text-[15px]">
        New run <span className="font-normal text-ink2">with “{row.name}”, flying start, level</span>
      </h2>
      <div className="mt-2 grid grid-cols-4 gap-2 max-desk:grid-cols-2">
        <Small label="Marked length" unit={units.length} value={distance} onChange={setDistance} />
        {!direct && <Small label="Knob mark" unit="of 10" value={knob} onChange={setKnob} />}
        <Small label="Rest volts before" unit="V" value={before} onChange={setBefore} />
        <Small label="after" unit="V" value={after} onChange={setAfter} />
        {passes.map((p, i) => (
          <Small
            key={i}
            label={`${p.direction === "out" ? "Out" : "Back"} ${Math.floor(i / 2) + 1}`}
            unit="s"
            value={p.time}
            onChange={(time) => setPasses(passes.map((q, k) => (k === i ? { ...q, time } : q)))}
          />
        ))}
        <Small label="Note" unit="" value={note} onChange={setNote} wide />
      </div>
      {trouble && (
        <p role="alert" className="mt-2 font-semibold text-hottext">
          {trouble}
        </p>
      )}
      <div className="mt-3 flex gap-2">
        <button type="submit" className="btn go flex-1" disabled={save.isPending || draft.save.kind !== "saved"}>
          {save.isPending ? "Saving…" : "Save run"}
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => setPasses([...passes, { time: "", direction: "out" }, { time: "", direction: "back" }])}
        >
          Two more passes
        </button>
      </div>
    </form>
  );
}

function KnobPlot({
  trials,
  plan,
  row,
  baseTop,
}: {
  trials: Trial[];
  plan: StageProps["plan"];
  row: StageProps["row"];
  baseTop: number | undefined;
}) {
  const { units } = useSettings();
  const knob = plan.evaluation?.curves.knob;
  const ranges = plan.ranges;
  const mine = trials.filter((t) => t.setup_id === row.id);
  const speed = (v: number) => toShown(v, units.speed);
  if (!knob) {
    const o = plan.evaluation?.outcome;
    const r = ranges?.outcomes.top_speed_half_m_s;
    if (!o || !r) return null;
    return (
      <Plot
        title="Predicted speed against the measured runs"
        xLabel="run"
        yLabel={units.speed}
        x={[0, Math.max(mine.length, 1) + 1]}
        y={[0, speed(r.high) * 1.25]}
        format={(v) => (Number.isInteger(v) ? String(v) : v.toFixed(1))}
        bands={[
          { x: [0, Math.max(mine.length, 1) + 1], low: [speed(r.low), speed(r.low)], high: [speed(r.high), speed(r.high)] },
        ]}
        lines={[{ x: [0, Math.max(mine.length, 1) + 1], y: [speed(o.top_speed_half_m_s), speed(o.top_speed_half_m_s)] }]}
        marks={mine.map((t, i) => ({
          x: i + 1,
          y: speed(t.speed_m_s),
          half: speed(t.half_width_m_s),
          text: shown(t.speed_m_s, "speed", units),
          dy: -14,
        }))}
        words={[
          {
            x: 0.05,
            y: speed(r.high) * 1.06,
            text: `predicted ${shown(o.top_speed_half_m_s, "speed", units)}, likely ${shown(r.low, "speed", units)}–${shown(r.high, "speed", units)}`,
            colour: "var(--leaf-text)",
            bold: true,
          },
        ]}
      />
    );
  }
  const low = ranges?.knob_low;
  const high = ranges?.knob_high;
  const top = speed(Math.max(high?.y.at(-1) ?? 0, knob.y.at(-1) ?? 0, ...mine.map((t) => t.speed_m_s))) * 1.1;
  return (
    <Plot
      title="Predicted speed at each knob mark, with its likely band, and the measured runs"
      xLabel="knob mark"
      yLabel={`${units.speed}, half charge`}
      x={[0, 10]}
      y={[0, top]}
      height={240}
      bands={low && high ? [{ x: low.x.map((m) => 10 * m), low: low.y.map(speed), high: high.y.map(speed) }] : []}
      lines={[
        { x: knob.x.map((m) => 10 * m), y: knob.y.map(speed), width: 2.6 },
        ...(baseTop === undefined
          ? []
          : [{ x: [0, 10], y: [speed(baseTop), speed(baseTop)], colour: "var(--ink-2)", dash: "2 4", width: 1.4 }]),
      ]}
      marks={mine
        .filter((t) => t.knob != null)
        .map((t) => ({
          x: 10 * (t.knob ?? 1),
          y: speed(t.speed_m_s),
          half: speed(t.half_width_m_s),
          text: shown(t.speed_m_s, "speed", units),
          dy: 20,
          dx: (t.knob ?? 1) > 0.8 ? -4 : 4,
          anchor: (t.knob ?? 1) > 0.8 ? "end" : "start",
        }))}
      words={[
        { x: 0.3, y: top * 0.95, text: "line predicted, band likely, points measured", colour: "var(--ink-2)" },
        ...(baseTop === undefined
          ? []
          : [{ x: 0.2, y: speed(baseTop) + top * 0.015, text: `as found ${shown(baseTop, "speed", units)}` }]),
      ]}
    />
  );
}

export function Prove(props: StageProps) {
  const { build, row, plan } = props;
  const { units } = useSettings();
  const queryClient = useQueryClient();
  const trials = useQuery({
    queryKey: ["trials", build.id],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}/trials", { params: { path: { build_id: build.id } } })),
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["build"] });
  // What was clicked shows at once and for each box by itself; the query's own pending state comes a moment too late.
  const [clicked, setClicked] = useState<Record<string, boolean>>({});
  const stand = useMutation({
    mutationFn: ({ step, on }: { step: string; on: boolean }) => {
      const path = { setup_id: row.id, step };
      return on
        ? unwrap(
            client.PUT("/api/setups/{setup_id}/ticks/{step}", {
              params: { path },
              body: { measured: null, measured_open: false },
            }),
          )
        : unwrap(client.DELETE("/api/setups/{setup_id}/ticks/{step}", { params: { path } }));
    },
    // Awaited, so that the box keeps what was clicked until the answer is in.
    onSuccess: () => refresh(),
    onSettled: (_data, _error, { step }) => setClicked(({ [step]: _answered, ...others }) => others),
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      unwrap(
        client.DELETE("/api/builds/{build_id}/trials/{trial_id}", { params: { path: { build_id: build.id, trial_id: id } } }),
      ),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["trials", build.id] }),
  });
  const all = trials.data ?? [];
  const mine = all.filter((t) => t.setup_id === row.id);
  const gained = [...mine].reverse().find((t) => t.gain != null);
  const base = all.filter((t) => build.setups.find((s) => s.id === t.setup_id)?.is_baseline);
  const baseTop = row.is_baseline
    ? undefined
    : base.length
      ? base.reduce((sum, t) => sum + t.speed_m_s, 0) / base.length
      : plan.evaluation?.baseline?.top_speed_m_s;
  const done = new Set(row.ticks.map((t) => t.step));
  const steps = Object.entries(build.stand_steps);
  const ready = steps.every(([key]) => done.has(key));
  return (
    <>
      <Heading
        title="Prove"
        line="Wheels off the ground first. Then ride a marked length, both ways, and see if the plan holds."
      />
      <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(220px,1fr)] gap-5 max-desk:grid-cols-1">
        <KnobPlot trials={all} plan={plan} row={row} baseTop={baseTop} />
        <div className="grid content-start gap-4">
          {gained?.gain != null && (
            <div className="border-l-4 border-leaf pl-3">
              <p className="font-head text-[30px] leading-8 font-bold">
                {gained.gain >= 1 ? "+" : "−"}
                {Math.abs(100 * (gained.gain - 1)).toFixed(0)} %
              </p>
              <p className="text-ink2">
                over the baseline on the same ground, give or take {(100 * (gained.gain_half_width ?? 0)).toFixed(0)} % (95 %).
              </p>
            </div>
          )}
          {!gained && !row.is_baseline && (
            <p className="rounded-lg bg-sunk p-3 text-ink2">
              The gain shows when the baseline and this setup were both timed on the same ground with the knob full up.
            </p>
          )}
          <Block title="On the stand" {...(ready ? {} : { line: "Before anybody rides: all of these." })}>
            <ul>
              {steps.map(([key, words]) => (
                <li key={key} className="flex items-center gap-2 border-b border-line py-1">
                  <input
                    id={key}
                    type="checkbox"
                    className="size-5 accent-[var(--leaf-deep)]"
                    checked={clicked[key] ?? done.has(key)}
                    onChange={(e) => {
                      setClicked({ ...clicked, [key]: e.target.checked });
                      stand.mutate({ step: key, on: e.target.checked });
                    }}
                  />
                  <label htmlFor={key} className="flex-1">
                    {words}
                  </label>
                </li>
              ))}
            </ul>
          </Block>
        </div>
      </div>
      <div className="mt-4">
        <EntryForm {...props} />
      </div>
      <Block title="Trial runs" className="mt-4">
        {all.length === 0 ? (
          <p className="text-ink2">
            No run yet. The first one with the stock setup is the baseline every gain is measured against.
          </p>
        ) : (
          <div className="relative overflow-x-auto">
            <table className="w-full text-[12.5px] [&_td]:px-2 [&_td]:py-1.5 [&_th]:px-2 [&_th]:text-left [&_th]:font-normal [&_th]:text-ink3">
              <thead>
                <tr className="border-b-2 border-ink">
                  <th scope="col">Setup</th>
                  <th scope="col">When</th>
                  <th scope="col">Ground</th>
                  <th scope="col">Passes</th>
                  <th scope="col">Knob</th>
                  <th scope="col">Volts before</th>
                  <th scope="col">Measured {units.speed}</th>
                  <th scope="col">Predicted</th>
                  <th scope="col">Fit</th>
                  <th scope="col">
                    <span className="sr-only">Delete</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {all.map((t) => {
                  const inside =
                    t.predicted_low_m_s != null &&
                    t.speed_m_s + t.half_width_m_s >= t.predicted_low_m_s &&
                    t.speed_m_s - t.half_width_m_s <= (t.predicted_high_m_s ?? 0);
                  const off = t.predicted_m_s ? 100 * (t.speed_m_s / t.predicted_m_s - 1) : 0;
                  return (
                    <tr key={t.id} className={`border-b border-line ${t.setup_id === row.id ? "" : "bg-paper"}`}>
                      <td className="font-bold">{t.setup_name}</td>
                      <td>{new Date(t.when).toLocaleDateString("en-GB", { day: "numeric", month: "short" })}</td>
                      <td>{t.surface}</td>
                      <td>
                        {t.passes.length} × {withUnit(t.passes[0]?.distance_m ?? 0, "length", units)}
                      </td>
                      <td>{t.knob == null ? "–" : plainNumber(10 * t.knob)}</td>
                      <td>{t.volts_before_v ?? "–"}</td>
                      <td>
                        <b>{shown(t.speed_m_s, "speed", units)}</b> ± {shown(t.half_width_m_s, "speed", units)}
                      </td>
                      <td>{t.predicted_m_s == null ? "–" : shown(t.predicted_m_s, "speed", units)}</td>
                      <td className="whitespace-nowrap">
                        <Glyph mark={inside ? "fits" : "caution"} size={13} />{" "}
                        {inside && Math.abs(off) < 5 ? "fits" : `${Math.abs(off).toFixed(0)} % ${off < 0 ? "low" : "high"}`}
                      </td>
                      <td>
                        <button
                          type="button"
                          className="btn quiet !min-h-7 !px-1"
                          aria-label={`Delete run of ${t.setup_name}`}
                          onClick={() => remove.mutate(t.id)}
                        >
                          ×
                        </button>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        )}
      </Block>
    </>
  );
}
