/** Setups side by side: choose, copy, rename, baseline, history, export, build sheet. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ChevronDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Build, client, type Garage, type SetupRow, unwrap } from "../api/client";
import { useBinned } from "../bin/Undo";
import { dropDraft } from "../lib/drafts";
import { useGarages } from "../lib/garage";
import { usePages } from "../lib/usePages";
import { ShareLink } from "../look/ShareLink";
import { minute } from "../texts/locale";
import { setupMenu as say } from "../texts/workspace";
import { Dialog } from "../ui/Dialog";
import { More } from "../ui/More";
import { Trouble } from "../ui/Trouble";

type Asking = "move" | "share" | "copy" | "rename" | "history" | "delete" | "build" | null;

function NameDialog({
  title,
  start,
  action,
  close,
  words,
}: {
  title: string;
  start: string;
  words: string;
  action: (name: string) => Promise<unknown>;
  close: () => void;
}) {
  const [name, setName] = useState(start);
  const run = useMutation({ mutationFn: () => action(name), onSuccess: close });
  return (
    <Dialog open onOpenChange={close} title={title}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          run.mutate();
        }}
      >
        <label className="mb-1 block text-small font-bold text-ink2" htmlFor="setup-name">
          {say.name}
        </label>
        <input id="setup-name" className="input" value={name} onChange={(e) => setName(e.target.value)} />
        <Trouble error={run.error} />
        <button type="submit" className="btn go mt-3" disabled={run.isPending}>
          {words}
        </button>
      </form>
    </Dialog>
  );
}

function History({ row, close }: { row: SetupRow; close: () => void }) {
  const queryClient = useQueryClient();
  const list = usePages(
    ["revisions", row.id, row.version],
    100,
    (skip, limit) =>
      unwrap(client.GET("/api/setups/{setup_id}/revisions", { params: { path: { setup_id: row.id }, query: { skip, limit } } })),
    (revision) => revision.number,
  );
  const restore = useMutation({
    mutationFn: (number: number) =>
      unwrap(
        client.POST("/api/setups/{setup_id}/restore", {
          params: { path: { setup_id: row.id } },
          body: { number, based_on: row.version },
        }),
      ),
    onSuccess: async () => {
      dropDraft(row.id);
      await queryClient.invalidateQueries({ queryKey: ["build"] });
      window.location.reload();
    },
  });
  return (
    <Dialog open onOpenChange={close} title={say.history} description={say.whatOnePersonSaves}>
      <ul>
        {list.pages?.flat().map((r, i) => (
          <li key={r.number} className="flex items-center gap-3 border-b border-line py-1.5">
            <b className="w-8">{r.number}</b>
            <span className="flex-1">
              {minute(r.created)} <span className="text-ink3">{r.label}</span>
            </span>
            {i > 0 && (
              <button type="button" className="btn" disabled={restore.isPending} onClick={() => restore.mutate(r.number)}>
                {say.bringBack}
              </button>
            )}
          </li>
        ))}
      </ul>
      <More of={list} words={say.showOlderOnes} />
    </Dialog>
  );
}

function MoveBuild({ build, garages, close }: { build: Build; garages: Garage[]; close: () => void }) {
  const queryClient = useQueryClient();
  const others = garages.filter((one) => one.id !== build.garage_id);
  const [to, setTo] = useState(others[0]?.id ?? 0);
  const move = useMutation({
    mutationFn: () =>
      unwrap(client.POST("/api/builds/{build_id}/move", { params: { path: { build_id: build.id } }, body: { garage: to } })),
    onSuccess: async () => {
      // Riders, house rules and what they make of the numbers are another garage's now.
      await queryClient.invalidateQueries();
      close();
    },
  });
  return (
    <Dialog open onOpenChange={close} title={say.move(build.name)} description={say.withItsSetupsHistory}>
      <select className="input" aria-label={say.toWhichGarage} value={to} onChange={(e) => setTo(Number(e.target.value))}>
        {others.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
      <Trouble error={move.error} className="mt-2" />
      <div className="mt-3 flex justify-end gap-2">
        <button type="button" className="btn" onClick={close}>
          {say.leaveItHere}
        </button>
        <button type="button" className="btn go" disabled={move.isPending} onClick={() => move.mutate()}>
          {say.moveIt}
        </button>
      </div>
    </Dialog>
  );
}

export function SetupMenu({ build, row, stage }: { build: Build; row: SetupRow; stage: string }) {
  const [asking, setAsking] = useState<Asking>(null);
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const binned = useBinned();
  const garages = useGarages() ?? [];
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["build"] });
  const patch = useMutation({
    mutationFn: (body: { name?: string; is_baseline?: boolean; in_use?: boolean }) =>
      unwrap(client.PATCH("/api/setups/{setup_id}", { params: { path: { setup_id: row.id } }, body })),
    onSuccess: () => Promise.all([refresh(), queryClient.invalidateQueries({ queryKey: ["evaluation"] })]),
  });
  const copy = async (name: string) => {
    const made = await unwrap(
      client.POST("/api/builds/{build_id}/setups", {
        params: { path: { build_id: build.id } },
        body: { name, document: row.document },
      }),
    );
    await refresh();
    navigate(`/builds/${build.id}/setups/${made.id}/${stage}`);
  };
  const remove = useMutation({
    mutationFn: async () => {
      await unwrap(client.DELETE("/api/setups/{setup_id}", { params: { path: { setup_id: row.id } } }));
      binned({ garage: build.garage_id, kind: "setup", id: row.id, name: row.name });
      await refresh();
      navigate(`/builds/${build.id}`);
    },
  });
  const removeBuild = useMutation({
    mutationFn: async () => {
      await unwrap(client.DELETE("/api/builds/{build_id}", { params: { path: { build_id: build.id } } }));
      binned({ garage: build.garage_id, kind: "build", id: build.id, name: build.name });
      await queryClient.invalidateQueries({ queryKey: ["garage"] });
      navigate("/");
    },
  });
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="btn quiet mb-1 !px-2 whitespace-nowrap max-desk:mb-0 max-desk:!border-strong"
          data-setup-menu
        >
          <span className="line-clamp-2 max-w-[26vw] text-left text-[13px] leading-[15px] whitespace-normal desk:hidden">
            {row.name}
          </span>
          <span className="max-desk:hidden">{say.setups}</span> <ChevronDown size={15} aria-hidden="true" />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu" sideOffset={4} align="end">
            {build.setups.map((s) => (
              <DropdownMenu.Item key={s.id} onSelect={() => navigate(`/builds/${build.id}/setups/${s.id}/${stage}`)}>
                <b className="flex-1">{s.name}</b>{" "}
                <span className="text-small text-ink3">{s.is_baseline ? say.baseline : s.in_use ? say.inUse : ""}</span>
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item
              disabled={build.setups.length < 2}
              onSelect={() => {
                const other = row.is_baseline
                  ? build.setups.find((s) => s.id !== row.id)
                  : build.setups.find((s) => s.is_baseline);
                const both = row.is_baseline ? [row.id, other?.id] : [other?.id, row.id];
                navigate(`/builds/${build.id}/compare?with=${both.filter((id) => id !== undefined).join(",")}`);
              }}
            >
              {say.sideBySide}
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => setAsking("copy")}>{say.copyThisSetupFirst}</DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => setAsking("rename")}>{say.renameFirst}</DropdownMenu.Item>
            <DropdownMenu.Item disabled={row.in_use} onSelect={() => patch.mutate({ in_use: true })}>
              {say.theMachineIsIn}
            </DropdownMenu.Item>
            <DropdownMenu.Item disabled={row.is_baseline} onSelect={() => patch.mutate({ is_baseline: true })}>
              {say.makeItTheBaseline}
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => setAsking("history")}>{say.showHistory}</DropdownMenu.Item>
            <DropdownMenu.Item disabled={row.is_baseline} onSelect={() => setAsking("delete")}>
              {say.deleteThisSetup}
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item onSelect={() => navigate(`/builds/${build.id}/setups/${row.id}/sheet`)}>
              {say.buildSheetToPrint}
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => window.location.assign(`/api/builds/${build.id}/export`)}>
              {say.exportTheBuild}
            </DropdownMenu.Item>
            <DropdownMenu.Item onSelect={() => setAsking("share")}>{say.showItToSomebody}</DropdownMenu.Item>
            {garages.length > 1 && <DropdownMenu.Item onSelect={() => setAsking("move")}>{say.moveTheBuildTo}</DropdownMenu.Item>}
            <DropdownMenu.Item onSelect={() => setAsking("build")}>{say.deleteTheBuildFirst}</DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {asking === "copy" && (
        <NameDialog
          title={say.copyThisSetup}
          start={say.changed(row.name)}
          words={say.makeTheCopy}
          action={copy}
          close={() => setAsking(null)}
        />
      )}
      {asking === "rename" && (
        <NameDialog
          title={say.rename}
          start={row.name}
          words={say.rename}
          action={(name) => patch.mutateAsync({ name })}
          close={() => setAsking(null)}
        />
      )}
      {asking === "history" && <History row={row} close={() => setAsking(null)} />}
      {asking === "delete" && (
        <Dialog open onOpenChange={() => setAsking(null)} title={say.deleteSetupAsked(row.name)} description={say.itGoesToThe}>
          <Trouble error={remove.error} className="mb-2" />
          <button type="button" className="btn hot" onClick={() => remove.mutate()}>
            {say.deleteIt}
          </button>
        </Dialog>
      )}
      {asking === "share" && <ShareLink build={build} close={() => setAsking(null)} />}
      {asking === "move" && <MoveBuild build={build} garages={garages} close={() => setAsking(null)} />}
      {asking === "build" && (
        <Dialog
          open
          onOpenChange={() => setAsking(null)}
          title={say.deleteBuildAsked(build.name)}
          description={say.itGoesToTheBin}
        >
          <button type="button" className="btn hot" onClick={() => removeBuild.mutate()}>
            {say.deleteTheBuild}
          </button>
        </Dialog>
      )}
    </>
  );
}
