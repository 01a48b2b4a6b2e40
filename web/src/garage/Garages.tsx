/** The garages one belongs to: going from one to another, making one, taking one along as a file, leaving it. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { client, Failed, type Garage, unwrap } from "../api/client";
import { chooseGarage, useGarages } from "../lib/garage";
import { garages as say } from "../texts/garage";
import { Dialog } from "../ui/Dialog";
import { Trouble } from "../ui/Trouble";

/** Makes a garage and goes into it. */
export function NewGarage() {
  const queryClient = useQueryClient();
  const [name, setName] = useState("");
  const make = useMutation({
    mutationFn: () => unwrap(client.POST("/api/garages", { body: { name } })),
    onSuccess: async (made) => {
      setName("");
      await queryClient.invalidateQueries({ queryKey: ["garages"] });
      chooseGarage(made.id);
    },
  });
  return (
    <form
      className="mt-2"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        make.mutate();
      }}
    >
      <div className="flex gap-2">
        <input
          className="input flex-1"
          aria-label={say.nameOfAnotherGarage}
          placeholder={say.anotherGarageSuchAs}
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button type="submit" className="btn" disabled={!name.trim() || make.isPending}>
          {say.makeIt}
        </button>
      </div>
      <Trouble error={make.error} />
    </form>
  );
}

function Leaving({ garage, close }: { garage: Garage; close: () => void }) {
  const queryClient = useQueryClient();
  const [confirm, setConfirm] = useState("");
  const go = useMutation({
    mutationFn: () => unwrap(client.POST("/api/session/leave-garage", { body: { garage: garage.id, confirm } })),
    onSuccess: async () => {
      await queryClient.invalidateQueries();
      close();
    },
  });
  const alone = go.error instanceof Failed && go.error.error.code === "last_one";
  return (
    <Dialog open onOpenChange={close} title={say.leaveAsked(garage.name)} description={say.whatBecomesOfItsMachines}>
      <p className="mb-3">{say.takeAllOfIt(`/api/garages/${garage.id}/export`)}</p>
      <form
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          go.mutate();
        }}
      >
        {alone && (
          <input
            className="input"
            aria-label={say.nameOfTheGarage}
            placeholder={garage.name}
            value={confirm}
            onChange={(e) => setConfirm(e.target.value)}
          />
        )}
        <Trouble error={go.error} />
        <div className="mt-3 flex justify-end gap-2">
          <button type="button" className="btn" onClick={close}>
            {say.stay}
          </button>
          <button type="submit" className="btn hot" disabled={go.isPending || (alone && confirm.trim() !== garage.name)}>
            {alone ? say.deleteItAndLeave : say.leaveIt}
          </button>
        </div>
      </form>
    </Dialog>
  );
}

export function Garages({ here }: { here: number }) {
  const garages = useGarages() ?? [];
  const [leaving, setLeaving] = useState<Garage | null>(null);
  return (
    <details className="mt-5">
      <summary className="font-head text-[15px] font-bold">{say.garages}</summary>
      <ul className="mt-2">
        {garages.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center gap-x-3 border-b border-line py-1.5 text-small">
            <b className="min-w-0 basis-full break-words text-base">
              {one.name} {one.id === here && <span className="font-normal text-ink3">{say.here}</span>}
            </b>
            {one.id !== here && (
              <button
                type="button"
                className="underline underline-offset-2"
                aria-label={say.goTo(one.name)}
                onClick={() => chooseGarage(one.id)}
              >
                {say.goThere}
              </button>
            )}
            <a
              className="underline underline-offset-2"
              aria-label={say.saveAllOfAs(one.name)}
              href={`/api/garages/${one.id}/export`}
              download
            >
              {say.saveAsFile}
            </a>
            <button
              type="button"
              className="underline underline-offset-2"
              aria-label={say.leaveNamed(one.name)}
              onClick={() => setLeaving(one)}
            >
              {say.leave}
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-small text-ink2">{say.theFileHoldsEvery}</p>
      <NewGarage />
      {leaving && <Leaving garage={leaving} close={() => setLeaving(null)} />}
    </details>
  );
}
