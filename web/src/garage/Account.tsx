/** One's own account: the password, and the browsers one is signed in with. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, Failed, unwrap } from "../api/client";
import { account as say } from "../texts/garage";
import { Dialog } from "../ui/Dialog";
import { Trouble } from "../ui/Trouble";

/** What a browser calls itself, in a word or two. */
export function browserWords(agent: string): string {
  const device = /iPhone|Android|Mobile/.test(agent) ? say.phone : /iPad|Tablet/.test(agent) ? say.tablet : say.computer;
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
            [say.passwordNow, "current-password", old, setOld, "/old"],
            [say.newPassword, "new-password", fresh, setFresh, "/new"],
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
          {say.changedEveryOtherBrowser}
        </p>
      )}
      <button type="submit" className="btn w-fit" disabled={!old || !fresh || change.isPending}>
        {say.changeThePassword}
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
      <h3 className="mt-3 text-small font-bold text-ink2">{say.signedInWith}</h3>
      <ul>
        {list.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-3 border-b border-line py-1.5">
            <span className="min-w-0 flex-1">
              {browserWords(one.browser)} {one.here && <b>{say.thisOne}</b>}
              <span className="block text-small text-ink3">{say.sinceLastUsed(one.address, one.created, one.seen)}</span>
            </span>
            {!one.here && (
              <button
                type="button"
                className="text-small underline underline-offset-2"
                aria-label={say.signTheOfOut(browserWords(one.browser), one.address)}
                onClick={() => out.mutate(one.id)}
              >
                {say.signOut}
              </button>
            )}
          </li>
        ))}
      </ul>
      <Trouble error={out.error ?? everywhere.error} />
      {list.length > 1 && (
        <button type="button" className="btn mt-2" disabled={everywhere.isPending} onClick={() => everywhere.mutate()}>
          {say.signOutEverywhereElse}
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
        {say.deleteThisAccount}
      </button>
      {asking && (
        <Dialog open onOpenChange={() => setAsking(false)} title={say.deleteYourAccount} description={say.itCannotBeBrought}>
          <p className="mb-1">{say.takeAlongWhatYou}</p>
          <ul className="mb-3 max-h-40 overflow-y-auto">
            {garages.data?.map((one) => (
              <li key={one.id}>
                <a className="underline underline-offset-2" href={`/api/garages/${one.id}/export`} download>
                  {say.allOfItAs(one.name)}
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
              aria-label={say.yourPassword}
              placeholder={say.yourPassword}
              autoComplete="current-password"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
            <Trouble error={go.error} />
            <div className="mt-3 flex justify-end gap-2">
              <button type="button" className="btn" onClick={() => setAsking(false)}>
                {say.keepIt}
              </button>
              <button type="submit" className="btn hot" disabled={!password || go.isPending}>
                {say.deleteItForGood}
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
      <summary className="font-head text-[15px] font-bold">{say.yourAccount}</summary>
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
