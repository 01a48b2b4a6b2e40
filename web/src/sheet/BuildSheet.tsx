/** The build sheet: plan, steps, readings, parts to buy, overruled stops. Made to be printed. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { type Build, client, type SetupRow, unwrap } from "../api/client";
import { usePlan } from "../lib/usePlan";
import { useStanding } from "../lib/useStanding";
import { useHookup } from "../stages/hookup/useHookup";
import { buildSheet as say } from "../texts/sheet";
import { useWrong } from "../wrong/WhenItGoesWrong";
import { SheetView } from "./SheetView";
import { useBuild } from "./useBuild";

const NONE = new Set<string>();

function Sheet({ build, row, emergency }: { build: Build; row: SetupRow; emergency: string }) {
  const doc = row.document;
  const plan = usePlan(doc, build.id, row.is_baseline);
  const hookup = useHookup(doc, build.id, row);
  const standing = useStanding(build.id, row);
  const wrongs = useWrong(build.id).data;
  const { data: parts } = useQuery({
    queryKey: ["parts of", row.id, row.version],
    queryFn: () => unwrap(client.GET("/api/setups/{setup_id}/parts", { params: { path: { setup_id: row.id } } })),
  });
  const home = `/builds/${build.id}/setups/${row.id}`;
  const { evaluation, ranges } = plan;
  const data = {
    build,
    row,
    evaluation,
    ranges,
    hookup: hookup.data?.plan,
    lost: hookup.data?.lost ?? NONE,
    standing,
    wrongs,
    needs: parts?.needs,
    costs: parts,
    rackCounted: true,
    emergency,
    home,
  };
  return (
    <SheetView
      data={data}
      tools={
        <div className="noprint mb-4 flex flex-wrap gap-2">
          <button type="button" className="btn go" onClick={() => window.print()}>
            {say.printIt}
          </button>
          <Link className="btn" to={`${home}/drawing`}>
            {say.theDrawingOnPaper}
          </Link>
          <Link className="btn" to={`${home}/hookup`}>
            {say.backToTheBench}
          </Link>
        </div>
      }
    />
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
        {say.thisBuildIsNot}{" "}
        <Link className="linkish" to="/">
          {say.backToTheGarage}
        </Link>
      </p>
    );
  if (!build || !row || !garage.data)
    return (
      <p className="p-6" role="status">
        {say.makingTheSheet}
      </p>
    );
  return <Sheet build={build} row={row} emergency={garage.data.garage.emergency_number} />;
}
