/** The course and the ride on it: a round with a cursor by time or place, the whole ride, and where the energy goes. */
import { memo, useState } from "react";
import type { DrivePlan } from "../../api/client";
import { rideEnd } from "../../lib/ends";
import { useSettings } from "../../lib/settings";
import { rideSection as say } from "../../texts/drive";
import { fixed } from "../../texts/locale";
import { plainNumber, toShown } from "../../texts/units";
import { Segmented } from "../../ui/Field";
import { Scrubbed } from "../../ui/Scrubbed";
import { Block } from "../Heading";

type Ride = NonNullable<DrivePlan["ride"]>;

const COLOURS = [
  "var(--hot-deep)",
  "var(--amber-line)",
  "var(--ink-2)",
  "var(--hot-text)",
  "var(--ink-3)",
  "var(--strong)",
  "var(--focus)",
  "var(--leaf-deep)",
  "var(--leaf)",
  "var(--ink)",
  "var(--amber)",
  "var(--line)",
];
const WORDS: Record<string, string> = say.words;

function Energy({ ride }: { ride: Ride }) {
  const parts = ride.energy.filter((p) => Math.abs(p.share) >= 0.001).sort((a, b) => b.share - a.share);
  const most = Math.max(...parts.map((p) => p.share), 0.01);
  return (
    <Block title={say.whereTheEnergyGoes} line={say.sharesOfTheEnergy(ride.balance)}>
      <ul className="grid gap-1">
        {parts.map((p) => (
          <li key={p.name} className="grid grid-cols-[minmax(130px,1fr)_minmax(0,1.2fr)_auto] items-center gap-2 text-small">
            <span>{p.name === "climbing" && p.share < 0 ? say.givenByTheSlope : (WORDS[p.name] ?? p.name)}</span>
            <span className="h-3 rounded bg-paper" aria-hidden="true">
              <span
                className="block h-3 rounded"
                style={{
                  width: `${Math.max((100 * p.share) / most, 0.5)}%`,
                  background: COLOURS[ride.energy.findIndex((e) => e.name === p.name) % COLOURS.length],
                }}
              />
            </span>
            <span className="min-w-[13ch] text-right">{say.partOfTheEnergy(p.share, p.energy_wh)}</span>
          </li>
        ))}
      </ul>
    </Block>
  );
}

/** A course that ends farther from its start's height than this is no closed round. [m] */
const NOTABLE_M = 0.5;

export const RideSection = memo(function RideSection({ ride }: { ride: Ride }) {
  const { units } = useSettings();
  const [which, setWhich] = useState("0");
  const [over, setOver] = useState("time");
  const [view, setView] = useState(ride.round_lines.length ? "round" : "ride");
  const shown = ride.round_lines[Number(which)] ?? ride.round_lines[0];
  const speed = (v: number) => `${fixed(v, 1)} ${units.speed}`;
  const amps = (v: number) => `${plainNumber(v, Math.abs(v) < 10 ? 1 : 0)} A`;
  const volts = (v: number) => `${fixed(v, 1)} V`;
  const temp = (v: number) => `${Math.round(v)} ${units.temp}`;
  const kept = view === "round" && shown ? "round" : "ride";
  const higher = ride.round_lines[0]?.climb_m.at(-1) ?? 0;
  return (
    <div className="grid gap-5">
      <p>
        {say.roundsItEndsBecause(
          ride.course,
          ride.run_time_s,
          ride.distance_m,
          units,
          ride.rounds,
          rideEnd(ride.ends_by),
          ride.mean_m_s,
          amps(ride.mean_a),
          ride.wh_per_km,
          volts(ride.end_volts_v),
        )}
      </p>
      {Math.abs(higher) > NOTABLE_M && <p className="text-small">{say.eachRoundEndsThan(higher, units)}</p>}
      <div className="flex flex-wrap gap-3">
        {shown && (
          <Segmented
            label={say.whatIsDrawn}
            value={kept}
            options={[
              ["round", say.oneRound],
              ["ride", say.theWholeRide],
            ]}
            onChange={setView}
          />
        )}
        {kept === "round" && (
          <>
            <Segmented
              label={say.atWhichCharge}
              value={which}
              options={ride.round_lines.map(
                (r, i) => [String(i), i === 0 ? say.full : `${Math.round(100 * r.charge)} %`] as const,
              )}
              onChange={setWhich}
            />
            <Segmented
              label={say.drawnOver}
              value={over}
              options={[
                ["time", say.time],
                ["place", say.place],
              ]}
              onChange={setOver}
            />
          </>
        )}
      </div>
      {kept === "round" && shown ? (
        <Scrubbed
          key={`${which} ${over}`}
          label={over === "time" ? say.secondsIntoTheRound : say.placeOnTheCourse}
          x={over === "time" ? shown.time_s : shown.place_m.map((v) => toShown(v, units.length))}
          xLabel={over === "time" ? say.seconds : units.length}
          sayX={(v) => (over === "time" ? `${fixed(v, 1)} s` : `${fixed(v, 0)} ${units.length}`)}
          words={(i) => shown.doing[i] ?? ""}
          traces={[
            { name: say.speed(units), y: shown.speed_m_s.map((v) => toShown(v, units.speed)), say: speed },
            { name: say.packAmps, y: shown.pack_a, say: amps, colour: "var(--hot-deep)" },
            {
              name: say.voltsAtTheController,
              y: shown.volts_v,
              say: volts,
              colour: "var(--ink)",
              range: [Math.min(...shown.volts_v) * 0.97, Math.max(...shown.volts_v) * 1.02],
            },
            { name: "watts", y: shown.power_w, say: (v) => `${plainNumber(v, 0)} W`, colour: "var(--amber-line)" },
          ]}
        />
      ) : (
        <Scrubbed
          label={say.minutesIntoTheRide}
          x={ride.charge.x.map((v) => v / 60)}
          xLabel={say.minutes}
          sayX={(v) => say.minutesIn(v)}
          traces={[
            {
              name: "charge",
              y: ride.charge.y.map((v) => 100 * v),
              say: (v) => `${fixed(v, 0)} %`,
              range: [0, 105],
            },
            {
              name: ride.rounds == null ? say.voltsAtTheController : say.lowestVoltsOfEach,
              y: ride.volts.y,
              say: volts,
              colour: "var(--ink)",
              range: [Math.min(...ride.volts.y) * 0.97, Math.max(...ride.volts.y) * 1.02],
            },
            { name: say.meanAmps, y: ride.amps.y, say: amps, colour: "var(--hot-deep)" },
            {
              name: say.winding(units),
              y: ride.winding.y.map((v) => toShown(v, units.temp)),
              say: temp,
              colour: "var(--amber-line)",
              range: [toShown(10, units.temp), toShown(170, units.temp)],
              zones: [
                { y0: toShown(130, units.temp), y1: toShown(155, units.temp), colour: "var(--amber-tint)" },
                { y0: toShown(155, units.temp), colour: "var(--hot-tint)" },
              ],
            },
          ]}
        />
      )}
      <Energy ride={ride} />
    </div>
  );
});
