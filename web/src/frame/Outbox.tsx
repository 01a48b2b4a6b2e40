/** What waits to be sent: shown on every page, sent by itself when the connection is back. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { discard, parcels, sendAll, subscribe, tryAgain, whenSettled } from "../lib/outbox";
import { saveAs } from "../lib/saveAs";
import { outbox as say } from "../texts/frame";
import { minute } from "../texts/locale";

export function Outbox() {
  const queryClient = useQueryClient();
  // What is on its way and will be there in a moment is no news.
  const list = useSyncExternalStore(subscribe, parcels).filter((one) => one.waits || one.refused);
  useEffect(() => {
    whenSettled(() => void queryClient.invalidateQueries());
    const again = () => void sendAll();
    again();
    window.addEventListener("online", again);
    window.addEventListener("focus", again);
    return () => {
      window.removeEventListener("online", again);
      window.removeEventListener("focus", again);
    };
  }, [queryClient]);
  const refused = list.filter((one) => one.refused);
  const waiting = list.length - refused.length;
  if (!list.length) return null;
  return (
    <details
      className="noprint fixed inset-x-3 top-16 z-40 mx-auto w-fit max-w-[92vw] rounded-lg border-2 border-amberline bg-ambertint px-3 py-2 shadow-lg"
      open={refused.length > 0}
    >
      <summary className="font-semibold">
        <span role="status">
          {waiting > 0 && say.keptHereSentWhen(waiting)}
          {refused.length > 0 && say.refusedByTheServer(refused.length)}
        </span>
      </summary>
      <ul>
        {list.map((one) => (
          <li key={one.key} className="border-t border-line py-1.5">
            {one.words} <span className="text-small text-ink3">{minute(one.at)}</span>
            {one.refused && (
              <span className="block">
                <b className="text-hottext">{one.refused}</b>{" "}
                <button type="button" className="text-small underline underline-offset-2" onClick={() => tryAgain(one.key)}>
                  {say.tryAgain}
                </button>{" "}
                <button
                  type="button"
                  className="text-small underline underline-offset-2"
                  onClick={() => {
                    saveAs(JSON.stringify(one, null, 1), "not-taken.json", "application/json");
                    discard(one.key);
                  }}
                >
                  {say.takeItOutAs}
                </button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
