/** Findings: stops of the plan, what is to be looked at, cautions, notes; each with because, fixes or answers, and what can be said to a stop. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Finding, type FindingFixes, type Patch, type SetupRow, unwrap } from "../api/client";
import { useSettings } from "../lib/settings";
import { STAGE_NAMES } from "../lib/stages";
import { GATE_WORDS } from "../lib/useStanding";
import { findings as say } from "../texts/findings";
import { priceWords, sentence } from "../texts/units";
import { Dialog } from "../ui/Dialog";
import { Glyph } from "../ui/Glyph";
import { useSaid } from "../ui/Terms";
import { Trouble } from "../ui/Trouble";
import { Answers } from "./Answers";

const LOOK = {
  stop: { box: "border-2 border-hotdeep bg-hottint", word: say.stop, tone: "text-hottext" },
  look: { box: "border-2 border-amberline bg-ambertint", word: say.toLookAt, tone: "text-ambertext" },
  caution: { box: "border border-amberline bg-ambertint", word: say.caution, tone: "text-ambertext" },
  note: { box: "border border-line bg-card", word: say.note, tone: "text-ink2" },
} as const;

const KINDS = ["stop", "look", "caution", "note"] as const;

const FIRST = 3;
const wordsFor = (findings: Finding[], kind: string, word: string) => {
  const n = findings.filter((f) => f.severity === kind).length;
  return n ? `${n} ${word}${n === 1 ? "" : "s"}` : "";
};

interface Props {
  findings: Finding[];
  fixes: FindingFixes[];
  row: SetupRow;
  onFix: (patch: Patch, label: string) => void;
  saved: boolean;
}

type Saying = { finding: Finding; kind: "overruled" | "observed" };

/** What a stop shows as: a stop of the plan, something to look at, or less. */
/** What a fix costs, after its label. */
function Priced({ price }: { price: FindingFixes["fixes"][number]["price"] }) {
  const { units } = useSettings();
  const words = priceWords(price, units);
  return words ? <span className="inline-block font-normal whitespace-nowrap tabular-nums">{words}</span> : null;
}

const lookOf = (finding: Finding) => (finding.severity === "stop" && finding.gate !== "plan" ? "look" : finding.severity);

function SayDialog({ row, saying: { finding, kind }, close }: { row: SetupRow; saying: Saying; close: () => void }) {
  const [reason, setReason] = useState("");
  const { units } = useSettings();
  const queryClient = useQueryClient();
  const observed = kind === "observed";
  const send = useMutation({
    mutationFn: () => {
      const params = { path: { setup_id: row.id } };
      return observed
        ? unwrap(client.PUT("/api/setups/{setup_id}/observations", { params, body: { finding: finding.key, text: reason } }))
        : unwrap(client.PUT("/api/setups/{setup_id}/overrules", { params, body: { finding: finding.key, reason } }));
    },
    onSuccess: () => {
      queryClient.invalidateQueries({ queryKey: ["build"] });
      queryClient.invalidateQueries({ queryKey: ["journal"] });
      close();
    },
  });
  return (
    <Dialog
      open
      onOpenChange={close}
      title={`${observed ? say.lookedAt : say.overrule}: ${sentence(finding.title, units)}`}
      description={observed ? say.writeWhatYouSaw : say.aChildMayRide}
    >
      <textarea
        className="input min-h-24 py-2"
        aria-label={observed ? say.whatYouSaw : say.reason}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <Trouble error={send.error} />
      <div className="mt-3 flex justify-end gap-2">
        <button type="button" className="btn" onClick={close}>
          {say.leaveItOpen}
        </button>
        <button
          type="button"
          className={`btn ${observed ? "go" : "hot"}`}
          disabled={send.isPending}
          onClick={() => send.mutate()}
        >
          {observed ? say.writeItDown : say.overruleIt}
        </button>
      </div>
    </Dialog>
  );
}

export function Findings({ findings, fixes, row, onFix, saved }: Props) {
  const { units } = useSettings();
  const said = useSaid();
  const [saying, setSaying] = useState<Saying | null>(null);
  const queryClient = useQueryClient();
  const takeBack = useMutation({
    mutationFn: (finding: string) =>
      unwrap(client.DELETE("/api/setups/{setup_id}/overrules/{finding}", { params: { path: { setup_id: row.id, finding } } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["build"] }),
  });
  const ordered = KINDS.flatMap((kind) => findings.filter((f) => lookOf(f) === kind));
  // A wall of cautions is read by nobody: the three that matter first, the rest folded by stage.
  const first = ordered.filter((f) => f.severity === "caution").slice(0, FIRST);
  const always = (f: Finding) => f.severity === "stop" || first.includes(f);
  const folded = ordered.filter((f) => !always(f));
  const [unfolded, setUnfolded] = useState(false);
  const count = (kind: (typeof KINDS)[number]) => findings.filter((f) => lookOf(f) === kind).length;
  const card = (finding: Finding) => {
    const kind = lookOf(finding);
    const look = LOOK[kind];
    const checked = fixes.find((f) => f.key === finding.key)?.fixes ?? [];
    const overruled = finding.severity === "stop" ? row.overrules.find((o) => o.finding === finding.key) : undefined;
    const held = overruled && !overruled.fallen;
    const answers = finding.answers ?? [];
    return (
      <article
        key={finding.key}
        id={`finding-${finding.key}`}
        className={`rounded-[7px] px-2.5 pt-2 pb-2.5 ${look.box}`}
        tabIndex={-1}
      >
        <div className={`flex items-center gap-1.5 text-[11.5px] leading-4 ${look.tone}`}>
          <Glyph mark={kind === "look" ? "open" : kind} size={13} quiet />{" "}
          <b>{held ? (overruled.kind === "observed" ? say.lookedAt : say.overruled) : look.word}</b>
          {!held && kind === "look" && finding.gate && <span>{say.before(GATE_WORDS[finding.gate])}</span>}
          {finding.as_found && <span>{say.asFound}</span>}
          <span className="ml-auto">{finding.stage}</span>
        </div>
        <h3 className="my-[3px] text-[14.5px] leading-[1.15]">{sentence(finding.title, units)}</h3>
        <p className="text-[12.5px] leading-[1.34] text-ink2">{said(finding.because)}</p>
        {(checked.length === 0 || kind === "look") && answers.length === 0 && finding.severity !== "note" && (
          <p className="mt-1 text-[12.5px] leading-[1.34] font-semibold">{said(finding.instruction)}</p>
        )}
        {overruled && (
          <p className="mt-1 text-[12.5px]">
            <i>“{overruled.reason}”</i> {overruled.by && <span className="text-ink2">{overruled.by}</span>}
            {overruled.fallen && <b className="block text-hottext">{say.itNoLongerCovers}</b>}
          </p>
        )}
        {answers.length > 0 && !held && (
          <div className="mt-2">
            <Answers answers={answers} label={finding.title} onPick={(a) => onFix(a.patch, `${finding.title} ${a.label}`)} />
          </div>
        )}
        <div className="mt-2 flex flex-wrap gap-1.5">
          {checked.map((fix, i) => (
            <button
              key={fix.label}
              type="button"
              className={`btn !min-h-[30px] !px-2 !py-[3px] !text-[12.5px] max-desk:!min-h-11 ${i === 0 && finding.severity === "stop" ? "hot" : ""}`}
              onClick={() => onFix(fix.patch, fix.label)}
            >
              <span>
                {sentence(fix.label, units)} <Priced price={fix.price} />
              </span>
            </button>
          ))}
          {finding.observable && !held && saved && (
            <button
              type="button"
              className="btn !min-h-[30px] !px-2 !py-[3px] !text-[12.5px] max-desk:!min-h-11"
              onClick={() => setSaying({ finding, kind: "observed" })}
            >
              {say.lookAt}
            </button>
          )}
          {finding.severity === "stop" && !held && saved && (
            <button
              type="button"
              className="px-1 text-small text-ink2 underline underline-offset-2"
              onClick={() => setSaying({ finding, kind: "overruled" })}
            >
              {say.overruleFirst}
            </button>
          )}
          {overruled && (
            <button
              type="button"
              className="px-1 text-small text-ink2 underline underline-offset-2"
              onClick={() => takeBack.mutate(finding.key)}
            >
              {say.takeItBack}
            </button>
          )}
        </div>
      </article>
    );
  };
  return (
    <section className="find flex min-h-0 flex-col border-l border-line bg-paper pt-2" aria-label={say.findings}>
      <div className="flex h-[27px] flex-none items-center justify-between px-3.5">
        <h2 className="text-[16px]">{say.findings}</h2>
        <span className="flex gap-2 text-small text-ink2">
          {KINDS.map(
            (kind) =>
              count(kind) > 0 && (
                <span key={kind} className="flex items-center gap-1">
                  <Glyph mark={kind === "look" ? "open" : kind} size={13} quiet={kind === "look"} />
                  {kind === "look" && <span className="sr-only">{say.toLookAtAlso}</span>} {count(kind)}
                </span>
              ),
          )}
        </span>
      </div>
      <div className="flex min-h-0 flex-1 flex-col gap-2 overflow-auto px-3 pb-3" tabIndex={-1} data-findings>
        {folded.length === ordered.length && (
          <p className="rounded-lg border border-leaf bg-leaftint p-3">
            <Glyph mark="fine" /> {say.nothingToMendHere}
          </p>
        )}
        {ordered.filter(always).map(card)}
        {folded.length > 0 && (
          <details
            className="rounded-lg border border-line bg-card px-2.5 py-2"
            open={unfolded}
            onToggle={(e) => setUnfolded(e.currentTarget.open)}
          >
            <summary className="font-head text-[14px] font-bold">
              {[wordsFor(folded, "caution", say.moreCaution), wordsFor(folded, "note", "note")].filter(Boolean).join(", ")}
            </summary>
            {unfolded &&
              STAGE_NAMES.flatMap((stage) => {
                const here = folded.filter((f) => f.stage === stage);
                return here.length
                  ? [
                      <section key={stage} className="mt-2 grid gap-2" aria-label={say.lessPressing(stage)}>
                        <h3 className="text-small font-bold text-ink2 capitalize">{stage}</h3>
                        {here.map(card)}
                      </section>,
                    ]
                  : [];
              })}
          </details>
        )}
      </div>
      {saying && <SayDialog row={row} saying={saying} close={() => setSaying(null)} />}
    </section>
  );
}
