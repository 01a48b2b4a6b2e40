/** A build as whoever was sent its link sees it: everything of one setup, nothing to change, no names. */
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, type Looked, unwrap } from "../api/client";
import { DoorCard } from "../door/Door";
import { useSettings } from "../lib/settings";
import { H } from "../sheet/H";
import { SheetView } from "../sheet/SheetView";
import { look as say } from "../texts/look";
import { IMPERIAL, sentence, withUnit } from "../texts/units";
import { Glyph } from "../ui/Glyph";
import { Trouble } from "../ui/Trouble";

export function Look({ token }: { token: string }) {
  const [setup, setSetup] = useState<number>();
  const { setUnits } = useSettings();
  const told = useQuery({
    queryKey: ["look", token, setup],
    queryFn: () => unwrap(client.POST("/api/look", { body: { token, setup_id: setup ?? null } })),
    placeholderData: (old) => old,
    retry: false,
  });
  const units = told.data?.units;
  useEffect(() => {
    if (units) setUnits({ ...IMPERIAL, ...units });
  }, [units, setUnits]);
  if (!told.data)
    return (
      <DoorCard title={say.aBuildToLook} line={told.isPending ? say.workingItOut : ""} go={() => window.location.assign("/")}>
        <Trouble error={told.error} className="mb-4" />
        <button type="submit" className="btn w-full">
          {say.toTheFrontDoor}
        </button>
      </DoorCard>
    );
  const { build, evaluation, ranges, hookup, standing, troubles, setup_id } = told.data;
  const row = build.setups.find((one) => one.id === setup_id);
  if (!row) return null;
  const holds = new Set(told.data.holding);
  const lost = new Set(row.ticks.map((t) => t.step).filter((step) => !holds.has(step)));
  const data = {
    build,
    row,
    evaluation,
    ranges,
    hookup,
    lost,
    standing,
    wrongs: troubles,
    needs: told.data.parts,
    rackCounted: false,
    emergency: "",
  };
  return (
    <SheetView
      data={data}
      tools={
        <div className="noprint mb-4 flex flex-wrap items-center gap-2">
          <p className="min-w-0 flex-1 basis-60 text-small text-ink2">{say.toLookAtNot(told.data.expires)}</p>
          {build.setups.length > 1 && (
            <select
              className="input w-auto"
              aria-label={say.setup}
              value={setup_id}
              onChange={(e) => setSetup(Number(e.target.value))}
            >
              {build.setups.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.in_use ? say.inUse(one.name) : one.is_baseline ? say.baseline(one.name) : one.name}
                </option>
              ))}
            </select>
          )}
          <button type="button" className="btn" onClick={() => window.print()}>
            {say.printIt}
          </button>
        </div>
      }
      after={<Rest told={told.data} />}
    />
  );
}

function Rest({ told }: { told: Looked }) {
  const { units } = useSettings();
  const cautions = told.evaluation.findings.filter((f) => f.severity !== "stop");
  const speed = (v: number) => withUnit(v, "speed", units);
  return (
    <>
      <H>{say.cautionsAndNotes}</H>
      {cautions.length === 0 && <p className="text-ink2">{say.none}</p>}
      <ul>
        {cautions.map((f) => (
          <li key={f.key} className="mb-1">
            <Glyph mark={f.severity === "caution" ? "caution" : "open"} size={13} quiet /> <b>{sentence(f.title, units)}.</b>{" "}
            {sentence(f.because, units)}
          </li>
        ))}
      </ul>
      <H>{say.ridesThatWereTimed}</H>
      {told.trials.length === 0 && <p className="text-ink2">{say.noneYet}</p>}
      <ul>
        {told.trials.map((t) => (
          <li key={t.id}>
            {say.timed(t.when, t.setup_name, speed(t.speed_m_s), t.predicted_m_s == null ? "" : speed(t.predicted_m_s))}
          </li>
        ))}
      </ul>
    </>
  );
}
