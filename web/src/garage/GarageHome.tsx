/** The garage: builds as rows with their ribbon, and the rack of parts at hand. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { type BuildGlance, client, unwrap } from "../api/client";
import { BinList } from "../bin/BinList";
import { Header, UnitSwitch } from "../frame/Header";
import { Shortcuts } from "../frame/Shortcuts";
import { chooseGarage, useGarage, useGarages } from "../lib/garage";
import { useSettings } from "../lib/settings";
import { STAGE_NAMES } from "../lib/stages";
import { RackShelf } from "../rack/RackShelf";
import { garageHome as say } from "../texts/garage";
import { shortDay } from "../texts/locale";
import { duration, withUnit } from "../texts/units";
import { SideRibbon } from "../trail/Ribbon";
import { askedOf } from "../trail/Trail";
import { Glyph, type Mark } from "../ui/Glyph";
import { MachineDrawing } from "../ui/MachineDrawing";
import { Account } from "./Account";
import { Backups } from "./Backups";
import { Garages, NewGarage } from "./Garages";
import { Household } from "./Household";
import { HouseRules } from "./HouseRules";
import { ImportFile } from "./ImportFile";
import { Riders } from "./Riders";
import { Strays } from "./Strays";

const PAGE = 60;

/** What is open of a setup, in a few words. */
function OpenLine({ stops, looks, inline = false }: { stops: number; looks: number; inline?: boolean }) {
  const mark: Mark = stops ? "stop" : looks ? "open" : "done";
  const words = [stops ? say.stops(stops) : "", looks ? say.toLookAt(looks) : ""].filter(Boolean).join(", ");
  const Tag = inline ? "span" : "p";
  return (
    <Tag className={inline ? "" : "truncate text-small"}>
      <Glyph mark={mark} size={12} quiet /> {words || say.nothingOpen}
    </Tag>
  );
}

function BuildRow({ build }: { build: BuildGlance }) {
  const { units } = useSettings();
  const weak = build.stations.find((s) => s.weak);
  const home = build.setup_id ? `/builds/${build.id}/setups/${build.setup_id}` : `/builds/${build.id}`;
  return (
    <li className="grid grid-cols-[130px_minmax(0,1fr)] gap-4 border-b border-strong px-5 py-3 max-desk:grid-cols-1 max-desk:px-4">
      <Link to={`${home}/${build.next_stage}`} tabIndex={-1} aria-hidden="true" className="self-center max-desk:hidden">
        <MachineDrawing family={build.family} />
      </Link>
      <div className="min-w-0">
        <div className="grid grid-cols-[minmax(0,1.5fr)_1fr_1fr] gap-4 max-desk:grid-cols-2">
          <div className="min-w-0 max-desk:col-span-2">
            <h2 className="truncate text-[21px]">
              <Link to={`${home}/power`}>{build.name}</Link>
            </h2>
            <p className="truncate text-small text-ink2">{build.description || build.family}</p>
            <p className="truncate font-bold">
              {build.setup_name} <span className="font-normal text-ink3">· {say.setups(build.setups)}</span>
            </p>
            {build.trouble ? (
              <p className="text-small font-semibold text-hottext">
                <Glyph mark="stop" size={12} quiet /> {say.cannotBeComputed(build.trouble, units)}
              </p>
            ) : (
              <OpenLine stops={build.stops} looks={build.looks} />
            )}
            {build.worked_on && (
              <p className="truncate text-small text-ink2">
                {say.workedOn(build.worked_on)} <OpenLine stops={build.worked_on_stops} looks={build.worked_on_looks} inline />
              </p>
            )}
          </div>
          <div className="min-w-0">
            <p className="text-small text-ink3">{say.weakLink}</p>
            {weak ? (
              <>
                <p className="flex items-center gap-1.5 truncate font-head text-[15px] font-bold">
                  <Glyph mark={weak.state as Mark} /> {weak.name}
                </p>
                <p className="truncate text-small text-ink2">{askedOf(weak, units)}</p>
              </>
            ) : (
              <p className="text-ink2">{say.notKnownYet}</p>
            )}
          </div>
          <div className="min-w-0">
            <p className="text-small text-ink3">{build.last_trial ? say.lastTrial : say.planned}</p>
            <p className="truncate font-head text-[18px] font-bold">
              {build.last_trial
                ? withUnit(build.last_trial.speed_m_s, "speed", units)
                : build.top_speed_m_s != null
                  ? withUnit(build.top_speed_m_s, "speed", units)
                  : "–"}
            </p>
            <p className="truncate text-small text-ink2">
              {build.last_trial
                ? `${build.last_trial.setup}, ${shortDay(build.last_trial.when)}`
                : build.run_time_s != null
                  ? duration(build.run_time_s)
                  : ""}
            </p>
          </div>
        </div>
        <div className="my-1.5">
          <SideRibbon stations={build.stations} id={`b${build.id}`} tall={36} />
        </div>
        <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
          <ol className="flex max-w-full overflow-x-auto rounded-md border border-strong bg-sunk" aria-label={say.stages}>
            {STAGE_NAMES.map((stage) => (
              <li key={stage} className="border-strong not-first:border-l">
                <Link
                  to={`${home}/${stage}`}
                  className={`grid justify-items-center px-2.5 py-0.5 max-desk:px-1.5 text-micro capitalize ${build.next_stage === stage ? "bg-focustint font-bold" : ""}`}
                >
                  <Glyph mark={build.stages[stage] ?? "open"} size={13} /> {stage}
                </Link>
              </li>
            ))}
          </ol>
          <p className="min-w-0 flex-1 truncate max-desk:basis-full">
            <span className="text-ink3">{say.next}</span> <b className="ml-1">{build.next_step}</b>
          </p>
          <Link to={`${home}/${build.next_stage}`} className={`btn capitalize ${build.stops ? "" : "go"}`}>
            {say.open(build.next_stage)}
          </Link>
        </div>
      </div>
    </li>
  );
}

export function GarageHome() {
  const garage = useGarage();
  const garages = useGarages();
  const [limit, setLimit] = useState(PAGE);
  const overview = useQuery({
    queryKey: ["garage", garage?.id, limit],
    queryFn: () =>
      unwrap(client.GET("/api/garages/{garage_id}", { params: { path: { garage_id: garage?.id ?? 0 }, query: { limit } } })),
    enabled: garage !== undefined,
    // More of the same garage leaves on screen what is there of it; another garage does not.
    placeholderData: (old) => (old?.garage.id === garage?.id ? old : undefined),
  });
  const session = useQuery({ queryKey: ["session"], queryFn: () => unwrap(client.GET("/api/session")) });
  const data = overview.data;
  const stops = data?.builds.reduce((sum, b) => sum + b.stops, 0) ?? 0;
  return (
    <Shortcuts actions={{}}>
      <div className="flex min-h-full flex-col">
        <div className="border-b-[1.5px] border-ink [&>header]:h-[52px]">
          <Header home crumb={<strong className="font-head text-[15px] text-ink">{say.garage}</strong>} />
        </div>
        <div className="grid flex-1 grid-cols-[minmax(0,1fr)_340px] max-wide:grid-cols-1">
          <main className="bg-card">
            <div className="flex flex-wrap items-center gap-3 border-b-[1.5px] border-ink px-5 py-4">
              <h1 className="text-[34px]">{data?.garage.name ?? garage?.name ?? (garages?.length === 0 ? say.noGarage : "…")}</h1>
              {garages && garages.length > 1 && (
                <select
                  className="input w-auto max-w-44"
                  aria-label={say.otherGarages}
                  value=""
                  onChange={(e) => chooseGarage(Number(e.target.value))}
                >
                  <option value="" disabled hidden>
                    {say.otherGarages}
                  </option>
                  {garages
                    .filter((one) => one.id !== garage?.id)
                    .map((one) => (
                      <option key={one.id} value={one.id}>
                        {one.name}
                      </option>
                    ))}
                </select>
              )}
              <p className="flex-1 text-ink2">
                {data ? say.builds(data.total, stops, data.builds.length) : garages?.length === 0 ? "" : say.opening}
              </p>
              <span className="desk:hidden">
                <UnitSwitch />
              </span>
              {garage && <ImportFile garageId={garage.id} />}
              <Link to="/start" className="btn go">
                {say.startABuild}
              </Link>
            </div>
            {overview.isError && (
              <p role="alert" className="p-5">
                {say.theGarageCannotBe}
              </p>
            )}
            {garages?.length === 0 && (
              <div className="grid max-w-[52ch] gap-2 p-5">
                <h2 className="text-[21px]">{say.youBelongToNo}</h2>
                <p className="text-ink2">{say.makeOneOfYour}</p>
                <NewGarage />
              </div>
            )}
            {data && data.builds.length === 0 && (
              <div className="grid justify-items-center gap-3 px-6 py-14 text-center">
                <MachineDrawing family="ride-on car" width={220} />
                <h2 className="text-[21px]">{say.anEmptyGarageAnd}</h2>
                <p className="max-w-[52ch] text-ink2">{say.sayWhatMachineYou}</p>
                <Link to="/start" className="btn go">
                  {say.startYourFirstBuild}
                </Link>
              </div>
            )}
            <Strays />
            <ul>
              {data?.builds.map((build) => (
                <BuildRow key={build.id} build={build} />
              ))}
            </ul>
            {data && data.builds.length < data.total && (
              <p className="p-5 text-center">
                <button type="button" className="btn" onClick={() => setLimit(limit + PAGE)}>
                  {say.showMoreOfThe(data.total)}
                </button>
              </p>
            )}
          </main>
          <aside
            className="border-l border-line bg-paper px-5 py-4 max-wide:border-t max-wide:border-l-0"
            aria-label={say.rackAndRiders}
          >
            {data && <RackShelf garageId={data.garage.id} />}
            {data && <Riders garageId={data.garage.id} riders={data.riders} />}
            {data && <HouseRules garage={data.garage} />}
            {garage && <Household key={`household ${garage.id}`} garageId={garage.id} />}
            {garage && <Garages here={garage.id} />}
            {!session.data?.demo && <Account />}
            {garage && <BinList key={`bin ${garage.id}`} garageId={garage.id} />}
            {session.data?.keeps_server && <Backups />}
          </aside>
        </div>
      </div>
    </Shortcuts>
  );
}
