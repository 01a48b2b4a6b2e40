/** The build and the setup a sheet of paper is about, by the address. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { client, unwrap } from "../api/client";
import { useInGarageOf } from "../lib/garage";

export function useBuild() {
  const { buildId, setupId } = useParams();
  const id = Number(buildId);
  const build = useQuery({
    queryKey: ["build", id],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}", { params: { path: { build_id: id } } })),
  });
  useInGarageOf(build.data);
  return { build: build.data, row: build.data?.setups.find((s) => s.id === Number(setupId)), failed: build.isError };
}
