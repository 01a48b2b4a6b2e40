/** Backups of the whole server, for whoever keeps it: made, taken away as a file, put back after a look at what is in them. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import { upload } from "../lib/upload";
import { backups as say } from "../texts/garage";
import { minute } from "../texts/locale";
import { Dialog } from "../ui/Dialog";
import { FilePick } from "../ui/FilePick";
import { Trouble } from "../ui/Trouble";

const size = (bytes: number) => (bytes < 1e6 ? say.kb(bytes) : say.mb(bytes));

function Restore({ name, made, close }: { name: string; made: string; close: () => void }) {
  const found = useQuery({
    queryKey: ["backup", name],
    queryFn: () => unwrap(client.GET("/api/backups/{name}", { params: { path: { name } } })),
    retry: false,
  });
  const restore = useMutation({
    mutationFn: () => unwrap(client.POST("/api/backups/{name}/restore", { params: { path: { name } }, body: { confirm: name } })),
    // Nobody is signed in any more, and all that is on screen is of another database.
    onSuccess: () => window.location.assign("/"),
  });
  const has = found.data;
  return (
    <Dialog open onOpenChange={(open) => !open && close()} title={say.putBackWhatWas(made)} description={say.whatIsThereNow}>
      {has ? (
        <ul className="list-disc pl-5">
          <li>{[say.garages(has.garages), say.builds(has.builds), say.setups(has.setups), say.trials(has.trials)].join(", ")}</li>
          <li>{say.accounts(has.accounts)}</li>
          <li>{has.latest ? say.lastChangedZ(has.latest.replace(" ", "T")) : say.nothingWasChangedIn}</li>
        </ul>
      ) : (
        !found.error && <p role="status">{say.readingItThrough}</p>
      )}
      <Trouble error={found.error ?? restore.error} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <button type="button" className="btn" onClick={close}>
          {say.leaveIt}
        </button>
        <button type="button" className="btn hot" disabled={!has || restore.isPending} onClick={() => restore.mutate()}>
          {restore.isPending ? say.puttingItBack : say.putItBack}
        </button>
      </div>
    </Dialog>
  );
}

export function Backups() {
  const queryClient = useQueryClient();
  const [asked, setAsked] = useState<{ name: string; made: string } | null>(null);
  const backups = useQuery({ queryKey: ["backups"], queryFn: () => unwrap(client.GET("/api/backups")) });
  const make = useMutation({
    mutationFn: () => unwrap(client.POST("/api/backups")),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["backups"] }),
  });
  const [sent, setSent] = useState(0);
  const take = useMutation({
    mutationFn: async (file: File) => {
      setSent(0);
      return unwrap(client.POST("/api/backups/uploaded", { body: { upload: await upload(file, setSent) } }));
    },
    onSuccess: async (made) => {
      await queryClient.invalidateQueries({ queryKey: ["backups"] });
      setAsked(made);
    },
  });
  return (
    <details className="mt-5">
      <summary className="font-head text-[15px] font-bold">{say.backups}</summary>
      <p className="mt-1 text-small text-ink2">{say.ofTheWholeServer}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="btn" disabled={make.isPending} onClick={() => make.mutate()}>
          {make.isPending ? say.copyingAndChecking : say.backUpNow}
        </button>
        <FilePick label={say.backupKeptElsewhere} accept=".sqlite3" busy={take.isPending} onFile={take.mutate}>
          {take.isPending ? say.sendingAndChecking(sent) : say.takeInAFile}
        </FilePick>
      </div>
      <Trouble error={make.error ?? take.error ?? backups.error} />
      <ul className="mt-2">
        {backups.data?.length === 0 && <li className="text-ink2">{say.noneYet}</li>}
        {backups.data?.map((one) => (
          <li key={one.name} className="flex flex-wrap items-center gap-x-3 border-b border-line py-1.5">
            <span className="min-w-0 flex-1">
              {minute(one.made)} <span className="text-small text-ink3">{size(one.size)}</span>
            </span>
            <a className="text-small underline underline-offset-2" href={`/api/backups/${one.name}/file`} download>
              {say.saveAsFile}
            </a>
            <button type="button" className="text-small underline underline-offset-2" onClick={() => setAsked(one)}>
              {say.putBack}
            </button>
          </li>
        ))}
      </ul>
      {asked && <Restore name={asked.name} made={asked.made} close={() => setAsked(null)} />}
    </details>
  );
}
