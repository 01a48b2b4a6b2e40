/** The meter anywhere: two terminals, what is fitted and switched, and what it should show there. */
import { type Dispatch, type SetStateAction, useId } from "react";
import type { Hookup } from "../../api/client";
import type { Doc } from "../../lib/pointer";
import { meterSection as say } from "../../texts/hookup";
import { Segmented } from "../../ui/Field";
import { Trouble } from "../../ui/Trouble";
import type { Tips } from "./DrawingImage";
import { shownAs } from "./expects";
import { type Situation, useMeter } from "./useMeter";

type Terminal = Hookup["terminals"][number];

const SWITCHES = [
  ["packs", say.packsIn, () => true],
  ["row_fuses", say.rowFusesIn, (has: Set<string>) => [...has].some((id) => id.startsWith("row_fuse"))],
  ["main_fuse", say.mainFuseIn, (has: Set<string>) => has.has("main_fuse")],
  ["cut_off", say.cutOffOn, (has: Set<string>) => has.has("cut_off")],
  ["key", say.keyOn, (has: Set<string>) => has.has("key")],
  ["brake", say.brakePulled, (has: Set<string>) => has.has("brake")],
  ["foot", say.footSwitchStoodOn, (has: Set<string>) => has.has("foot_switch")],
  ["pedal", say.pedalPressed, (has: Set<string>) => has.has("pedal_switch")],
  ["accessories", say.accessoriesOn, (has: Set<string>) => [...has].some((id) => id.startsWith("accessory"))],
  ["aux_fuses", say.accessoryFusesIn, (has: Set<string>) => [...has].some((id) => id.startsWith("aux_fuse"))],
  ["learning", say.learningPlugJoined, (has: Set<string>) => has.has("learning_plug")],
] as const;

const WAYS = [
  ["forward", "forward"],
  ["neutral", "neutral"],
  ["reverse", "reverse"],
] as const;

function Tip({
  label,
  tip,
  terminals,
  value,
  onChange,
}: {
  label: string;
  tip: "red" | "black";
  terminals: Terminal[];
  value: string;
  onChange: (id: string) => void;
}) {
  const id = useId();
  const parts = [...new Set(terminals.map((t) => t.part))];
  return (
    <div>
      <label htmlFor={id} className="flex items-center gap-1.5 text-small text-ink2">
        <svg width="10" height="14" aria-hidden="true">
          <path d="M0 0h10L5 14Z" fill={tip === "red" ? "var(--w-red)" : "var(--w-black)"} />
        </svg>
        {label}
      </label>
      <select id={id} className="input" value={value} onChange={(e) => onChange(e.target.value)}>
        {parts.map((part) => (
          <optgroup key={part} label={part}>
            {terminals
              .filter((t) => t.part === part)
              .map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name ? `${part}, ${t.name}` : part}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </div>
  );
}

interface Props {
  plan: Hookup;
  doc: Doc;
  tips: Tips;
  onTips: (tips: Tips) => void;
  situation: Situation;
  onSituation: Dispatch<SetStateAction<Situation>>;
}

export function MeterSection({ plan, doc, tips, onTips, situation, onSituation: setSituation }: Props) {
  const { terminals } = plan;
  const known = new Set(terminals.map((t) => t.id));
  const has = new Set(terminals.map((t) => t.id.split(".")[0] ?? ""));
  const load = has.has("controller") ? ["controller.battery +", "controller.battery −"] : ["pedal_switch.in", "minus_bar."];
  const [red, black] = [tips.red || load[0] || "", tips.black || load[1] || ""];
  const rows = [...new Set(plan.drawing.parts.flatMap((p) => (p.kind === "pack" && p.row != null ? [p.row] : [])))];
  const speeds = known.has("speed_switch.3") ? 3 : 2;
  const out = situation.rows_out as number[];
  // A part that is gone from the setup takes its terminals along.
  const [at, from] = [known.has(red) ? red : (terminals[0]?.id ?? ""), known.has(black) ? black : (terminals[0]?.id ?? "")];
  const found = useMeter(doc, at, from, situation);
  const shown = found.data;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-5 max-wide:grid-cols-1">
      <div className="grid content-start gap-3">
        <div className="grid grid-cols-2 gap-3 max-desk:grid-cols-1">
          <Tip
            label={say.redTipOn}
            tip="red"
            terminals={terminals}
            value={at}
            onChange={(id) => onTips({ red: id, black: from })}
          />
          <Tip
            label={say.blackTipOn}
            tip="black"
            terminals={terminals}
            value={from}
            onChange={(id) => onTips({ red: at, black: id })}
          />
        </div>
        <fieldset>
          <legend className="text-small text-ink2">{say.theMachineNow}</legend>
          <div className="mt-1 flex flex-wrap gap-1.5">
            {SWITCHES.filter(([, , there]) => there(has)).map(([key, label]) => (
              <button
                key={key}
                type="button"
                className="btn"
                aria-pressed={situation[key] === true}
                onClick={() => setSituation((s) => ({ ...s, [key]: s[key] !== true }))}
              >
                {label}
              </button>
            ))}
            {rows.length > 1 &&
              situation.packs === true &&
              rows.map((row) => (
                <button
                  key={row}
                  type="button"
                  className="btn"
                  aria-pressed={!out.includes(row)}
                  onClick={() =>
                    setSituation((s) => ({
                      ...s,
                      rows_out: out.includes(row) ? out.filter((one) => one !== row) : [...out, row],
                    }))
                  }
                >
                  {say.inOne("ABCDEFGH"[row])}
                </button>
              ))}
            {has.has("throttle") && (
              <button
                type="button"
                className="btn"
                aria-pressed={situation.throttle === 1}
                onClick={() => setSituation((s) => ({ ...s, throttle: s.throttle === 1 ? 0 : 1 }))}
              >
                {say.throttleFull}
              </button>
            )}
            {(has.has("direction") || has.has("reverse_switch")) && (
              <Segmented
                label={say.direction}
                value={String(situation.direction ?? "forward")}
                options={has.has("direction") ? WAYS : WAYS.filter(([way]) => way !== "neutral")}
                onChange={(way) => setSituation((s) => ({ ...s, direction: way }))}
              />
            )}
            {has.has("speed_switch") && (
              <button
                type="button"
                className="btn"
                onClick={() => setSituation((s) => ({ ...s, speed: (Number(s.speed ?? 0) + 1) % speeds }))}
              >
                {say.speedSwitch(say.wireToGround[Number(situation.speed ?? 0)])}
              </button>
            )}
            {terminals.some((t) => t.id === "motor0.Hall A") && (
              <button
                type="button"
                className="btn"
                onClick={() => setSituation((s) => ({ ...s, turn: (Number(s.turn ?? 0) + 1) % 6 }))}
              >
                {say.turnTheWheelA(Number(situation.turn ?? 0))}
              </button>
            )}
          </div>
        </fieldset>
      </div>
      <div className="rounded-[9px] border-2 border-focus bg-focustint p-3" aria-live="polite">
        <Trouble error={found.error} />
        {shown && (
          <>
            <p className="text-small text-ink2">{shown.kind === "volts" ? say.withThePacksIn : say.withThePacksOut}</p>
            <p className="font-head text-[28px] font-bold">{shownAs(shown)}</p>
            {shown.kind === "volts" && shown.low != null && shown.high != null && (
              <p>{say.betweenAndVFor(shown.low, shown.high)}</p>
            )}
            {shown.beeps && <p>{say.aContinuityTesterBeeps}</p>}
            {shown.note && <p>{shown.note}</p>}
            {shown.kind !== "volts" && <p className="mt-1 text-small text-ink2">{say.neverMeasureOhmsWith}</p>}
          </>
        )}
      </div>
    </div>
  );
}
