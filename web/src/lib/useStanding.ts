/** What stands open of a saved setup, and which steps that locks. All of it is the server's word. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, type SetupRow, type Standing, unwrap } from "../api/client";
import { useStanding as say } from "../texts/lib";

export function useStanding(buildId: number, row: SetupRow): Standing | undefined {
  const query = useQuery({
    // Under the build, so that whatever refreshes the build refreshes this.
    queryKey: ["build", buildId, "standing", row.id, row.version],
    queryFn: () => unwrap(client.GET("/api/setups/{setup_id}/standing", { params: { path: { setup_id: row.id } } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  return query.data;
}

export const GATE_WORDS = say.gateWords;

/** Why a step may not be done yet; empty when it may. */
export const reasonsOf = (standing: Standing | undefined, step: string) =>
  standing?.locked.find((lock) => lock.step === step)?.reasons ?? [];

/** Stops of a setup neither overruled nor closed by what was seen, by what they hold up. */
export function openOf(findings: { severity: string; gate?: string | null; key: string }[], row: SetupRow) {
  const said = new Set(row.overrules.filter((o) => !o.fallen).map((o) => o.finding));
  const open = findings.filter((f) => f.severity === "stop" && !said.has(f.key));
  return { stops: open.filter((f) => f.gate === "plan").length, looks: open.filter((f) => f.gate !== "plan").length };
}
