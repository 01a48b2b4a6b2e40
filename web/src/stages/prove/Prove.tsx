/** Prove: checks on the stand, then timed distances; prediction against measurement, gain over the baseline. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Trial, unwrap } from "../../api/client";
import { useBinned } from "../../bin/Undo";
import { OpenList } from "../../findings/OpenList";
import { sendOrKeep } from "../../lib/outbox";
import { useSettings } from "../../lib/settings";
import { usePages } from "../../lib/usePages";
import { reasonsOf, useStanding } from "../../lib/useStanding";
import { PhotosOf } from "../../photos/PhotosOf";
import { decimals, fixed, shortDay } from "../../texts/locale";
import { prove as say } from "../../texts/prove";
import { plainNumber, sentence, shown, toMark, withUnit } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { More } from "../../ui/More";
import { Trouble } from "../../ui/Trouble";
import { Block, Heading } from "../Heading";
import { useHookup } from "../hookup/useHookup";
import type { StageProps } from "../stage";
import { EntryForm } from "./EntryForm";
import { KnobPlot } from "./KnobPlot";

export function Prove(props: StageProps) {
  const { build, row, plan, draft } = props;
  const { units } = useSettings();
  const queryClient = useQueryClient();
  const binned = useBinned();
  const trials = usePages(
    ["trials", build.id],
    60,
    (skip, limit) =>
      unwrap(client.GET("/api/builds/{build_id}/trials", { params: { path: { build_id: build.id }, query: { skip, limit } } })),
    (trial) => trial.id,
  );
  const hookup = useHookup(draft.doc, build.id, row);
  const standing = useStanding(build.id, row);
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["build"] });
  // What was clicked shows at once and for each box by itself; the query's own pending state comes a moment too late.
  const [clicked, setClicked] = useState<Record<string, boolean>>({});
  const stand = useMutation({
    mutationFn: ({ step, on }: { step: string; on: boolean }) => {
      const path = { setup_id: row.id, step };
      return on
        ? sendOrKeep<unknown>({
            method: "PUT",
            url: `/api/setups/${row.id}/ticks/${step}`,
            body: { measured: null, measured_open: false },
            words: `${steps.find((s) => s.id === step)?.title ?? step}, ${build.name}`,
          })
        : unwrap(client.DELETE("/api/setups/{setup_id}/ticks/{step}", { params: { path } }));
    },
    // Awaited, so that the box keeps what was clicked until the answer is in.
    onSuccess: () => refresh(),
    onSettled: (_data, _error, { step }) => setClicked(({ [step]: _answered, ...others }) => others),
  });
  const remove = useMutation({
    mutationFn: ({ id }: Trial) =>
      unwrap(
        client.DELETE("/api/builds/{build_id}/trials/{trial_id}", { params: { path: { build_id: build.id, trial_id: id } } }),
      ),
    onSuccess: (_data, { id, when }) => {
      binned({ garage: build.garage_id, kind: "trial", id, name: say.theTrialOf(when) });
      return queryClient.invalidateQueries({ queryKey: ["trials", build.id] });
    },
  });
  // Oldest first, as they were ridden: the last page is the oldest.
  const all = [...(trials.pages ?? [])].reverse().flat();
  const mine = all.filter((t) => t.setup_id === row.id);
  const gained = [...mine].reverse().find((t) => t.gain != null);
  const base = all.filter((t) => build.setups.find((s) => s.id === t.setup_id)?.is_baseline);
  const baseTop = row.is_baseline
    ? undefined
    : base.length
      ? base.reduce((sum, t) => sum + t.speed_m_s, 0) / base.length
      : plan.evaluation?.baseline?.top_speed_m_s;
  const done = new Set(row.ticks.map((t) => t.step));
  const steps = hookup.data?.plan?.stand ?? [];
  const ready = standing?.ride ?? false;
  const home = `/builds/${build.id}/setups/${row.id}`;
  return (
    <>
      <Heading title={say.prove} line={say.wheelsOffTheGround} />
      <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(220px,1fr)] gap-5 max-desk:grid-cols-1">
        <KnobPlot trials={all} plan={plan} row={row} baseTop={baseTop} />
        <div className="grid content-start gap-4">
          {gained?.gain != null && (
            <div className="border-l-4 border-leaf pl-3">
              <p className="font-head text-[30px] leading-8 font-bold">
                {gained.gain >= 1 ? "+" : "−"}
                {fixed(Math.abs(100 * (gained.gain - 1)), 0)} %
              </p>
              <p className="text-ink2">{say.overTheBaselineOn(gained.gain_half_width)}</p>
            </div>
          )}
          {!gained && !row.is_baseline && <p className="rounded-lg bg-sunk p-3 text-ink2">{say.theGainShowsWhen}</p>}
          <Block title={say.onTheStand} {...(ready ? {} : { line: say.beforeAnybodyRidesAll })}>
            {!ready && (standing?.open.length ?? 0) > 0 && <OpenList standing={standing} home={home} />}
            {steps.length === 0 && <p className="text-ink2">{say.chooseThePacksFirst}</p>}
            <ul>
              {steps.map((s) => {
                const reasons = reasonsOf(standing, s.id);
                const locked = reasons.length > 0 && !done.has(s.id);
                return (
                  <li key={s.id} className="flex items-start gap-2 border-b border-line py-1.5">
                    <input
                      id={s.id}
                      type="checkbox"
                      className="mt-0.5 size-6 shrink-0 accent-[var(--leaf-deep)] max-desk:size-7"
                      checked={clicked[s.id] ?? done.has(s.id)}
                      disabled={locked || draft.save.kind !== "saved"}
                      aria-describedby={locked ? `${s.id}-locked` : `${s.id}-what`}
                      onChange={(e) => {
                        setClicked({ ...clicked, [s.id]: e.target.checked });
                        stand.mutate({ step: s.id, on: e.target.checked });
                      }}
                    />
                    <div className="min-w-0 flex-1">
                      <label htmlFor={s.id} className="font-semibold">
                        {s.title}
                      </label>
                      <p id={`${s.id}-what`} className="text-small text-ink2">
                        {s.what} {s.caution && <b>{s.caution}</b>}
                      </p>
                      {locked && (
                        <p id={`${s.id}-locked`} className="text-small text-hottext">
                          {sentence(reasons[0] ?? "", units)}
                          {reasons.length > 1 && say.andMore(reasons.length)}.
                        </p>
                      )}
                    </div>
                  </li>
                );
              })}
            </ul>
            <Trouble error={stand.error} />
          </Block>
        </div>
      </div>
      <div className="mt-4">
        <EntryForm {...props} />
      </div>
      <Block title={say.trialRuns} className="mt-4">
        {all.length === 0 ? (
          <p className="text-ink2">{say.noRunYetThe}</p>
        ) : (
          <div className="relative overflow-x-auto">
            <table className="w-full text-[12.5px] [&_td]:px-2 [&_td]:py-1.5 [&_th]:px-2 [&_th]:text-left [&_th]:font-normal [&_th]:text-ink3">
              <thead>
                <tr className="border-b-2 border-ink">
                  <th scope="col">{say.setup}</th>
                  <th scope="col">{say.when}</th>
                  <th scope="col">{say.ground}</th>
                  <th scope="col">{say.passes}</th>
                  <th scope="col">{say.knob}</th>
                  <th scope="col">{say.voltsBefore}</th>
                  <th scope="col">{say.measured(units)}</th>
                  <th scope="col">{say.predicted}</th>
                  <th scope="col">{say.fit}</th>
                  <th scope="col">
                    <span className="sr-only">{say.deleteOne}</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {all.map((t) => (
                  <tr key={t.id} className={`border-b border-line align-top ${t.setup_id === row.id ? "" : "bg-paper"}`}>
                    <td className="font-bold">{t.setup_name}</td>
                    <td>
                      {shortDay(t.when)}
                      <PhotosOf garageId={build.garage_id} shows={{ build: build.id, trial: t.id }} title={say.photosOfThisRun} />
                    </td>
                    <td>{t.surface}</td>
                    <td>
                      {t.passes.length} × {withUnit(t.passes[0]?.distance_m ?? 0, "length", units)}
                    </td>
                    <td>{t.knob == null ? "–" : plainNumber(toMark(t.knob))}</td>
                    <td>{t.volts_before_v == null ? "–" : decimals(String(t.volts_before_v))}</td>
                    <td>
                      <b>{shown(t.speed_m_s, "speed", units)}</b> ± {shown(t.half_width_m_s, "speed", units)}
                    </td>
                    <td>{t.predicted_m_s == null ? "–" : shown(t.predicted_m_s, "speed", units)}</td>
                    <td className="whitespace-nowrap">
                      {t.verdict == null ? (
                        "–"
                      ) : (
                        <>
                          <Glyph mark={t.verdict.likely ? "fits" : "caution"} size={13} />{" "}
                          {t.verdict.fits ? say.fits : say.off(t.verdict.off)}
                        </>
                      )}
                    </td>
                    <td>
                      <button
                        type="button"
                        className="btn quiet !min-h-7 !px-1"
                        aria-label={say.deleteRunOf(t.setup_name)}
                        onClick={() => remove.mutate(t)}
                      >
                        ×
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <More of={trials} words={say.showOlderRuns} />
          </div>
        )}
      </Block>
    </>
  );
}
