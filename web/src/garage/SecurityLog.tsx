/** What happened around the accounts of the garage, for its owner. */
import { client, unwrap } from "../api/client";
import { usePages } from "../lib/usePages";
import { More } from "../ui/More";

const PAGE = 50;
const WORDS: Record<string, string> = {
  "signed in": "signed in",
  "signed out": "signed out",
  failed: "wrong password",
  password: "password",
  "let in": "let in",
  role: "may now be",
  "taken out": "taken out",
};

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
      <h3 className="mt-3 text-small font-bold text-ink2">What happened around these accounts</h3>
      {rows.length === 0 && <p className="text-ink2">Nothing yet.</p>}
      <ul>
        {rows.map((one) => (
          <li key={one.id} className={`border-b border-line py-1 ${one.what === "failed" ? "text-hottext" : ""}`}>
            <b>{one.name}</b> {WORDS[one.what] ?? one.what} {one.text}{" "}
            <span className="block text-small text-ink3">
              {new Date(one.when).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}
              {one.address && `, from ${one.address}`}
            </span>
          </li>
        ))}
      </ul>
      <More of={log} words="Older" />
    </>
  );
}
