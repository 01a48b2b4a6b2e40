/** Under the drawing: what the meter should show between the two points touched. */
import { type Doc, read } from "../../lib/pointer";
import { touchedReading as say } from "../../texts/hookup";
import { Trouble } from "../../ui/Trouble";
import type { Tips } from "./DrawingImage";
import { shownAs } from "./expects";
import { type Situation, useMeter } from "./useMeter";

/** What of the machine is in and on, in a few words. */
function stateWords(doc: Doc, situation: Situation): string {
  if (situation.packs !== true) return say.packsOut;
  const on = (key: string, word: string, there: boolean) => (there ? say.isOn(word, situation[key] === true) : "");
  return [
    situation.main_fuse === true ? say.packsAndMainFuse : say.packsInMainFuse,
    on("cut_off", say.cutOff, read(doc, "/cut_off") != null),
    on("key", say.key, read(doc, "/controls/key") === true),
  ]
    .filter(Boolean)
    .join(", ");
}

export function TouchedReading({
  doc,
  tips,
  situation,
  onClear,
  onState,
}: {
  doc: Doc;
  tips: Tips;
  situation: Situation;
  onClear: () => void;
  /** To where fuses, key and levers are set. */
  onState: () => void;
}) {
  const both = tips.red !== "" && tips.black !== "";
  const found = useMeter(doc, tips.red, tips.black, situation, both);
  if (tips.red === "" && tips.black === "") return null;
  const shown = both ? found.data : undefined;
  return (
    <div className="mt-2 rounded-[9px] border-2 border-focus bg-focustint px-3 py-2" aria-live="polite">
      <Trouble error={both ? found.error : null} />
      {!both && <p>{say.redTipIsSet}</p>}
      {shown && (
        <p>
          {say.redOnBlackOn(shown.red_on, shown.black_on)}{" "}
          <b className="font-head text-[18px] whitespace-nowrap">{shownAs(shown)}</b>
          {shown.kind === "volts" && shown.low != null && shown.high != null && (
            <span className="whitespace-nowrap"> {say.to(shown.low, shown.high)}</span>
          )}
        </p>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-2 text-small">
        <span className="text-ink2">{say.with(stateWords(doc, situation))}</span>
        <button type="button" className="linkish" onClick={onState}>
          {say.changeThat}
        </button>
        <button type="button" className="linkish" onClick={onClear}>
          {say.takeTheTipsOff}
        </button>
      </div>
    </div>
  );
}
