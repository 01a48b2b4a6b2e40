/** The build and the setup a sheet of paper is about, by the address. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { client, unwrap } from "../api/client";

export function useBuild() {
  const { buildId, setupId } = useParams();
  const id = Number(buildId);
  const build = useQuery({
    queryKey: ["build", id],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}", { params: { path: { build_id: id } } })),
  });
  return { build: build.data, row: build.data?.setups.find((s) => s.id === Number(setupId)), failed: build.isError };
}
