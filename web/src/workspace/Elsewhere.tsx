/** Says that somebody saved this setup on another device, who and what, within seconds. */

import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import { client, unwrap } from "../api/client";

const ASK_MS = 8000;

export const Elsewhere = memo(function Elsewhere({ setupId, version }: { setupId: number; version: number }) {
  const latest = useQuery({
    queryKey: ["latest", setupId],
    queryFn: () => unwrap(client.GET("/api/setups/{setup_id}/latest", { params: { path: { setup_id: setupId } } })),
    refetchInterval: ASK_MS,
    refetchOnWindowFocus: "always",
    staleTime: 0,
    retry: false,
  });
  const found = latest.data;
  if (!found || found.version <= version) return null;
  const at = new Date(found.when).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return (
    <div role="status" className="mb-3 rounded-lg border-2 border-focus bg-focustint px-3 py-2">
      <b>
        {found.by || "Somebody"} saved this setup elsewhere at {at}
        {found.changed.length > 0 ? `: ${found.changed.slice(0, 5).join(", ")}` : ""}.
      </b>{" "}
      What you have not saved yet stays yours.
      <button type="button" className="btn ml-2" onClick={() => window.location.reload()}>
        Show it
      </button>
    </div>
  );
});
