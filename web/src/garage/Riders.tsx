/** Who rides in this garage. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Rider, unwrap } from "../api/client";
import { useBinned } from "../bin/Undo";
import { useSettings } from "../lib/settings";
import { riders as say } from "../texts/garage";
import { parseNumber, withUnit } from "../texts/units";
import { Alert, Trouble } from "../ui/Trouble";

export function Riders({ garageId, riders }: { garageId: number; riders: Rider[] }) {
  const { units } = useSettings();
  const [name, setName] = useState("");
  const [age, setAge] = useState("");
  const binned = useBinned();
  const queryClient = useQueryClient();
  const refresh = () => queryClient.invalidateQueries({ queryKey: ["garage"] });
  const years = parseNumber(age);
  const bad = age.trim() !== "" && (years === undefined || years < 1 || years > 110);
  const add = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/garages/{garage_id}/riders", {
          params: { path: { garage_id: garageId } },
          body: { document: { name, age_years: years ?? null } },
        }),
      ),
    onSuccess: () => {
      setName("");
      setAge("");
      refresh();
    },
  });
  const remove = useMutation({
    mutationFn: ({ id }: Rider) =>
      unwrap(
        client.DELETE("/api/garages/{garage_id}/riders/{rider_id}", { params: { path: { garage_id: garageId, rider_id: id } } }),
      ),
    onSuccess: (_data, { id, name }) => {
      binned({ garage: garageId, kind: "rider", id, name });
      return refresh();
    },
  });
  return (
    <section aria-label={say.riders} className="mt-5">
      <h2 className="mb-2 text-[21px]">{say.riders}</h2>
      <ul>
        {riders.map((r) => {
          const mass = (r.document.mass_kg as { value?: number } | null)?.value;
          return (
            <li key={r.id} className="flex items-center gap-2 border-b border-line py-1">
              <b className="flex-1">{r.name}</b>
              <span className="text-ink2">
                {r.document.age_years ? say.years(r.document.age_years) : ""} {mass ? `· ${withUnit(mass, "mass", units)}` : ""}
              </span>
              <button
                type="button"
                className="btn quiet !min-h-7 !px-2"
                aria-label={say.remove(r.name)}
                onClick={() => remove.mutate(r)}
              >
                ×
              </button>
            </li>
          );
        })}
      </ul>
      <form
        className="mt-2 grid grid-cols-[1fr_80px_auto] gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <input
          className="input"
          placeholder={say.name}
          aria-label={say.ridersName}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <input
          className="input"
          placeholder={say.age}
          aria-label={say.ridersAge}
          aria-invalid={bad || undefined}
          inputMode="numeric"
          value={age}
          onChange={(e) => setAge(e.target.value)}
        />
        <button type="submit" className="btn" disabled={!name.trim() || bad || add.isPending}>
          {say.add}
        </button>
      </form>
      {bad && <Alert>{say.enterTheAgeIn}</Alert>}
      <Trouble error={add.error} />
    </section>
  );
}
