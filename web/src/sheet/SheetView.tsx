/** All of one setup on one page: plan, what is open, parts, steps with their readings. On paper, and for who was sent a link to look. */
import type { ReactNode } from "react";
import type { Build, Evaluation, Hookup, Need, Ranges, SetupRow, Standing, WhenWrong } from "../api/client";
import { OpenList } from "../findings/OpenList";
import { useSettings } from "../lib/settings";
import { useOutcomeItems } from "../outcome/OutcomeBand";
import { expects } from "../stages/hookup/expects";
import { decimals } from "../texts/locale";
import { sheetView as say } from "../texts/sheet";
import { sentence, shown, unitOf } from "../texts/units";
import { askedOf } from "../trail/Trail";

export function H({ children }: { children: string }) {
  return <h2 className="mt-6 mb-2 border-b-2 border-ink pb-1 text-[18px]">{children}</h2>;
}

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
  const racked = data.rackCounted;
  const items = useOutcomeItems(evaluation, data.ranges);
  // Wire is sold by the foot or the metre, however short the piece.
  const amount = (v: number, unit: string) =>
    unit === "m" ? `${shown(v, "length", units)} ${unitOf("length", units)}` : String(Math.ceil(v));
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
      <H>{racked ? say.partsToBuy : say.parts}</H>
      <table className="w-full text-small [&_td]:border-b [&_td]:border-line [&_td]:py-1 [&_td]:pr-2 [&_th]:pr-2">
        <thead>
          <tr className="text-left">
            <th scope="col">{say.part}</th>
            <th scope="col">{say.needed}</th>
            <th scope="col">{say.onTheMachine}</th>
            {racked && (
              <>
                <th scope="col">{say.onTheRack}</th>
                <th scope="col">{say.toBuy}</th>
              </>
            )}
          </tr>
        </thead>
        <tbody>
          {needs?.map((n) => (
            <tr key={n.label}>
              <td>
                {sentence(n.label, units)}
                {n.note && <span className="block text-ink2">{n.note}</span>}
              </td>
              <td>{amount(n.needed, n.unit)}</td>
              <td>{n.on_machine ? amount(n.on_machine, n.unit) : "–"}</td>
              {racked && (
                <>
                  <td>{n.on_rack ? amount(n.on_rack, n.unit) : "–"}</td>
                  <td className="font-bold">{n.to_buy > 0.01 ? amount(n.to_buy, n.unit) : say.nothing}</td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-small text-ink3">{say.lengthsAreBothWays}</p>
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
