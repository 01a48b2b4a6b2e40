/** All of one setup on one page: plan, what is open, parts, steps with their readings. On paper, and for who was sent a link to look. */
import type { ReactNode } from "react";
import type { Build, Evaluation, Hookup, Need, PartsList, Ranges, SetupRow, Standing, WhenWrong } from "../api/client";
import { OpenList } from "../findings/OpenList";
import { useSettings } from "../lib/settings";
import { useOutcomeItems } from "../outcome/OutcomeBand";
import { expects } from "../stages/hookup/expects";
import { decimals } from "../texts/locale";
import { sheetView as say } from "../texts/sheet";
import { sentence } from "../texts/units";
import { askedOf } from "../trail/Trail";
import { H } from "./H";
import { PartsTable } from "./PartsTable";

export interface SheetData {
  build: Build;
  row: SetupRow;
  evaluation: Evaluation | undefined;
  ranges: Ranges | undefined;
  hookup: Hookup | null | undefined;
  /** Steps ticked that no longer hold. */
  lost: Set<string>;
  standing: Standing | undefined;
  wrongs: WhenWrong[] | undefined;
  needs: Need[] | undefined;
  /** What the parts cost; not for who only looks. */
  costs?: Pick<PartsList, "to_buy" | "owned"> | undefined;
  /** The rack was counted; not for who only looks, who then does not see what is to buy either. */
  rackCounted: boolean;
  emergency: string;
  /** Where what is open is mended; none for who only looks. */
  home?: string | undefined;
}

/** tools: what one can do here, above it. after: what comes behind the plan. */
export function SheetView({ data, tools, after }: { data: SheetData; tools?: ReactNode; after?: ReactNode }) {
  const { units } = useSettings();
  const { build, row, evaluation, needs, emergency, standing } = data;
  const items = useOutcomeItems(evaluation, data.ranges);
  const stops = evaluation?.findings.filter((f) => f.severity === "stop") ?? [];
  const done = new Map(row.ticks.filter((t) => !data.lost.has(t.step)).map((t) => [t.step, t]));
  return (
    <main className="mx-auto max-w-[820px] bg-card p-8 max-desk:p-4">
      {tools}
      <h1 className="text-[32px]">
        {build.name}: {row.name}
      </h1>
      <p className="text-ink2">{say.revisionOf(build.description, build.family, row.updated)}</p>
      <p className="mt-2 border-l-4 border-amber pl-3">{say.planningFiguresNotA}</p>
      <H>{say.thePlan}</H>
      <dl className="grid grid-cols-3 gap-x-4 gap-y-2 max-desk:grid-cols-2">
        {items.map((i) => (
          <div key={i.name}>
            <dt className="text-small text-ink3">{i.label}</dt>
            <dd className="font-bold">
              {i.value} {i.unit} <span className="text-small font-normal text-ink2">{i.range && say.likely(i.range)}</span>
            </dd>
          </div>
        ))}
      </dl>
      <table className="mt-3 w-full text-small [&_td]:border-b [&_td]:border-line [&_td]:py-1 [&_td]:pr-2 [&_th]:pr-2">
        <thead>
          <tr className="text-left">
            <th scope="col">{say.station}</th>
            <th scope="col">{say.whatItIs}</th>
            <th scope="col">{say.askedOfWhatIt}</th>
          </tr>
        </thead>
        <tbody>
          {evaluation?.trail.map((s) => (
            <tr key={s.id}>
              <td className="font-bold">{s.weak ? say.weakLink(s.name) : s.name}</td>
              <td>{sentence(s.detail, units)}</td>
              <td>{askedOf(s, units)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <H>{say.whatIsOpen}</H>
      <OpenList standing={standing} home={data.home} />
      <ul className="list-disc pl-5">
        {stops.map((f) => {
          const o = row.overrules.find((x) => x.finding === f.key);
          return (
            <li key={f.key}>
              <b>{f.title}.</b> {sentence(f.because, units)}{" "}
              {f.unit && f.asked != null && <span className="text-small">{say.askedStands(f.asked, f.unit, f.stands)} </span>}
              {o && !o.fallen ? (
                <em>{say.on(o.kind, o.created, o.by, o.reason)}</em>
              ) : (
                <b>
                  {f.gate === "ride" ? say.openDoNotRide : say.openDoNotPower}
                  {o?.fallen && ` ${say.whatWasSaidTo}`}
                </b>
              )}
            </li>
          );
        })}
        {row.overrules
          .filter((o) => !stops.some((f) => f.key === o.finding))
          .map((o) => (
            <li key={o.finding}>{say.wasOverruledThePlan(o.title, o.reason)}</li>
          ))}
      </ul>
      {after}
      <PartsTable
        needs={needs}
        costs={data.costs}
        racked={data.rackCounted}
        csv={data.home && `/api/setups/${row.id}/parts.csv`}
      />
      <H>{say.stepsAndReadings}</H>
      <ol className="list-decimal pl-5">
        {[...(data.hookup?.steps ?? []), ...(data.hookup?.stand ?? [])].map((s) => {
          const t = done.get(s.id);
          return (
            <li key={s.id} className="mb-1.5 break-inside-avoid">
              <b>{sentence(s.title, units)}.</b> {sentence(s.what, units)} {s.caution && <em>{s.caution}</em>}
              {[...(s.joint ? [s.joint] : []), ...(s.care ? [s.care] : [])].map((one) => (
                <span key={one} className="block text-small text-ink2">
                  {one}
                </span>
              ))}
              {s.reading && (
                <span className="block text-small">
                  {say.redTipOnBlack(s.reading.red_on, s.reading.black_on, expects(s), s.reading.note)}{" "}
                  {t && !t.excused ? (
                    <b>{t.measured_open ? say.ol : t.measured == null ? say.done : decimals(String(t.measured))}</b>
                  ) : (
                    "________"
                  )}
                </span>
              )}
            </li>
          );
        })}
      </ol>
      <H>{say.whenItGoesWrong}</H>
      <div className="grid grid-cols-2 gap-x-6 gap-y-3 max-desk:grid-cols-1">
        {data.wrongs?.map((one) => (
          <section key={one.id} className="break-inside-avoid">
            <h3 className="text-[15px]">{one.title}</h3>
            {one.call && emergency && <p className="font-bold">{say.call(emergency)}</p>}
            <ol className="list-decimal pl-5">
              {one.steps.map((step) => (
                <li key={step.title}>
                  <b>{step.title}</b> {step.what}
                </li>
              ))}
            </ol>
            <p className="text-small">{one.dont.join(" ")}</p>
          </section>
        ))}
      </div>
      <p className="mt-2 text-small text-ink3">{say.cautionsOfThisPlanner}</p>
    </main>
  );
}
