/** Letting somebody in by a link. What the link holds is shown once, when it is made. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../api/client";
import { JOIN } from "../door/Join";
import { invitations as say } from "../texts/garage";
import { OnceLink } from "../ui/OnceLink";
import { Trouble } from "../ui/Trouble";
import { ROLES, type Role } from "./roles";

export function Invitations({ garageId }: { garageId: number }) {
  const queryClient = useQueryClient();
  const [role, setRole] = useState<Role>("builder");
  const [days, setDays] = useState(7);
  const path = { garage_id: garageId };
  const open = useQuery({
    queryKey: ["invitations", garageId],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}/invitations", { params: { path } })),
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["invitations", garageId] });
  const invite = useMutation({
    mutationFn: () => unwrap(client.POST("/api/garages/{garage_id}/invitations", { params: { path }, body: { role, days } })),
    onSuccess: refresh,
  });
  const back = useMutation({
    mutationFn: (id: number) =>
      unwrap(
        client.DELETE("/api/garages/{garage_id}/invitations/{invitation_id}", {
          params: { path: { ...path, invitation_id: id } },
        }),
      ),
    onSuccess: (_data, id) => {
      if (invite.data?.id === id) invite.reset();
      return refresh();
    },
  });
  const link = invite.data ? `${window.location.origin}/${JOIN}${invite.data.token}` : "";
  return (
    <>
      <h3 className="mt-3 text-small font-bold text-ink2">{say.inviteByALink}</h3>
      <div className="flex flex-wrap items-center gap-2">
        <select
          className="input w-auto flex-1"
          aria-label={say.asWhat}
          value={role}
          onChange={(e) => setRole(e.target.value as Role)}
        >
          {ROLES.map(([name, words]) => (
            <option key={name} value={name}>
              {name}: {words}
            </option>
          ))}
        </select>
        <select className="input w-auto" aria-label={say.goodFor} value={days} onChange={(e) => setDays(Number(e.target.value))}>
          {[1, 7, 30].map((n) => (
            <option key={n} value={n}>
              {n === 1 ? say.oneDay : say.days(n)}
            </option>
          ))}
        </select>
        <button type="button" className="btn" disabled={invite.isPending} onClick={() => invite.mutate()}>
          {say.makeTheLink}
        </button>
      </div>
      <Trouble error={invite.error ?? back.error ?? open.error} />
      {link && <OnceLink link={link} words={say.shownThisOnceWhoever} />}
      <ul>
        {open.data?.map((one) => (
          <li key={one.id} className="flex items-center gap-2 border-b border-line py-1">
            <span className="min-w-0 flex-1">
              {one.role} <span className="text-small text-ink3">{say.madeGoodUntil(one.created, one.expires)}</span>
            </span>
            <button
              type="button"
              className="text-small underline underline-offset-2"
              aria-label={say.takeTheInvitationOf(one.role, one.created)}
              onClick={() => back.mutate(one.id)}
            >
              {say.takeBack}
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
