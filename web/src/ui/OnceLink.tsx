/** A link that is shown once, when it is made, to be copied. */
import { useState } from "react";
import { onceLink as say } from "../texts/ui";

export function OnceLink({ link, words }: { link: string; words: string }) {
  const [copied, setCopied] = useState("");
  return (
    <div className="mt-2 rounded-lg border-2 border-focus bg-focustint p-2">
      <p className="text-small">{words}</p>
      <div className="mt-1 flex gap-2">
        <input className="input" aria-label={say.theLink} readOnly value={link} onFocus={(e) => e.target.select()} />
        {/* Only a page of a secure address may write the clipboard; elsewhere the field is selected and copied by hand. */}
        {navigator.clipboard && (
          <button
            type="button"
            className="btn"
            onClick={() => void navigator.clipboard.writeText(link).then(() => setCopied(link))}
          >
            {copied === link ? say.copied : say.copy}
          </button>
        )}
      </div>
    </div>
  );
}
