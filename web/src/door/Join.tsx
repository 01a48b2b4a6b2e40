/** The door for whoever was sent a link: an account in that garage, made with the link. What it holds never leaves the page but in the request. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Session, unwrap } from "../api/client";
import { keepFor } from "../lib/drafts";
import { chooseGarage } from "../lib/garage";
import { join as say } from "../texts/door";
import { Trouble } from "../ui/Trouble";
import { CodeLine, DoorCard, Line } from "./Door";

/** Before what a link holds: behind a hash, so that no server and no proxy writes it into a log. */
export const JOIN = "#join=";

export const invited = () => (window.location.hash.startsWith(JOIN) ? window.location.hash.slice(JOIN.length) : "");

export function Join({ session, token, away }: { session: Session; token: string; away: () => void }) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const queryClient = useQueryClient();
  const told = useQuery({
    queryKey: ["invitation", token],
    queryFn: () => unwrap(client.POST("/api/session/invitation", { body: { token } })),
    retry: false,
  });
  const leave = () => {
    window.history.replaceState(null, "", "/");
    away();
  };
  const join = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/join", { body: { token, username, password, code } })),
    onSuccess: async () => {
      await queryClient.resetQueries();
      leave();
    },
  });
  const accept = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/accept", { body: { token } })),
    onSuccess: async (joined) => {
      keepFor(session.keeper);
      chooseGarage(joined.id);
      await queryClient.resetQueries();
      leave();
    },
  });
  if (!told.data)
    return (
      <DoorCard title={say.anInvitation} line={told.isPending ? say.lookingAtIt : ""} go={leave}>
        <Trouble error={told.error} className="mb-4" />
        <button type="submit" className="btn w-full">
          {session.signed_in ? say.toTheGarage : say.signInInstead}
        </button>
      </DoorCard>
    );
  const { garage, by, role } = told.data;
  if (session.signed_in)
    return (
      <DoorCard title={garage} line={say.letsYouInBeside(by, role)} go={() => accept.mutate()}>
        <p className="mb-4">{say.youAreSignedIn(session.username)}</p>
        <Trouble error={accept.error} className="mb-3" />
        <button type="submit" className="btn go w-full" disabled={accept.isPending}>
          {say.comeInAs(session.username)}
        </button>
        <button type="button" className="btn mt-2 w-full" onClick={leave}>
          {say.notNow}
        </button>
      </DoorCard>
    );
  return (
    <DoorCard title={garage} line={say.letsYouInChoose(by, role)} go={() => join.mutate()}>
      <Line label={say.yourName} value={username} onChange={setUsername} auto="username" />
      <Line
        label={say.password}
        value={password}
        onChange={setPassword}
        type="password"
        auto="new-password"
        note={say.atLeastEightCharacters}
      />
      {session.needs_code && <CodeLine value={code} onChange={setCode} />}
      <Trouble error={join.error} className="mb-3" />
      <button type="submit" className="btn go w-full" disabled={join.isPending}>
        {say.comeIn}
      </button>
    </DoorCard>
  );
}
