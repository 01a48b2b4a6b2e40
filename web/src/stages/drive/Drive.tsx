/** Drive: what pushes and what holds back, launch, course, heat, gears, sprockets, riders; and what one change would bring. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { client, type Overview, unwrap } from "../../api/client";
import { KitIn } from "../../kits/KitFit";
import { useGarage } from "../../lib/garage";
import { type Doc, read } from "../../lib/pointer";
import { useSettings } from "../../lib/settings";
import { useDriveChanges, useDrivePlan, useSprockets } from "../../lib/useDeepPlan";
import { useParam } from "../../lib/useParam";
import { drive as say } from "../../texts/drive";
import { fixed } from "../../texts/locale";
import { duration, fromMark, plainNumber, sentence, toMark, withUnit } from "../../texts/units";
import { Segmented } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { useSaid } from "../../ui/Terms";
import { Trouble } from "../../ui/Trouble";
import { type Change, WhatIf } from "../../ui/WhatIf";
import { Block, Heading, opening } from "../Heading";
import type { StageProps } from "../stage";
import { ChangesSection } from "./ChangesSection";
import { CourseSection } from "./CourseSection";
import { ControllerFields, GearingFields, MotorFields, RiderFields } from "./Fields";
import { GearsSection } from "./GearsSection";
import { GoalSection } from "./Goal";
import { HeatSection } from "./HeatSection";
import { Instead } from "./Instead";
import { Knob } from "./Knob";
import { LaunchSection } from "./LaunchSection";
import { ends, LimitsSection } from "./LimitsSection";
import { PushPlot } from "./PushPlot";
import { RidersSection } from "./RidersSection";
import { RideSection } from "./RideSection";
import { SprocketsSection } from "./SprocketsSection";
import { SureSection } from "./SureSection";

const MORE = [
  ["ride", say.theRide],
  ["launch", say.launch],
  ["heat", say.heat],
  ["gears", say.gearsAndModes],
  ["limits", say.hillStopTurn],
  ["sprockets", say.sprockets],
  ["changes", say.changeOneThing],
  ["instead", say.insteadOfAPart],
  ["riders", say.riders],
  ["sure", say.howSure],
] as const;

const STILL = <p className="text-ink2">{say.itDoesNotMove}</p>;

const NOBODY: Overview["riders"] = [];

export function Drive({ build, row, draft, plan }: StageProps) {
  const { units } = useSettings();
  const said = useSaid();
  const { doc } = draft;
  const garage = useGarage(build.garage_id);
  const of = useMemo(() => ({ doc, buildId: build.id, isBaseline: row.is_baseline }), [doc, build.id, row.is_baseline]);
  const deep = useDrivePlan(of);
  const changes = useDriveChanges(of);
  const [asked, setMore] = useParam("more", MORE[0][0]);
  const more = MORE.find(([key]) => key === asked)?.[0] ?? MORE[0][0];
  const chooser = useSprockets(of, more === "sprockets");
  const [change, setChange] = useState<Change>();
  const overview = useQuery({
    queryKey: ["garage", garage?.id],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}", { params: { path: { garage_id: garage?.id ?? 0 } } })),
    enabled: garage !== undefined,
  });
  const riders = overview.data?.riders ?? NOBODY;
  const evaluation = plan.evaluation;
  const o = evaluation?.outcome;
  const mark = read(doc, "/throttle/limiter_mark") ?? 1;
  const direct = read(doc, "/controller/kind") === "none";
  const quick = evaluation?.held_back;
  const held = quick?.state === "over" ? quick : (changes.changes?.tried?.held_back ?? quick);
  const setMark = (value: number) =>
    draft.edit("/throttle", {
      ...(read(doc, "/throttle") ?? { kind: "unknown" }),
      limiter_mark: value >= 0.999 ? null : Math.round(value * 100) / 100,
    });
  const ridesNow = (name: string) => {
    const also = (draft.doc.also as Doc[] | null | undefined) ?? [];
    const place = also.findIndex((one) => (one.name || "Rider") === name);
    const known = riders.find((r) => r.name === name);
    const one = place >= 0 ? also[place] : known && { ...known.document, name };
    if (!one) return;
    // Who rode it until now still does.
    const before = draft.doc.rider;
    const others = also.filter((_, at) => at !== place);
    draft.replace({ ...draft.doc, rider: one, also: place >= 0 && before ? [before, ...others] : others }, say.countedWith(name));
  };
  const known = deep.plan?.known ? deep.plan : undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the address is changed the same way whenever it is asked
  const tabs = useMemo(() => <Segmented label={say.moreAboutDriving} value={more} options={MORE} onChange={setMore} />, [more]);
  return (
    <>
      <Heading title={say.drive} line={opening(evaluation, "drive", units) || say.whatPushesWhatHolds} />
      {change && (
        <WhatIf
          of={of}
          now={evaluation}
          change={change}
          apply={() => {
            draft.replace(change.doc, sentence(change.label, units).slice(0, 70));
            setChange(undefined);
          }}
          leave={() => setChange(undefined)}
        />
      )}
      {evaluation && o ? (
        <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(210px,1fr)] gap-5 max-desk:grid-cols-1">
          <div className="grid content-start gap-4">
            <PushPlot evaluation={evaluation} />
            <GoalSection of={of} tryOut={setChange} />
          </div>
          <div className="grid content-start gap-3">
            <div className="card bg-paper p-3">
              <p className="flex justify-between">
                <b>{String(read(doc, "/rider/name") || say.rider)}</b>{" "}
                <span className="text-ink3">{o.cap_m_s == null ? say.noCap : say.cap(o.cap_m_s, units)}</span>
              </p>
              {direct ? (
                <p className="mt-2 text-ink2">{say.pedalStraightToMotor}</p>
              ) : (
                <div className="flex items-center gap-3">
                  <Knob mark={mark} />
                  <div>
                    <label className="block text-small text-ink2" htmlFor="limiter">
                      {say.limiterMark}
                    </label>
                    <input
                      id="limiter"
                      type="range"
                      min="1"
                      max="10"
                      step="0.1"
                      value={toMark(mark)}
                      onChange={(e) => setMark(fromMark(Number(e.target.value)))}
                      className="w-28 accent-[var(--leaf-deep)]"
                    />
                    <p className="font-head text-[18px] font-bold">
                      {plainNumber(toMark(mark))} <span className="font-text text-small font-normal">{say.of10}</span>
                    </p>
                  </div>
                </div>
              )}
            </div>
            {held && (
              <div className="border-l-4 border-amber pl-3">
                <h2 className="flex items-center gap-1.5 text-[15px]">
                  <Glyph mark={held.state === "over" ? "over" : "note"} quiet /> {say.heldBackBy(held.title.toLowerCase())}
                </h2>
                <p className="text-ink2">{said(held.sentence)}</p>
              </div>
            )}
            <dl className="grid grid-cols-2 gap-x-3 gap-y-1">
              {(
                [
                  [say.onTheSlope, withUnit(o.top_speed_grade_m_s, "speed", units)],
                  [say.atHalfCharge, withUnit(o.top_speed_half_m_s, "speed", units)],
                  [say.at20, withUnit(o.top_speed_low_m_s, "speed", units)],
                  [say.launchTo90, `${fixed(o.launch_s, 1)} s`],
                  [say.stopsIn, withUnit(o.stop_m, "length", units)],
                  [
                    say.frontLifts,
                    o.wheelie_margin == null ? say.cannot : o.wheelie_margin > 1 ? say.away(o.wheelie_margin) : say.atLaunch,
                  ],
                  [say.stalledBurnsIn, o.stalled_to_stop_s == null ? say.never : duration(o.stalled_to_stop_s)],
                  [say.steepestHill, `${Math.round(100 * o.hill_grade)} %: ${ends(o.hill_ends_by)}`],
                ] as const
              ).map(([name, text]) => (
                <div key={name} className="border-b border-line">
                  <dt className="text-small text-ink3">{name}</dt>
                  <dd className="font-bold">{text}</dd>
                </div>
              ))}
            </dl>
          </div>
        </div>
      ) : (
        <p className="rounded-lg border border-dashed border-strong p-3 text-ink2">{say.motorControllerAndPacks}</p>
      )}
      {evaluation && o && (
        <div className="mt-4 border-t border-line pt-3">
          <div className="mb-3 max-w-full overflow-x-auto [&_button]:whitespace-nowrap [&_fieldset]:w-max [&_fieldset]:max-w-none">
            {tabs}
          </div>
          <Trouble error={deep.error ?? changes.error ?? chooser.error} />
          {more === "sure" ? (
            <SureSection evaluation={evaluation} ranges={plan.ranges} />
          ) : more === "changes" ? (
            !changes.changes ? (
              <p role="status">{say.tryingEveryChangeOne}</p>
            ) : changes.changes.tried ? (
              <ChangesSection tried={changes.changes.tried} tryOut={setChange} />
            ) : (
              STILL
            )
          ) : more === "instead" ? (
            <Instead of={of} onTake={(next, name) => draft.replace(next, say.taken(name))} />
          ) : more === "sprockets" ? (
            chooser.sprockets === undefined ? (
              <p role="status">{say.tryingEverySprocket}</p>
            ) : chooser.sprockets ? (
              <SprocketsSection sprockets={chooser.sprockets} doc={doc} tryOut={setChange} />
            ) : (
              STILL
            )
          ) : !deep.plan ? (
            <p role="status">{say.workingItOut}</p>
          ) : !known ? (
            STILL
          ) : (
            <>
              {more === "ride" && known.ride && <RideSection key={known.ride.course} ride={known.ride} />}
              {more === "launch" && known.launch && <LaunchSection launch={known.launch} />}
              {more === "heat" && known.heat && <HeatSection heat={known.heat} />}
              {more === "gears" && <GearsSection gears={known.gears} />}
              {more === "limits" && <LimitsSection plan={known} />}
              {more === "riders" && (
                <RidersSection
                  riders={known.riders}
                  note={known.cap_note}
                  build={build.name}
                  rides={(draft.doc.rider as { name?: string } | null)?.name}
                  choose={ridesNow}
                />
              )}
            </>
          )}
        </div>
      )}
      <div className="mt-4 border-t border-line pt-3">
        <Block title={say.course} line={say.whereItIsRidden}>
          <CourseSection />
        </Block>
      </div>
      <div className="mt-4 grid grid-cols-2 gap-6 border-t border-line pt-3 max-desk:grid-cols-1">
        <div className="grid content-start gap-5">
          <KitIn
            setup={doc}
            buildId={build.id}
            onTake={(next, name) => draft.replace({ ...next, rider: doc.rider, also: doc.also }, say.kitPutIn(name))}
          />
          <MotorFields />
          <ControllerFields />
        </div>
        <div className="grid content-start gap-5">
          <GearingFields />
          <RiderFields riders={riders} cap={o?.cap_m_s} grownUp={evaluation?.rider_grown_up ?? false} />
        </div>
      </div>
    </>
  );
}
