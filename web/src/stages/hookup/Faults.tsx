/** What the electrical rule check finds wrong with the wiring as the setup has it, or still open. */
import type { Hookup } from "../../api/client";
import { faults as say } from "../../texts/hookup";
import { Glyph } from "../../ui/Glyph";

export function Faults({ faults }: { faults: Hookup["faults"] }) {
  const wrong = faults.filter((fault) => fault.kind !== "open");
  if (faults.length === 0) return null;
  const shown = wrong.length ? wrong : faults;
  return (
    <div
      className={`mb-3 rounded-lg border px-3 py-2 ${wrong.length ? "border-hotdeep bg-hottint" : "border-amberline bg-ambertint"}`}
    >
      <p className="flex items-center gap-2 font-bold">
        <Glyph mark={wrong.length ? "stop" : "caution"} size={16} />
        {wrong.length ? say.theWiringAsPlanned : say.notEverythingIsJoined}
      </p>
      <ul className="list-disc pl-6">
        {shown.map((fault) => (
          <li key={fault.sentence}>{fault.sentence}</li>
        ))}
      </ul>
    </div>
  );
}
