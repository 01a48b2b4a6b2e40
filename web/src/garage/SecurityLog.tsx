/** What happened around the accounts of the garage, for its owner. */
import { client, unwrap } from "../api/client";
import { usePages } from "../lib/usePages";
import { securityLog as say } from "../texts/garage";
import { minute } from "../texts/locale";
import { More } from "../ui/More";

const PAGE = 50;
const WORDS: Record<string, string> = say.words;

export function SecurityLog({ garageId }: { garageId: number }) {
  const log = usePages(
    ["security", garageId],
    PAGE,
    (skip, limit) =>
      unwrap(
        client.GET("/api/garages/{garage_id}/security", { params: { path: { garage_id: garageId }, query: { skip, limit } } }),
      ),
    (one) => one.id,
  );
  const rows = log.pages?.flat() ?? [];
  return (
    <>
      <h3 className="mt-3 text-small font-bold text-ink2">{say.whatHappenedAroundThese}</h3>
      {rows.length === 0 && <p className="text-ink2">{say.nothingYet}</p>}
      <ul>
        {rows.map((one) => (
          <li key={one.id} className={`border-b border-line py-1 ${one.what === "failed" ? "text-hottext" : ""}`}>
            <b>{one.name}</b> {WORDS[one.what] ?? one.what} {one.text}{" "}
            <span className="block text-small text-ink3">
              {minute(one.when)}
              {one.address && say.from(one.address)}
            </span>
          </li>
        ))}
      </ul>
      <More of={log} words={say.older} />
    </>
  );
}
