/** Unsaved work on this device that belongs to another database or account: never applied, offered as a file. */
import { useState } from "react";
import { forget, type Stray, strays } from "../lib/drafts";
import { saveAs } from "../lib/saveAs";

export function Strays() {
  const [found, setFound] = useState<Stray[]>(strays);
  if (found.length === 0) return null;
  return (
    <section className="border-b border-strong bg-ambertint px-5 py-3" aria-label="Unsaved work of another garage">
      <p className="max-w-[70ch]">
        <b>On this device lies unsaved work of another database or account.</b> It is not put into any setup here. Keep it as a
        file, and type what you need of it.
      </p>
      <ul className="mt-2 flex flex-wrap gap-2">
        {found.map((stray) => (
          <li key={stray.key} className="flex items-center gap-2">
            <button type="button" className="btn" onClick={() => saveAs(stray.text, stray.name, "application/json")}>
              Keep {stray.name}
            </button>
            <button
              type="button"
              className="px-1 text-small underline underline-offset-2"
              onClick={() => {
                forget(stray);
                setFound(strays());
              }}
            >
              Throw {stray.name} away
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
