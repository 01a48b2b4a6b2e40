/** One's own account: the password, and the browsers one is signed in with. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, Failed, unwrap } from "../api/client";
import { Dialog } from "../ui/Dialog";
import { Trouble } from "../ui/Trouble";

const when = (moment: string) => new Date(moment).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });

/** What a browser calls itself, in a word or two. */
export function browserWords(agent: string): string {
  const device = /iPhone|Android|Mobile/.test(agent) ? "phone" : /iPad|Tablet/.test(agent) ? "tablet" : "computer";
  const system = (agent.match(/Android/) ?? agent.match(/Windows|Mac OS|Linux|iPhone|iPad/))?.[0];
  return system && !["iPhone", "iPad"].includes(system) ? `${device}, ${system}` : device;
}

function NewPassword() {
  const queryClient = useQueryClient();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const change = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/password", { body: { old, new: fresh } })),
    onSuccess: () => {
      setOld("");
      setFresh("");
      return queryClient.invalidateQueries({ queryKey: ["devices"] });
    },
  });
  const field = change.error instanceof Failed ? change.error.error.field : undefined;
  return (
    <form
      className="mt-2 grid gap-2"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        change.mutate();
      }}
    >
      <div className="grid grid-cols-2 gap-2">
        {(
          [
            ["Password now", "current-password", old, setOld, "/old"],
            ["New password", "new-password", fresh, setFresh, "/new"],
          ] as const
        ).map(([label, complete, value, set, path]) => (
          <input
            key={path}
            className="input"
            type="password"
            aria-label={label}
            placeholder={label}
            autoComplete={complete}
            aria-invalid={field === path}
            value={value}
            onChange={(e) => set(e.target.value)}
          />
        ))}
      </div>
      <Trouble error={change.error} className="" />
      {change.isSuccess && (
        <p role="status" className="font-semibold text-leaftext">
          Changed. Every other browser is signed out.
        </p>
      )}
      <button type="submit" className="btn w-fit" disabled={!old || !fresh || change.isPending}>
        Change the password
      </button>
    </form>
  );
}

function Browsers() {
  const queryClient = useQueryClient();
  const devices = useQuery({ queryKey: ["devices"], queryFn: () => unwrap(client.GET("/api/session/devices")) });
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["devices"] });
  const out = useMutation({
    mutationFn: (id: number) =>
      unwrap(client.DELETE("/api/session/devices/{device_id}", { params: { path: { device_id: id } } })),
    onSuccess: refresh,
  });
  const everywhere = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/sign-out-elsewhere")),
    onSuccess: refresh,
  });
  const list = devices.data ?? [];
  return (
    <>
      <h3 className="mt-3 text-small font-bold text-ink2">Signed in with</h3>
      <ul>
        {list.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-3 border-b border-line py-1.5">
            <span className="min-w-0 flex-1">
              {browserWords(one.browser)} {one.here && <b>(this one)</b>}
              <span className="block text-small text-ink3">
                {one.address}, since {when(one.created)}, last used {when(one.seen)}
              </span>
            </span>
            {!one.here && (
              <button
                type="button"
                className="text-small underline underline-offset-2"
                aria-label={`Sign the ${browserWords(one.browser)} of ${one.address} out`}
                onClick={() => out.mutate(one.id)}
              >
                Sign out
              </button>
            )}
          </li>
        ))}
      </ul>
      <Trouble error={out.error ?? everywhere.error} />
      {list.length > 1 && (
        <button type="button" className="btn mt-2" disabled={everywhere.isPending} onClick={() => everywhere.mutate()}>
          Sign out everywhere else
        </button>
      )}
    </>
  );
}

function Farewell() {
  const [asking, setAsking] = useState(false);
  const [password, setPassword] = useState("");
  const garages = useQuery({ queryKey: ["garages"], queryFn: () => unwrap(client.GET("/api/garages")) });
  const go = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/delete-account", { body: { password } })),
    onSuccess: () => window.location.assign("/"),
  });
  return (
    <>
      <button type="button" className="mt-3 text-small underline underline-offset-2" onClick={() => setAsking(true)}>
        Delete this account…
      </button>
      {asking && (
        <Dialog
          open
          onOpenChange={() => setAsking(false)}
          title="Delete your account?"
          description="It cannot be brought back. A garage nobody else belongs to goes with it, with all its builds; one that others belong to stays theirs."
        >
          <p className="mb-1">Take along what you may want later:</p>
          <ul className="mb-3 max-h-40 overflow-y-auto">
            {garages.data?.map((one) => (
              <li key={one.id}>
                <a className="underline underline-offset-2" href={`/api/garages/${one.id}/export`} download>
                  {one.name}, all of it as one file
                </a>
              </li>
            ))}
          </ul>
          <form
            onSubmit={(event: FormEvent) => {
              event.preventDefault();
              go.mutate();
            }}
          >
            <input
              className="input"
              type="password"
              aria-label="Your password"
              placeholder="Your password"
              autoComplete="current-password"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
            <Trouble error={go.error} />
            <div className="mt-3 flex justify-end gap-2">
              <button type="button" className="btn" onClick={() => setAsking(false)}>
                Keep it
              </button>
              <button type="submit" className="btn hot" disabled={!password || go.isPending}>
                Delete it for good
              </button>
            </div>
          </form>
        </Dialog>
      )}
    </>
  );
}

export function Account() {
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-5" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="font-head text-[15px] font-bold">Your account</summary>
      {open && (
        <>
          <NewPassword />
          <Browsers />
          <Farewell />
        </>
      )}
    </details>
  );
}
