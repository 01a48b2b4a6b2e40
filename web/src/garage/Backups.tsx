/** Backups of the whole server, for whoever keeps it: made, taken away as a file, put back after a look at what is in them. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import { upload } from "../lib/upload";
import { countWords } from "../lib/useStanding";
import { Dialog } from "../ui/Dialog";
import { FilePick } from "../ui/FilePick";
import { Trouble } from "../ui/Trouble";

const when = (made: string) => new Date(made).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
const size = (bytes: number) => (bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`);

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
    <Dialog
      open
      onOpenChange={(open) => !open && close()}
      title={`Put back what was there on ${when(made)}?`}
      description="What is there now is backed up first. Everybody has to sign in anew, and unsaved work on other devices becomes a file there."
    >
      {has ? (
        <ul className="list-disc pl-5">
          <li>
            {[
              countWords(has.garages, "garage"),
              countWords(has.builds, "build"),
              countWords(has.setups, "setup"),
              countWords(has.trials, "trial"),
            ].join(", ")}
          </li>
          <li>{countWords(has.accounts, "account")}</li>
          <li>{has.latest ? `last changed ${when(`${has.latest.replace(" ", "T")}Z`)}` : "nothing was changed in it"}</li>
        </ul>
      ) : (
        !found.error && <p role="status">Reading it through…</p>
      )}
      <Trouble error={found.error ?? restore.error} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <button type="button" className="btn" onClick={close}>
          Leave it
        </button>
        <button type="button" className="btn hot" disabled={!has || restore.isPending} onClick={() => restore.mutate()}>
          {restore.isPending ? "Putting it back…" : "Put it back"}
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
      <summary className="font-head text-[15px] font-bold">Backups</summary>
      <p className="mt-1 text-small text-ink2">
        Of the whole server, made while it runs and checked. Kept: all of the last day, then one of each of seven days, four weeks
        and twelve months. Keep one on another device too.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="btn" disabled={make.isPending} onClick={() => make.mutate()}>
          {make.isPending ? "Copying and checking…" : "Back up now"}
        </button>
        <FilePick label="Backup kept elsewhere" accept=".sqlite3" busy={take.isPending} onFile={take.mutate}>
          {take.isPending ? `Sending and checking… ${Math.round(sent * 100)} %` : "Take in a file…"}
        </FilePick>
      </div>
      <Trouble error={make.error ?? take.error ?? backups.error} />
      <ul className="mt-2">
        {backups.data?.length === 0 && <li className="text-ink2">None yet.</li>}
        {backups.data?.map((one) => (
          <li key={one.name} className="flex flex-wrap items-center gap-x-3 border-b border-line py-1.5">
            <span className="min-w-0 flex-1">
              {when(one.made)} <span className="text-small text-ink3">{size(one.size)}</span>
            </span>
            <a className="text-small underline underline-offset-2" href={`/api/backups/${one.name}/file`} download>
              Save as file
            </a>
            <button type="button" className="text-small underline underline-offset-2" onClick={() => setAsked(one)}>
              Put back…
            </button>
          </li>
        ))}
      </ul>
      {asked && <Restore name={asked.name} made={asked.made} close={() => setAsked(null)} />}
    </details>
  );
}
