/** Setups of a build side by side: what the rider gets with its likely range, only what differs, and the limit they share. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { type Build, type Comparison, client, type SetupRow, unwrap } from "../api/client";
import { Header } from "../frame/Header";
import { useInGarageOf } from "../lib/garage";
import { useSettings } from "../lib/settings";
import { type Asked, GoalForm, useGoal } from "../stages/drive/Goal";
import { compare as say } from "../texts/compare";
import { fixed, isNothing } from "../texts/locale";
import { duration, energyPerWay, plainNumber, sentence, toShown, type UnitChoice, unitOf, way, withUnit } from "../texts/units";
import { Glyph } from "../ui/Glyph";
import { Wide } from "../ui/Table";
import { Trouble } from "../ui/Trouble";
import { Costs } from "./Costs";

const MOST = 6;
const COLOURS = ["var(--ink)", "var(--leaf-deep)", "var(--hot-deep)", "var(--focus)", "var(--amber-line)", "var(--ink-3)"];
type Row = Comparison["outcomes"][number];

const SAY: Record<Row["kind"], (value: number, units: UnitChoice) => string> = {
  speed: (v, u) => withUnit(v, "speed", u),
  length: way,
  time: (v) => duration(v),
  grade: (v) => `${Math.round(100 * v)} %`,
  amps: (v) => `${plainNumber(v, v < 10 ? 1 : 0)} A`,
  volts: (v) => `${fixed(v, 1)} V`,
  temp: (v, u) => `${Math.round(toShown(v, u.temp))} ${u.temp}`,
  wh_per_km: (v, u) => energyPerWay(v, u),
  plain: (v) => fixed(v, 1),
};

/** A difference in the row's own unit, with its sign. */
export function difference(kind: Row["kind"], value: number, units: UnitChoice): string {
  const sign = value > 0 ? "+" : "−";
  const size = Math.abs(value);
  const text =
    kind === "temp"
      ? `${Math.round(size * (units.temp === "°F" ? 1.8 : 1))}`
      : kind === "time"
        ? duration(size)
        : kind === "length"
          ? way(size, units)
          : kind === "speed"
            ? fixed(toShown(size, unitOf(kind, units)), 1)
            : kind === "grade"
              ? `${Math.round(100 * size)}`
              : kind === "wh_per_km"
                ? energyPerWay(size, units).split(" ")[0] || ""
                : plainNumber(size, size < 10 ? 1 : 0);
  return isNothing(text) ? say.same : `${sign}${text}`;
}

function Bars({ row, units }: { row: Row; units: UnitChoice }) {
  const ends = row.cells.flatMap((c) => [c.low, c.high, c.value]).filter((v): v is number => v != null);
  const low = Math.min(...ends);
  const high = Math.max(...ends, low + 1e-9);
  const at = (v: number) => 4 + (92 * (v - low)) / (high - low);
  const first = row.cells[0]?.value;
  return (
    <svg
      viewBox={`0 0 100 ${row.cells.length * 6 + 2}`}
      className="h-auto w-full min-w-[90px]"
      preserveAspectRatio="none"
      role="img"
      aria-label={row.cells.map((c) => (c.value == null ? "–" : SAY[row.kind](c.value, units))).join(", ")}
    >
      {first != null && (
        <line x1={at(first)} x2={at(first)} y1="0" y2={row.cells.length * 6 + 2} stroke="var(--ink)" strokeWidth=".8" />
      )}
      {row.cells.map((c, i) => (
        <g key={i}>
          {c.low != null && c.high != null && (
            <rect
              x={at(c.low)}
              width={Math.max(at(c.high) - at(c.low), 0.8)}
              y={i * 6 + 2}
              height="4"
              fill={COLOURS[i]}
              opacity=".28"
            />
          )}
          {c.value != null && <rect x={at(c.value) - 0.7} width="1.4" y={i * 6 + 1} height="6" fill={COLOURS[i]} />}
        </g>
      ))}
    </svg>
  );
}

/** The colour of a setup, by its place among those chosen. */
const Dot = ({ index }: { index: number }) => (
  <span className="inline-block size-2.5 rounded-full" style={{ background: COLOURS[index] }} aria-hidden="true" />
);

/** The trails over each other: each station's share, one mark a setup. */
function Trails({ found }: { found: Comparison }) {
  const ids = Object.keys(found.stations);
  return (
    <section className="card p-3">
      <h2 className="text-[15px]">{say.theTrails}</h2>
      <p className="mb-2 text-ink2">{say.howMuchEachIsAsked}</p>
      <ul className="grid gap-1">
        {ids.map((id) => (
          <li key={id} className="grid grid-cols-[110px_minmax(0,1fr)] items-center gap-2 text-small">
            <span className="truncate">{found.stations[id]}</span>
            <span className="relative block bg-paper" style={{ height: 6 * found.setups.length + 4 }}>
              <span className="absolute inset-y-0 w-px bg-hotdeep" style={{ left: "80%" }} aria-hidden="true" />
              {found.setups.map((s, i) => {
                const share = s.shares[id];
                return share === undefined ? null : (
                  <span
                    key={s.name}
                    className="absolute left-0 h-[5px] rounded-r"
                    style={{ top: 2 + 6 * i, width: `${Math.min(share, 1.25) * 80}%`, background: COLOURS[i] }}
                    title={`${s.name}: ${Math.round(100 * share)} %`}
                  />
                );
              })}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Chooser({ build, chosen, set }: { build: Build; chosen: number[]; set: (ids: number[]) => void }) {
  return (
    <fieldset className="mb-3 flex flex-wrap gap-1.5" aria-label={say.whichSetups}>
      {build.setups.map((s) => {
        const on = chosen.includes(s.id);
        return (
          <button
            key={s.id}
            type="button"
            className="btn"
            aria-pressed={on}
            disabled={!on && chosen.length >= MOST}
            onClick={() => set(on ? chosen.filter((id) => id !== s.id) : [...chosen, s.id])}
          >
            {on && <Dot index={chosen.indexOf(s.id)} />} {s.name}
            {s.is_baseline && <span className="font-normal text-ink3"> {say.baseline}</span>}
          </button>
        );
      })}
    </fieldset>
  );
}

/** How each of the setups stands to a goal, and its gentlest way there. */
function Goals({ build, chosen, names }: { build: Build | undefined; chosen: number[]; names: string[] }) {
  const [goal, setGoal] = useState<Asked>();
  const rows = chosen.flatMap((id) => build?.setups.filter((s) => s.id === id) ?? []);
  return (
    <section className="card p-3" aria-label={say.aGoal}>
      <h2 className="mb-2 text-[15px]">{say.itShouldGo}</h2>
      <GoalForm onGoal={setGoal} label={say.goal} />
      {goal && build && (
        <ul className="mt-2 grid gap-2">
          {rows.map((row, i) => (
            <Nearness key={row.id} build={build} row={row} goal={goal} index={i} name={names[i] ?? row.name} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Nearness({ build, row, goal, index, name }: { build: Build; row: SetupRow; goal: Asked; index: number; name: string }) {
  const { units } = useSettings();
  const { found, error } = useGoal({ doc: row.document, buildId: build.id, isBaseline: row.is_baseline }, goal);
  return (
    <li className="border-t border-line pt-1.5">
      <p>
        <Dot index={index} /> <b>{name}</b>{" "}
        {found && (
          <Glyph mark={found.reached ? "fine" : found.ways.some((w) => !w.stops.length) ? "open" : "stop"} size={13} quiet />
        )}
      </p>
      <p className="text-small text-ink2">
        {error ? say.thisSetupCannotBe : found ? sentence(found.sentence, units) : say.tryingWhatReachesIt}
      </p>
    </li>
  );
}

export function Compare() {
  const { buildId } = useParams();
  const id = Number(buildId);
  const { units } = useSettings();
  const [params, setParams] = useSearchParams();
  const [all, setAll] = useState(false);
  const build = useQuery({
    queryKey: ["build", id],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}", { params: { path: { build_id: id } } })),
  });
  useInGarageOf(build.data);
  const setups = build.data?.setups ?? [];
  const asked = (params.get("with") ?? "")
    .split(",")
    .map(Number)
    .filter((one) => setups.some((s) => s.id === one));
  const base = setups.find((s) => s.is_baseline)?.id;
  const start = [base, setups.find((s) => s.in_use && s.id !== base)?.id ?? setups.find((s) => s.id !== base)?.id];
  const chosen = asked.length ? asked : start.filter((one): one is number => one !== undefined);
  const found = useQuery({
    queryKey: ["compare", chosen, setups.map((s) => s.version)],
    queryFn: () => unwrap(client.POST("/api/compare", { body: { setup_ids: chosen, drafts: {} } })),
    enabled: chosen.length >= 2,
  });
  const c = chosen.length >= 2 ? found.data : undefined;
  const kept = <T extends { differs: boolean }>(rows: T[]) => rows.filter((r) => all || r.differs);
  return (
    <div className="min-h-full">
      <Header
        crumb={
          <Link to={`/builds/${id}`} className="truncate font-bold text-ink">
            {build.data?.name ?? "…"}
          </Link>
        }
      />
      <main className="mx-auto max-w-[1240px] p-4">
        <h1 className="text-[21px]">{say.sideBySide}</h1>
        <p className="mb-3 text-ink2">{say.comparedWithTheFirst}</p>
        <Trouble error={build.error ?? found.error} />
        {build.data && (
          <Chooser
            build={build.data}
            chosen={chosen}
            set={(ids) => setParams(ids.length ? { with: ids.join(",") } : {}, { replace: true })}
          />
        )}
        {chosen.length < 2 && build.data && (
          <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">
            {setups.length < 2 ? say.thisBuildHasOne : say.chooseOneMore}
          </p>
        )}
        {chosen.length >= 2 && !c && !found.error && <p role="status">{say.workingOutEachSetup}</p>}
        {c && (
          <div className="grid grid-cols-[minmax(0,1fr)_300px] gap-5 max-wide:grid-cols-1">
            <div className="grid min-w-0 content-start gap-5">
              {c.shared_limit && <p className="border-l-4 border-amber pl-3">{sentence(c.shared_limit, units)}</p>}
              <Wide label={say.whatTheRiderGets}>
                <table className="w-full min-w-[520px]">
                  <thead>
                    <tr className="border-b-[1.5px] border-ink align-bottom">
                      <th scope="col" className="py-1 text-left font-normal">
                        <h2 className="text-[15px]">{say.whatTheRiderGets}</h2>
                      </th>
                      <th scope="col" className="w-[22%] px-2 text-left text-small font-normal text-ink3">
                        {say.likelyRange}
                      </th>
                      {c.setups.map((s, i) => (
                        <th scope="col" key={s.name} className="pl-3 text-right">
                          <Dot index={i} /> {s.name}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {kept(c.outcomes).map((r) => (
                      <tr key={r.id} className="border-b border-line">
                        <th scope="row" className="py-1 text-left text-small font-normal">
                          {r.label}
                        </th>
                        <td className="px-2">
                          <Bars row={r} units={units} />
                        </td>
                        {r.cells.map((cell, i) => (
                          <td key={i} className="pl-3 text-right whitespace-nowrap">
                            <b>{cell.value == null ? "–" : SAY[r.kind](cell.value, units)}</b>
                            {i > 0 && cell.against_first != null && (
                              <span className="block text-small text-ink2">{difference(r.kind, cell.against_first, units)}</span>
                            )}
                          </td>
                        ))}
                      </tr>
                    ))}
                  </tbody>
                </table>
              </Wide>
              {build.data && <Costs build={build.data} chosen={chosen} />}
              <Wide label={say.whatWasChanged}>
                <table className="w-full min-w-[520px] text-small">
                  <thead>
                    <tr className="border-b-[1.5px] border-ink">
                      <th scope="col" className="py-1 text-left">
                        <h2 className="text-[15px]">{say.whatWasChanged}</h2>
                      </th>
                      {c.setups.map((s, i) => (
                        <th scope="col" key={s.name} className="pl-3 text-left">
                          <Dot index={i} /> {s.name}
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {kept(c.changes).map((r) => (
                      <tr key={r.path} className="border-b border-line align-top">
                        <th scope="row" className="py-1 pr-2 text-left font-semibold">
                          {r.label}
                        </th>
                        {r.values.map((v, i) => (
                          <td key={i} className={`py-1 pl-3 ${i > 0 && v !== r.values[0] ? "bg-ambertint" : "text-ink2"}`}>
                            {i > 0 && v === r.values[0] ? say.same : sentence(v, units)}
                          </td>
                        ))}
                      </tr>
                    ))}
                  </tbody>
                </table>
                {kept(c.changes).length === 0 && <p className="text-ink2">{say.theMachinesAreAlike}</p>}
              </Wide>
              <label className="flex min-h-8 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5 accent-[var(--leaf-deep)]"
                  checked={all}
                  onChange={(e) => setAll(e.target.checked)}
                />
                {say.showTheThatAre(c.alike)}
              </label>
            </div>
            <div className="grid content-start gap-4">
              <Goals build={build.data} chosen={chosen} names={c.setups.map((s) => s.name)} />
              <ul className="grid gap-3">
                {c.setups.map((s, i) => (
                  <li key={s.name} className="card p-3" style={{ borderLeft: `5px solid ${COLOURS[i]}` }}>
                    <h2 className="text-[15px]">
                      <Link to={`/builds/${id}/setups/${chosen[i]}/drive`}>{s.name}</Link>
                    </h2>
                    <p>
                      <Glyph mark={s.stops ? "stop" : s.cautions ? "caution" : "fine"} size={13} quiet />{" "}
                      {say.stopsAndCautions(s.stops, s.cautions)}
                    </p>
                    {s.titles.length > 0 && <p className="text-small text-hottext">{s.titles.join("; ")}</p>}
                    <p className="text-small text-ink2">{sentence(s.held_back, units)}</p>
                  </li>
                ))}
              </ul>
              <Trails found={c} />
            </div>
          </div>
        )}
      </main>
    </div>
  );
}
