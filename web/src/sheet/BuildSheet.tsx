/** The build sheet: plan, steps, readings, parts to buy, overruled stops. Made to be printed. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { type Build, client, type RackPart, type SetupRow, unwrap } from "../api/client";
import { OpenList } from "../findings/OpenList";
import type { Doc } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { plainNumber, sentence, sizeWords, withUnit } from "../lib/units";
import { usePlan } from "../lib/usePlan";
import { useStanding } from "../lib/useStanding";
import { useOutcomeItems } from "../outcome/OutcomeBand";
import { expects } from "../stages/hookup/expects";
import { useHookup } from "../stages/hookup/useHookup";
import { askedOf } from "../trail/Trail";
import { useWrong } from "../wrong/WhenItGoesWrong";
import { needsOf } from "./needs";
import { useBuild } from "./useBuild";

function H({ children }: { children: string }) {
  return <h2 className="mt-6 mb-2 border-b-2 border-ink pb-1 text-[18px]">{children}</h2>;
}

function Sheet({ build, row, rack, emergency }: { build: Build; row: SetupRow; rack: RackPart[]; emergency: string }) {
  const { units } = useSettings();
  const doc = row.document as Doc;
  const base = build.setups.find((s) => s.is_baseline);
  const plan = usePlan(doc, build.id, row.is_baseline);
  const hookup = useHookup(doc, build.id, row);
  const standing = useStanding(build.id, row);
  const wrongs = useWrong(build.id);
  const items = useOutcomeItems(plan.evaluation, plan.ranges);
  const stock = base && base.id !== row.id ? needsOf(base.document as Doc, (size) => sizeWords(size, units)) : [];
  const needs = needsOf(doc, (size) => sizeWords(size, units)).map((n) => {
    const onMachine = stock.find((s) => s.kind === n.kind && s.label === n.label)?.count ?? 0;
    const onRack = rack.reduce((sum, p) => sum + n.serves(p), 0);
    const buy = Math.max(n.count - onMachine - onRack, 0);
    return { ...n, onMachine: Math.min(onMachine, n.count), onRack: Math.min(onRack, Math.max(n.count - onMachine, 0)), buy };
  });
  const amount = (v: number, unit: string) => (unit === "m" ? withUnit(v, "length", units) : String(Math.ceil(v)));
  const stops = plan.evaluation?.findings.filter((f) => f.severity === "stop") ?? [];
  const done = new Map(row.ticks.filter((t) => !hookup.data?.lost.has(t.step)).map((t) => [t.step, t]));
  return (
    <main className="mx-auto max-w-[820px] bg-card p-8 max-desk:p-4">
      <div className="noprint mb-4 flex flex-wrap gap-2">
        <button type="button" className="btn go" onClick={() => window.print()}>
          Print it
        </button>
        <Link className="btn" to={`/builds/${build.id}/setups/${row.id}/drawing`}>
          The drawing on paper
        </Link>
        <Link className="btn" to={`/builds/${build.id}/setups/${row.id}/hookup`}>
          Back to the bench
        </Link>
      </div>
      <h1 className="text-[32px]">
        {build.name}: {row.name}
      </h1>
      <p className="text-ink2">
        {build.description || build.family} · revision of{" "}
        {new Date(row.updated).toLocaleDateString("en-GB", { dateStyle: "long" })}
      </p>
      <p className="mt-2 border-l-4 border-amber pl-3">
        Planning figures, not a certificate. Where it may be ridden depends on local rules; the maker's limits come first. Leave
        mains wiring to a licensed electrician and opened packs to a battery professional.
      </p>
      <H>The plan</H>
      <dl className="grid grid-cols-3 gap-x-4 gap-y-2 max-desk:grid-cols-2">
        {items.map((i) => (
          <div key={i.name}>
            <dt className="text-small text-ink3">{i.label}</dt>
            <dd className="font-bold">
              {i.value} {i.unit} <span className="text-small font-normal text-ink2">{i.range && `likely ${i.range}`}</span>
            </dd>
          </div>
        ))}
      </dl>
      <table className="mt-3 w-full text-small [&_td]:border-b [&_td]:border-line [&_td]:py-1 [&_td]:pr-2 [&_th]:pr-2">
        <thead>
          <tr className="text-left">
            <th scope="col">Station</th>
            <th scope="col">What it is</th>
            <th scope="col">Asked of what it stands</th>
          </tr>
        </thead>
        <tbody>
          {plan.evaluation?.trail.map((s) => (
            <tr key={s.id}>
              <td className="font-bold">
                {s.name}
                {s.weak ? " (weak link)" : ""}
              </td>
              <td>{sentence(s.detail, units)}</td>
              <td>{askedOf(s, units)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <H>What is open</H>
      <OpenList standing={standing} home={`/builds/${build.id}/setups/${row.id}`} />
      <ul className="list-disc pl-5">
        {stops.map((f) => {
          const o = row.overrules.find((x) => x.finding === f.key);
          return (
            <li key={f.key}>
              <b>{f.title}.</b> {sentence(f.because, units)}{" "}
              {f.unit && f.asked != null && (
                <span className="text-small">
                  ({plainNumber(f.asked)} {f.unit} asked, {plainNumber(f.stands ?? 0)} {f.unit} stands){" "}
                </span>
              )}
              {o && !o.fallen ? (
                <em>
                  {o.kind === "observed" ? "Looked at" : "Overruled"} on {new Date(o.created).toLocaleDateString("en-GB")}
                  {o.by && ` by ${o.by}`}: “{o.reason}”
                </em>
              ) : (
                <b>
                  {f.gate === "ride" ? "Open: do not ride." : "Open: do not power up."}
                  {o?.fallen && " What was said to it no longer covers its numbers."}
                </b>
              )}
            </li>
          );
        })}
        {row.overrules
          .filter((o) => !stops.some((f) => f.key === o.finding))
          .map((o) => (
            <li key={o.finding}>
              {o.title}: was overruled (“{o.reason}”); the plan no longer trips it.
            </li>
          ))}
      </ul>
      <H>Parts to buy</H>
      <table className="w-full text-small [&_td]:border-b [&_td]:border-line [&_td]:py-1 [&_td]:pr-2 [&_th]:pr-2">
        <thead>
          <tr className="text-left">
            <th scope="col">Part</th>
            <th scope="col">Needed</th>
            <th scope="col">On the machine</th>
            <th scope="col">On the rack</th>
            <th scope="col">To buy</th>
          </tr>
        </thead>
        <tbody>
          {needs.map((n) => (
            <tr key={n.label}>
              <td>{n.label}</td>
              <td>{amount(n.count, n.unit)}</td>
              <td>{n.onMachine ? amount(n.onMachine, n.unit) : "–"}</td>
              <td>{n.onRack ? amount(n.onRack, n.unit) : "–"}</td>
              <td className="font-bold">{n.buy > 0.01 ? amount(n.buy, n.unit) : "nothing"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-small text-ink3">Lengths are both ways with 10 % to spare.</p>
      <H>Steps and readings</H>
      <ol className="list-decimal pl-5">
        {[...(hookup.data?.plan?.steps ?? []), ...(hookup.data?.plan?.stand ?? [])].map((s) => {
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
                  Red tip on {s.reading.red_on}, black on {s.reading.black_on}: <b>{expects(s)}</b>. {s.reading.note} Read:{" "}
                  {t ? <b>{t.measured_open ? "OL" : (t.measured ?? "done")}</b> : "________"}
                </span>
              )}
            </li>
          );
        })}
      </ol>
      <H>When it goes wrong</H>
      <div className="grid grid-cols-2 gap-x-6 gap-y-3 max-desk:grid-cols-1">
        {wrongs.data?.map((one) => (
          <section key={one.id} className="break-inside-avoid">
            <h3 className="text-[15px]">{one.title}</h3>
            {one.call && emergency && <p className="font-bold">Call {emergency}.</p>}
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
      <p className="mt-2 text-small text-ink3">
        Cautions of this planner, not a fire service or a doctor: what they say on the phone goes first.
      </p>
    </main>
  );
}

export function BuildSheet() {
  const { build, row, failed } = useBuild();
  const garage = useQuery({
    queryKey: ["garage", build?.garage_id],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}", { params: { path: { garage_id: build?.garage_id ?? 0 } } })),
    enabled: build !== undefined,
  });
  if (failed)
    return (
      <p className="p-6" role="alert">
        This build is not in your garage.{" "}
        <Link className="linkish" to="/">
          Back to the garage
        </Link>
      </p>
    );
  if (!build || !row || !garage.data)
    return (
      <p className="p-6" role="status">
        Making the sheet…
      </p>
    );
  return <Sheet build={build} row={row} rack={garage.data.rack} emergency={garage.data.garage.emergency_number} />;
}
