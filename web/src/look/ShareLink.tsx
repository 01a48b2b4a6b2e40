/** Letting somebody look at this build by a link, without an account. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { type Build, client, unwrap } from "../api/client";
import { shareLink as say } from "../texts/look";
import { Dialog } from "../ui/Dialog";
import { OnceLink } from "../ui/OnceLink";
import { Trouble } from "../ui/Trouble";
import { LOOK } from "./link";

const DAYS = [1, 7, 30, 90];

export function ShareLink({ build, close }: { build: Build; close: () => void }) {
  const queryClient = useQueryClient();
  const [days, setDays] = useState(7);
  const [note, setNote] = useState("");
  const path = { build_id: build.id };
  const open = useQuery({
    queryKey: ["look-links", build.id],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}/look-links", { params: { path } })),
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["look-links", build.id] });
  const make = useMutation({
    mutationFn: () => unwrap(client.POST("/api/builds/{build_id}/look-links", { params: { path }, body: { days, note } })),
    onSuccess: () => {
      setNote("");
      return refresh();
    },
  });
  const back = useMutation({
    mutationFn: (id: number) =>
      unwrap(client.DELETE("/api/builds/{build_id}/look-links/{link_id}", { params: { path: { ...path, link_id: id } } })),
    onSuccess: (_data, id) => {
      if (make.data?.id === id) make.reset();
      return refresh();
    },
  });
  return (
    <Dialog open onOpenChange={close} title={say.showToSomebody(build.name)} description={say.whoeverHasTheLink}>
      <div className="flex flex-wrap gap-2">
        <input
          className="input flex-1 basis-40"
          aria-label={say.forWhom}
          placeholder={say.forWhomToTell}
          maxLength={60}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
        <select className="input w-auto" aria-label={say.goodFor} value={days} onChange={(e) => setDays(Number(e.target.value))}>
          {DAYS.map((n) => (
            <option key={n} value={n}>
              {n === 1 ? say.oneDay : say.days(n)}
            </option>
          ))}
        </select>
        <button type="button" className="btn go" disabled={make.isPending} onClick={() => make.mutate()}>
          {say.makeTheLink}
        </button>
      </div>
      <Trouble error={make.error ?? back.error ?? open.error} className="mt-2" />
      {make.data && <OnceLink link={`${window.location.origin}/${LOOK}${make.data.token}`} words={say.shownThisOnceSend} />}
      <ul className="mt-2">
        {open.data?.map((one) => (
          <li key={one.id} className="flex items-center gap-2 border-b border-line py-1">
            <span className="min-w-0 flex-1 break-words">
              {one.note || say.aLink}{" "}
              <span className="text-small text-ink3">{say.madeGoodUntil(one.by, one.created, one.expires)}</span>
            </span>
            <button
              type="button"
              className="text-small underline underline-offset-2"
              aria-label={say.takeBackTheLink(one.note, one.created)}
              onClick={() => back.mutate(one.id)}
            >
              {say.takeBack}
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
