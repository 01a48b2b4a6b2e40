/** The fields of one run: its wire and its own fuse. Like rows share one run, and what is changed is changed in each. */

import type { ReactNode } from "react";
import { memo } from "react";
import type { RunOut } from "../../api/client";
import { type Doc, type Json, read, write } from "../../lib/pointer";
import { runFields as say } from "../../texts/protect";
import { FormProvider, useForm } from "../../ui/Field";
import { FuseFields, LeadFields } from "../LeadFields";
import { Plugs } from "./Plugs";

/** The places in the document a run stands for. */
export function placesOf(run: Pick<RunOut, "path" | "rows">): { lead: string; fuse: string }[] {
  const name = run.path.split("/").at(-1) ?? "lead";
  if (run.rows.length) return run.rows.map((r) => ({ lead: `/bank/rows/${r}/${name}`, fuse: `/bank/rows/${r}/fuse` }));
  return [{ lead: run.path, fuse: run.path === "/main_lead" ? "/main_fuse" : run.path.replace(/lead$/, "fuse") }];
}

/** A document with some fields of the part at a place changed, its others kept. */
export const merged = (doc: Doc, pointer: string, values: Doc): Doc =>
  write(doc, pointer, { ...((read(doc, pointer) as Doc | null) ?? {}), ...values });

function Together({ run, children }: { run: RunOut; children: ReactNode }) {
  const form = useForm();
  const first = `/bank/rows/${run.rows[0]}/`;
  const edit = (pointer: string, value: Json) => {
    if (run.rows.length < 2 || !pointer.startsWith(first)) return form.edit(pointer, value);
    const rest = pointer.slice(first.length);
    const changed = run.rows.reduce((doc, r) => write(doc, `/bank/rows/${r}/${rest}`, value), form.doc);
    form.edit("/bank", changed.bank);
  };
  return <FormProvider value={{ ...form, edit }}>{children}</FormProvider>;
}

export const RunFields = memo(function RunFields({ run }: { run: RunOut }) {
  const { doc } = useForm();
  const [place] = placesOf(run);
  if (!place) return null;
  return (
    <Together run={run}>
      {run.rows.length > 1 && <p className="mb-2 text-small text-ink3">{say.theseRowsAreAlike}</p>}
      <LeadFields path={place.lead} />
      {run.own_fuse && read(doc, place.fuse) != null && (
        <div className="mt-3">
          <FuseFields path={place.fuse} />
        </div>
      )}
      {run.kind === "row" && (
        <Plugs path={`/bank/rows/${run.rows[0]}/plugs`} add={run.rows.length > 1 ? say.aPlugInEach : say.aPlugInThis} />
      )}
    </Together>
  );
});
