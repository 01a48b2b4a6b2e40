/** Says that somebody saved this setup on another device, who and what, within seconds. */

import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import { client, unwrap } from "../api/client";
import { clock } from "../texts/locale";
import { elsewhere as say } from "../texts/workspace";

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
  const at = clock(found.when);
  return (
    <div role="status" className="mb-3 rounded-lg border-2 border-focus bg-focustint px-3 py-2">
      {say.savedThisSetupElsewhere(found.by, at, found.changed.slice(0, 5).join(", "))}
      <button type="button" className="btn ml-2" onClick={() => window.location.reload()}>
        {say.showIt}
      </button>
    </div>
  );
});
