/** First visit makes the account; later ones sign in. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, type Session, unwrap } from "../api/client";
import { door as say } from "../texts/door";
import { Gecko } from "../ui/Glyph";
import { Trouble } from "../ui/Trouble";

export function Line({
  label,
  value,
  onChange,
  type = "text",
  auto,
  note,
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  type?: string;
  auto: string;
  note?: string;
}) {
  const id = `door-${label.replace(/\W/g, "").toLowerCase()}`;
  return (
    <div className="mb-3">
      <label htmlFor={id} className="mb-1 block text-small font-bold text-ink2">
        {label}
      </label>
      <input id={id} className="input" type={type} autoComplete={auto} value={value} onChange={(e) => onChange(e.target.value)} />
      {note && <p className="mt-1 text-small text-ink3">{note}</p>}
    </div>
  );
}

/** The card at every door: what is behind it, and what is asked. */
export function DoorCard({ title, line, go, children }: { title: string; line: string; go: () => void; children: ReactNode }) {
  return (
    <main className="grid min-h-full place-content-center p-4">
      <form
        className="card w-[min(420px,calc(100vw-32px))] p-6"
        onSubmit={(event) => {
          event.preventDefault();
          go();
        }}
      >
        <p className="mb-4 flex items-center gap-2 font-head text-[18px] font-bold">
          <Gecko /> {say.pluckyGecko}
        </p>
        <h1 className="mb-1 text-[26px]">{title}</h1>
        <p className="mb-4 text-ink2">{line}</p>
        {children}
      </form>
    </main>
  );
}

/** The code of the local network, where the server asks for one. */
export function CodeLine({ value, onChange }: { value: string; onChange: (v: string) => void }) {
  return <Line label={say.code} value={value} onChange={onChange} auto="one-time-code" note={say.itIsPrintedWhere} />;
}

export function Door({ session }: { session: Session }) {
  const first = session.first_visit;
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [garage, setGarage] = useState("");
  const [code, setCode] = useState("");
  const queryClient = useQueryClient();
  const enter = useMutation({
    mutationFn: () =>
      first
        ? unwrap(client.POST("/api/session/sign-up", { body: { username, password, garage, code } }))
        : unwrap(client.POST("/api/session/sign-in", { body: { username, password, code } })),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  return (
    <DoorCard
      title={first ? say.openYourGarage : say.signIn}
      line={first ? say.thisMakesTheAccount : say.yourBuildsAreWhere}
      go={() => enter.mutate()}
    >
      <Line label={say.yourName} value={username} onChange={setUsername} auto="username" />
      <Line
        label={say.password}
        value={password}
        onChange={setPassword}
        type="password"
        auto={first ? "new-password" : "current-password"}
        {...(first ? { note: say.atLeastEightCharacters } : {})}
      />
      {first && <Line label={say.nameOfTheGarage} value={garage} onChange={setGarage} auto="off" note={say.suchAsTheStreet} />}
      {session.needs_code && <CodeLine value={code} onChange={setCode} />}
      <Trouble error={enter.error} className="mb-3" />
      <button type="submit" className="btn go w-full" disabled={enter.isPending}>
        {first ? say.openTheGarage : say.signIn}
      </button>
    </DoorCard>
  );
}
