/** Unsaved work on this device that belongs to another database or account: never applied, offered as a file. */
import { useState } from "react";
import { forget, type Stray, strays } from "../lib/drafts";
import { saveAs } from "../lib/saveAs";
import { strays as say } from "../texts/garage";

export function Strays() {
  const [found, setFound] = useState<Stray[]>(strays);
  if (found.length === 0) return null;
  return (
    <section className="border-b border-strong bg-ambertint px-5 py-3" aria-label={say.unsavedWorkOfAnother}>
      <p className="max-w-[70ch]">{say.onThisDeviceLies}</p>
      <ul className="mt-2 flex flex-wrap gap-2">
        {found.map((stray) => (
          <li key={stray.key} className="flex items-center gap-2">
            <button type="button" className="btn" onClick={() => saveAs(stray.text, stray.name, "application/json")}>
              {say.keep(stray.name)}
            </button>
            <button
              type="button"
              className="px-1 text-small underline underline-offset-2"
              onClick={() => {
                forget(stray);
                setFound(strays());
              }}
            >
              {say.throwAway(stray.name)}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
