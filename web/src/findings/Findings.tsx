/** Findings: stop, caution, note; each with because, checked fixes, and for stops the way to overrule with a reason. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Finding, type FindingFixes, type SetupRow, unwrap } from "../api/client";
import { useSettings } from "../lib/settings";
import { sentence } from "../lib/units";
import { Dialog } from "../ui/Dialog";
import { Glyph } from "../ui/Glyph";
import { Trouble } from "../ui/Trouble";

const LOOK = {
  stop: { box: "border-2 border-hotdeep bg-hottint", word: "Stop", tone: "text-hottext" },
  caution: { box: "border border-amberline bg-ambertint", word: "Caution", tone: "text-ambertext" },
  note: { box: "border border-line bg-card", word: "Note", tone: "text-ink2" },
} as const;

interface Props {
  findings: Finding[];
  fixes: FindingFixes[];
  row: SetupRow;
  onFix: (patch: Record<string, unknown>[], label: string) => void;
  saved: boolean;
}

function OverruleDialog({ row, finding, close }: { row: SetupRow; finding: Finding; close: () => void }) {
  const [reason, setReason] = useState("");
  const queryClient = useQueryClient();
  const send = useMutation({
    mutationFn: () =>
      unwrap(
        client.PUT("/api/setups/{setup_id}/overrules", {
          params: { path: { setup_id: row.id } },
          body: { finding: finding.key, reason },
        }),
      ),
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
      title={`Overrule: ${finding.title}`}
      description="A child may ride on this. Write why you accept it; the reason is kept in the journal and printed on the build sheet."
    >
      <textarea className="input min-h-24 py-2" aria-label="Reason" value={reason} onChange={(e) => setReason(e.target.value)} />
      <Trouble error={send.error} />
      <div className="mt-3 flex justify-end gap-2">
        <button type="button" className="btn" onClick={close}>
          Leave it a stop
        </button>
        <button type="button" className="btn hot" disabled={send.isPending} onClick={() => send.mutate()}>
          Overrule it
        </button>
      </div>
    </Dialog>
  );
}

export function Findings({ findings, fixes, row, onFix, saved }: Props) {
  const { units } = useSettings();
  const [asking, setAsking] = useState<Finding | null>(null);
  const queryClient = useQueryClient();
  const takeBack = useMutation({
    mutationFn: (finding: string) =>
      unwrap(client.DELETE("/api/setups/{setup_id}/overrules/{finding}", { params: { path: { setup_id: row.id, finding } } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["build"] }),
  });
  const count = (s: Finding["severity"]) => findings.filter((f) => f.severity === s).length;
  return (
    <section className="find flex min-h-0 flex-col border-l border-line bg-paper pt-2" aria-label="Findings">
      <div className="flex h-[27px] flex-none items-center justify-between px-3.5">
        <h2 className="text-[16px]">Findings</h2>
        <span className="flex gap-2 text-small text-ink2">
          {(["stop", "caution", "note"] as const).map(
            (s) =>
              count(s) > 0 && (
                <span key={s} className="flex items-center gap-1">
                  <Glyph mark={s} size={13} /> {count(s)}
                </span>
              ),
          )}
        </span>
      </div>
      <div className="flex min-h-0 flex-1 flex-col gap-2 overflow-auto px-3 pb-3" tabIndex={-1} data-findings>
        {findings.length === 0 && (
          <p className="rounded-lg border border-leaf bg-leaftint p-3">
            <Glyph mark="fine" /> Nothing to mend here.
          </p>
        )}
        {findings.map((finding) => {
          const look = LOOK[finding.severity];
          const checked = fixes.find((f) => f.key === finding.key)?.fixes ?? [];
          const overruled = row.overrules.find((o) => o.finding === finding.key);
          return (
            <article
              key={finding.key}
              id={`finding-${finding.key}`}
              className={`rounded-[7px] px-2.5 pt-2 pb-2.5 ${look.box}`}
              tabIndex={-1}
            >
              <div className={`flex items-center gap-1.5 text-[11.5px] leading-4 ${look.tone}`}>
                <Glyph mark={finding.severity} size={13} quiet /> <b>{overruled ? "Overruled" : look.word}</b>
                <span className="ml-auto">{finding.stage}</span>
              </div>
              <h3 className="my-[3px] text-[14.5px] leading-[1.15]">{finding.title}</h3>
              <p className="text-[12.5px] leading-[1.34] text-ink2">{sentence(finding.because, units)}</p>
              {checked.length === 0 && finding.severity !== "note" && (
                <p className="mt-1 text-[12.5px] leading-[1.34] font-semibold">{sentence(finding.instruction, units)}</p>
              )}
              {overruled && <p className="mt-1 text-[12.5px] italic">“{overruled.reason}”</p>}
              <div className="mt-2 flex flex-wrap gap-1.5">
                {checked.map((fix, i) => (
                  <button
                    key={fix.label}
                    type="button"
                    className={`btn !min-h-[30px] !px-2 !py-[3px] !text-[12.5px] max-desk:!min-h-11 ${i === 0 && finding.severity === "stop" ? "hot" : ""}`}
                    onClick={() => onFix(fix.patch, fix.label)}
                  >
                    {sentence(fix.label, units)}
                  </button>
                ))}
                {finding.severity === "stop" && finding.blocks && !overruled && saved && (
                  <button
                    type="button"
                    className="px-1 text-small text-ink2 underline underline-offset-2"
                    onClick={() => setAsking(finding)}
                  >
                    Overrule…
                  </button>
                )}
                {overruled && (
                  <button
                    type="button"
                    className="px-1 text-small text-ink2 underline underline-offset-2"
                    onClick={() => takeBack.mutate(finding.key)}
                  >
                    Make it a stop again
                  </button>
                )}
              </div>
            </article>
          );
        })}
      </div>
      {asking && <OverruleDialog row={row} finding={asking} close={() => setAsking(null)} />}
    </section>
  );
}
