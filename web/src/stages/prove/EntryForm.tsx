/** A new run: marked length, times out and back, knob, volts. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { Failed, type NewTrial, type Trial } from "../../api/client";
import { Locked } from "../../findings/OpenList";
import { sendOrKeep } from "../../lib/outbox";
import { read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { useKept } from "../../lib/useKept";
import { entryForm as say } from "../../texts/prove";
import { fromMark, fromShown, parseNumber, plainNumber, sentence, toMark } from "../../texts/units";
import { Dialog } from "../../ui/Dialog";
import { Alert } from "../../ui/Trouble";
import type { StageProps } from "../stage";

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

const BOTH_WAYS: PassText[] = [
  { time: "", direction: "out" },
  { time: "", direction: "back" },
];

export function EntryForm({ build, row, draft }: StageProps) {
  const { units } = useSettings();
  const queryClient = useQueryClient();
  const direct = read(draft.doc, "/controller/kind") === "none";
  const limiter = read(draft.doc, "/throttle/limiter_mark") ?? 1;
  const kept = `trial ${row.id}`;
  const [distance, setDistance] = useKept(`${kept} length`, units.length === "ft" ? "100" : "30");
  const [passes, setPasses] = useKept<PassText[]>(`${kept} passes`, BOTH_WAYS);
  const [knob, setKnob] = useKept(`${kept} knob`, String(plainNumber(toMark(limiter))));
  const [before, setBefore] = useKept(`${kept} before`, "");
  const [after, setAfter] = useKept(`${kept} after`, "");
  const [note, setNote] = useKept(`${kept} note`, "");
  const [trouble, setTrouble] = useState("");
  const [reasons, setReasons] = useState<string[]>([]);
  const [confirming, setConfirming] = useState<{ body: NewTrial; stops: string[] } | null>(null);
  const save = useMutation({
    mutationFn: (body: NewTrial) =>
      sendOrKeep<Trial>({
        method: "POST",
        url: `/api/builds/${build.id}/trials`,
        body,
        words: say.trialOf(build.name, row.name, body.passes.map((pass) => `${pass.time_s} s`).join(", ")),
      }),
    onSuccess: () => {
      setReasons([]);
      setConfirming(null);
      setPasses(BOTH_WAYS);
      for (const empty of [setBefore, setAfter, setNote]) empty("");
      queryClient.invalidateQueries({ queryKey: ["trials", build.id] });
      queryClient.invalidateQueries({ queryKey: ["garage"] });
    },
    onError: (e, body) => {
      if (e instanceof Failed && e.error.code === "confirm")
        return setConfirming({ body, stops: (e.error.problems ?? []).map((p) => p.message) });
      if (e instanceof Failed && e.error.code === "locked") return setReasons((e.error.problems ?? []).map((p) => p.message));
      setTrouble(e instanceof Failed ? e.error.message : say.thatDidNotWork);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setTrouble("");
    setReasons([]);
    const metres = parseNumber(distance);
    if (metres === undefined || metres <= 0) return setTrouble(say.enterTheMarkedLength);
    const filled = passes.filter((p) => p.time.trim() !== "");
    if (filled.length === 0) return setTrouble(say.enterAtLeastOne);
    const times = filled.map((p) => parseNumber(p.time));
    if (times.some((t) => t === undefined || t <= 0)) return setTrouble(say.aTimeMustBe);
    const optional = (text: string) => (text.trim() === "" ? null : parseNumber(text));
    const [mark, v0, v1] = [optional(knob), optional(before), optional(after)];
    if (mark === undefined || v0 === undefined || v1 === undefined) return setTrouble(say.knobAndVoltsMust);
    if (mark !== null && (mark <= 0 || mark > 10)) return setTrouble(say.theKnobsMarkIs);
    save.mutate({
      setup_id: row.id,
      passes: filled.map((p, i) => ({ distance_m: fromShown(metres, units.length), time_s: times[i]!, direction: p.direction })),
      knob: direct || mark === null ? null : fromMark(mark),
      surface: read(draft.doc, "/ground/surface") ?? "",
      grade: 0,
      volts_before_v: v0,
      volts_after_v: v1,
      motor_c: null,
      note,
      // Of the ride, however late it arrives.
      when: new Date().toISOString(),
      confirmed: false,
    });
  };
  return (
    <form className="card bg-focustint p-3" onSubmit={submit} aria-label={say.newTrialRun}>
      <h2 className="text-[15px]">
        {say.newRun} <span className="font-normal text-ink2">{say.withFlyingStartLevel(row.name)}</span>
      </h2>
      <div className="mt-2 grid grid-cols-4 gap-2 max-desk:grid-cols-2">
        <Small label={say.markedLength} unit={units.length} value={distance} onChange={setDistance} />
        {!direct && <Small label={say.knobMark} unit={say.of10} value={knob} onChange={setKnob} />}
        <Small label={say.restVoltsBefore} unit="V" value={before} onChange={setBefore} />
        <Small label={say.after} unit="V" value={after} onChange={setAfter} />
        {passes.map((p, i) => (
          <Small
            key={i}
            label={`${p.direction === "out" ? say.out : say.back} ${Math.floor(i / 2) + 1}`}
            unit="s"
            value={p.time}
            onChange={(time) => setPasses(passes.map((q, k) => (k === i ? { ...q, time } : q)))}
          />
        ))}
        <Small label={say.note} unit="" value={note} onChange={setNote} wide />
      </div>
      {trouble && <Alert className="mt-2">{trouble}</Alert>}
      {reasons.length > 0 && <p className="mt-2 font-semibold">{say.thisSetupMayNot}</p>}
      <Locked reasons={reasons} />
      <Dialog
        open={confirming !== null}
        onOpenChange={() => setConfirming(null)}
        title={say.theMachineAsFound}
        description={say.theBaselineRunIs}
      >
        <ul className="mb-3 list-disc pl-5">
          {confirming?.stops.map((stop) => (
            <li key={stop}>{sentence(stop, units)}</li>
          ))}
        </ul>
        <div className="flex justify-end gap-2">
          <button type="button" className="btn" onClick={() => setConfirming(null)}>
            {say.notNow}
          </button>
          <button
            type="button"
            className="btn hot"
            disabled={save.isPending}
            onClick={() => confirming && save.mutate({ ...confirming.body, confirmed: true })}
          >
            {say.itWasRiddenAs}
          </button>
        </div>
      </Dialog>
      <div className="mt-3 flex gap-2">
        <button type="submit" className="btn go flex-1" disabled={save.isPending || draft.save.kind !== "saved"}>
          {save.isPending ? say.saving : say.saveRun}
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => setPasses([...passes, { time: "", direction: "out" }, { time: "", direction: "back" }])}
        >
          {say.twoMorePasses}
        </button>
      </div>
    </form>
  );
}
