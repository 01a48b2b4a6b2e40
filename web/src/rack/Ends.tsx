/** Plugs, terminals and bare ends of a part, and what it is held by: what the wiring joins, and what a substitute must fit. */
import { choices, MOST } from "../lib/choices";
import { type Doc, read } from "../lib/pointer";
import { Grid } from "../stages/Heading";
import { ends as say } from "../texts/rack";
import { NumberField, SelectField, TextField, useForm } from "../ui/Field";

export function Ends({ at }: { at: string }) {
  const { doc, edit } = useForm();
  const ends = (read(doc, `${at}/ends`) as Doc[] | null | undefined) ?? [];
  const set = (next: Doc[]) => edit(`${at}/ends`, next);
  return (
    <details className="mt-3" open={ends.length > 0}>
      <summary className="font-bold">{say.title}</summary>
      <div className="mt-2 grid gap-3">
        <Grid min={220}>
          <TextField label={say.holes} pointer={`${at}/holes`} />
        </Grid>
        {ends.map((end, i) => (
          <fieldset key={i} className="border-t border-line pt-2">
            <legend className="sr-only">{say.end(i)}</legend>
            <Grid min={130}>
              <SelectField label={say.joins} pointer={`${at}/ends/${i}/joins`} options={choices("End.joins")} />
              <TextField label={say.family} pointer={`${at}/ends/${i}/family`} />
              <NumberField label={say.contacts} pointer={`${at}/ends/${i}/contacts`} plain whole />
              <SelectField
                label={say.gender}
                pointer={`${at}/ends/${i}/gender`}
                options={choices("End.gender", { "": say.notLooked })}
              />
              <TextField label={say.label} pointer={`${at}/ends/${i}/label`} />
              <TextField label={say.colours} pointer={`${at}/ends/${i}/colours`} />
            </Grid>
            <button
              type="button"
              className="btn quiet mt-1"
              aria-label={say.takeEndOut(i, String(end.joins ?? ""))}
              onClick={() => set(ends.filter((_end, k) => k !== i))}
            >
              {say.takeOut}
            </button>
          </fieldset>
        ))}
        <button
          type="button"
          className="btn justify-self-start"
          disabled={ends.length >= MOST["Pack.ends"]}
          onClick={() => set([...ends, { joins: "other" }])}
        >
          {say.add}
        </button>
      </div>
    </details>
  );
}
