/** The Trail: the way of the current from bank to ground, what each station is asked and what it stands. */
import { Link } from "react-router";
import type { Station } from "../api/client";
import { useSettings } from "../lib/settings";
import { trail as say } from "../texts/trail";
import { plainNumber, rise, sentence, shown, type UnitChoice, unitOf } from "../texts/units";
import { UprightRibbon } from "./Ribbon";

export function amount(value: number, unit: string, units: UnitChoice): string {
  if (unit === "m/s") return shown(value, "speed", units);
  if (unit === "K") return rise(value, units).replace(/ .*/, "");
  return plainNumber(value, value < 10 ? 1 : 0);
}

export function askedOf(station: { asks?: number | null; stands?: number | null; unit: string }, units: UnitChoice): string {
  const unit = station.unit === "m/s" ? unitOf("speed", units) : station.unit === "K" ? say.rise(units) : station.unit;
  const stands = station.stands == null ? "?" : amount(station.stands, station.unit, units);
  const asks = station.asks == null ? "?" : amount(station.asks, station.unit, units);
  return say.askedOfWhatStands(asks, stands, unit);
}

export function spare(station: Station): string {
  if (station.share == null) return say.notKnown;
  if (station.id === "wheels" && station.share > 1) return say.spinsAtLaunch;
  if (station.share > 1) return station.state === "over" ? say.over : say.asked(station.share);
  return say.spare(station.share);
}

function Bar({ station }: { station: Station }) {
  const share = Math.min(station.share ?? 0, 1.25);
  const colour = station.state === "over" ? "var(--hot)" : station.state === "close" ? "var(--amber)" : "var(--leaf)";
  return (
    <span
      className="relative block h-[5px] rounded bg-sunk"
      style={{ boxShadow: "inset 0 0 0 .5px var(--line-strong)" }}
      aria-hidden="true"
    >
      {station.share != null && (
        <span className="ease absolute inset-y-0 left-0 rounded" style={{ width: `${share * 80}%`, background: colour }} />
      )}
      {share > 1 && (
        <span
          className="absolute inset-y-0 left-[80%]"
          style={{
            width: `${(share - 1) * 80}%`,
            background: "repeating-linear-gradient(115deg, var(--card) 0 1.5px, transparent 1.5px 4px)",
          }}
        />
      )}
      <span className="absolute -inset-y-[2px] left-[80%] w-[1.5px] bg-ink" />
    </span>
  );
}

export function Trail({
  stations,
  selected,
  to,
}: {
  stations: Station[];
  selected: string | undefined;
  to: (station: Station) => string;
}) {
  const { units } = useSettings();
  return (
    <nav className="trail flex min-h-0 flex-col border-r border-line pt-2" aria-label={say.theTrail}>
      <div className="flex h-[27px] flex-none items-center justify-between px-3.5">
        <h2 className="text-[16px]">{say.theTrail}</h2>
        <span className="text-micro text-ink3">{say.narrowLittleToSpare}</span>
      </div>
      <div className="min-h-0 flex-1 overflow-auto">
        <div className="relative">
          <UprightRibbon stations={stations} step={50} />
          {stations.map((station) => (
            <Link
              key={station.id}
              to={to(station)}
              aria-current={station.id === selected ? "true" : undefined}
              className={`relative block h-[50px] border-b border-line pt-1 pr-3 pl-[52px] ${station.id === selected ? "bg-focustint shadow-[inset_4px_0_0_var(--focus)]" : station.weak && station.state === "over" ? "bg-hottint" : station.weak && station.state === "close" ? "bg-ambertint" : ""}`}
            >
              <span className="flex items-baseline justify-between gap-2">
                <b className="truncate font-head text-[13.5px] leading-4">{station.name}</b>
                {station.weak ? (
                  <span
                    className={`rounded px-1.5 text-micro font-bold whitespace-nowrap ${station.state === "over" ? "bg-hotdeep text-onhot" : station.state === "close" ? "bg-amber text-[#1c211d]" : "bg-ink text-onink"}`}
                  >
                    {say.weakLink}
                  </span>
                ) : (
                  <span
                    className={`text-micro whitespace-nowrap ${station.state === "over" ? "font-bold text-hottext" : station.state === "close" ? "font-bold text-ambertext" : "text-ink3"}`}
                  >
                    {station.share != null && station.share <= 1 && station.state === "over" ? say.stop : spare(station)}
                  </span>
                )}
              </span>
              <span className="flex justify-between gap-2 text-[12px] leading-[15px]">
                <span
                  className={`whitespace-nowrap ${station.share != null && station.share > 1 && station.id !== "wheels" ? "font-bold text-hottext" : ""}`}
                >
                  {askedOf(station, units)}
                </span>
                <span className="truncate text-[11.5px] text-ink3" title={sentence(station.detail, units)}>
                  {sentence(station.detail, units)}
                </span>
              </span>
              <Bar station={station} />
            </Link>
          ))}
        </div>
        {stations.length === 0 && <p className="px-4 py-3 text-ink2">{say.theTrailGrowsAs}</p>}
      </div>
    </nav>
  );
}
