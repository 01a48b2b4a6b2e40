/** Who belongs to the garage, and the way out of it. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, unwrap } from "../api/client";
import { household as say } from "../texts/garage";
import { Trouble } from "../ui/Trouble";
import { Invitations } from "./Invitations";
import { ROLES, type Role } from "./roles";
import { SecurityLog } from "./SecurityLog";

/** What to call when it burns or somebody is hurt: it stands on every page of trouble. */
function EmergencyNumber({ garageId }: { garageId: number }) {
  const queryClient = useQueryClient();
  const garages = useQuery({ queryKey: ["garages"], queryFn: () => unwrap(client.GET("/api/garages")) });
  const known = garages.data?.find((one) => one.id === garageId)?.emergency_number ?? "";
  const [typed, setTyped] = useState<string>();
  const save = useMutation({
    mutationFn: (number: string) =>
      unwrap(
        client.PATCH("/api/garages/{garage_id}", {
          params: { path: { garage_id: garageId } },
          body: { emergency_number: number },
        }),
      ),
    onSuccess: () => {
      setTyped(undefined);
      return queryClient.invalidateQueries({ queryKey: ["garages"] });
    },
  });
  return (
    <form
      className="mt-2 flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(typed ?? known);
      }}
    >
      <label className="flex-1">
        <span className="block text-small font-bold text-ink2">{say.emergencyNumberShownUnder}</span>
        <input
          className="input"
          inputMode="tel"
          autoComplete="off"
          placeholder={say.suchAs112Or}
          value={typed ?? known}
          onChange={(e) => setTyped(e.target.value)}
        />
        <Trouble error={save.error} />
      </label>
      <button type="submit" className="btn" disabled={save.isPending || typed === undefined || typed === known}>
        {say.keep}
      </button>
    </form>
  );
}

export function Household({ garageId }: { garageId: number }) {
  const queryClient = useQueryClient();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const session = useQuery({ queryKey: ["session"], queryFn: () => unwrap(client.GET("/api/session")) });
  const members = useQuery({
    queryKey: ["members", garageId],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}/members", { params: { path: { garage_id: garageId } } })),
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["members", garageId] });
  const add = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/garages/{garage_id}/members", {
          params: { path: { garage_id: garageId } },
          body: { username: name, password, role: "builder" },
        }),
      ),
    onSuccess: () => {
      setName("");
      setPassword("");
      return refresh();
    },
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      unwrap(
        client.DELETE("/api/garages/{garage_id}/members/{member_id}", {
          params: { path: { garage_id: garageId, member_id: id } },
        }),
      ),
    onSuccess: refresh,
  });
  const changeRole = useMutation({
    mutationFn: ({ id, role }: { id: number; role: Role }) =>
      unwrap(
        client.PATCH("/api/garages/{garage_id}/members/{member_id}", {
          params: { path: { garage_id: garageId, member_id: id } },
          body: { role },
        }),
      ),
    onSuccess: refresh,
  });
  const leave = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/sign-out")),
    onSuccess: () => queryClient.resetQueries(),
  });
  const list = members.data ?? [];
  const owner = list.some((m) => m.you && m.role === "owner");
  const trouble = add.error ?? remove.error ?? changeRole.error ?? leave.error;
  return (
    <details className="mt-5" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="font-head text-[15px] font-bold">{say.household}</summary>
      <EmergencyNumber garageId={garageId} />
      <ul className="mt-2">
        {list.map((m) => (
          <li key={m.id} className="flex min-h-9 items-center gap-2 border-b border-line py-1">
            <b className="min-w-0 flex-1 truncate">
              {m.username} {m.you && <span className="font-normal text-ink3">{say.you}</span>}
            </b>
            {owner ? (
              <select
                className="input !min-h-9 w-auto"
                aria-label={say.whatMayDo(m.username)}
                value={m.role}
                onChange={(e) => changeRole.mutate({ id: m.id, role: e.target.value as Role })}
              >
                {ROLES.map(([role, words]) => (
                  <option key={role} value={role} title={words}>
                    {role}
                  </option>
                ))}
              </select>
            ) : (
              <span className="text-ink2">{m.role}</span>
            )}
            {owner && !m.you && (
              <button
                type="button"
                className="btn quiet !min-h-7 !px-2"
                aria-label={say.takeOut(m.username)}
                onClick={() => remove.mutate(m.id)}
              >
                ×
              </button>
            )}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-small text-ink2">{ROLES.map(([role, words]) => `${role}: ${words}`).join("; ")}.</p>
      {owner && (
        <form
          className="mt-2 grid gap-2"
          onSubmit={(event: FormEvent) => {
            event.preventDefault();
            add.mutate();
          }}
        >
          <p className="text-small text-ink2">{say.somebodyElseWorksOn}</p>
          <div className="grid grid-cols-2 gap-2">
            <input
              className="input"
              aria-label={say.nameToSignIn}
              placeholder={say.name}
              autoComplete="off"
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            <input
              className="input"
              aria-label={say.firstPassword}
              placeholder={say.password}
              type="password"
              autoComplete="new-password"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          </div>
          <button type="submit" className="btn" disabled={!name.trim() || !password || add.isPending}>
            {say.letThemIn}
          </button>
        </form>
      )}
      <Trouble error={trouble} />
      {session.data?.demo ? (
        <p className="mt-2 text-small text-ink3">{say.thisIsTheDemo}</p>
      ) : (
        <button type="button" className="btn mt-3" disabled={leave.isPending} onClick={() => leave.mutate()}>
          {say.signOut}
        </button>
      )}
      {open && owner && <Invitations garageId={garageId} />}
      {open && owner && <SecurityLog garageId={garageId} />}
    </details>
  );
}
