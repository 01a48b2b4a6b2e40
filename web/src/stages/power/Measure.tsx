/** A small guided test: two meter readings give a pack's resistance, a timed discharge its capacity. */
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { client, type Measured, type Pack, unwrap } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { measure as say } from "../../texts/power";
import { fromShown, milliohms, parseNumber, plainNumber, toShown } from "../../texts/units";
import { Segmented } from "../../ui/Field";
import { Trouble } from "../../ui/Trouble";

type What = "resistance" | "capacity";
const STEPS: Record<What, string[]> = say.stepsFor;

export function Measure({
  pack,
  name,
  adopt,
}: {
  pack: Pack;
  name: string;
  adopt: (field: "resistance_ohm" | "capacity_ah", found: Measured) => void;
}) {
  const { units } = useSettings();
  const [what, setWhat] = useState<What>("resistance");
  const [text, setText] = useState<Record<string, string>>({
    temp: plainNumber(toShown(25, units.temp), 0),
    end: "0",
    start: "100",
  });
  const typed = (key: string) => parseNumber(text[key] ?? "");
  const test = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/measure", {
          body: {
            pack,
            what,
            amps_a: typed("amps") ?? 0,
            temp_c: fromShown(typed("temp") ?? 25, units.temp),
            rest_v: typed("rest") ?? null,
            load_v: typed("load") ?? null,
            seconds_s: (typed("minutes") ?? 0) * 60,
            start_charge: (typed("start") ?? 100) / 100,
            end_charge: (typed("end") ?? 0) / 100,
          },
        }),
      ),
  });
  const fields: [string, string, string][] =
    what === "resistance"
      ? [
          ["rest", say.voltsAtRest, "V"],
          ["load", say.voltsUnderTheLoad, "V"],
          ["amps", say.ampsOfTheLoad, "A"],
          ["temp", say.thePacksTemperature, units.temp],
        ]
      : [
          ["amps", say.steadyAmps, "A"],
          ["minutes", say.minutes, "min"],
          ["start", say.chargeAtTheStart, "%"],
          ["end", say.chargeLeft, "%"],
          ["temp", say.thePacksTemperature, units.temp],
        ];
  const missing = fields.some(([key]) => typed(key) === undefined);
  const found = test.data;
  const shown = found && (what === "resistance" ? milliohms(found.value) : say.ah(found.value));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-6 max-desk:grid-cols-1">
      <div>
        <Segmented
          label={say.whatToMeasure}
          value={what}
          options={[
            ["resistance", say.resistance],
            ["capacity", say.capacity],
          ]}
          onChange={(v) => {
            setWhat(v as What);
            test.reset();
          }}
        />
        <ol className="mt-2 grid list-decimal gap-1 pl-5 text-ink2">
          {STEPS[what].map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      </div>
      <form
        className="grid content-start gap-3"
        onSubmit={(e: FormEvent) => {
          e.preventDefault();
          test.mutate();
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          {fields.map(([key, label, unit]) => (
            <Reading
              key={key}
              label={label}
              unit={unit}
              value={text[key] ?? ""}
              onChange={(value) => {
                setText({ ...text, [key]: value });
                test.reset();
              }}
            />
          ))}
        </div>
        <div>
          <button type="submit" className="btn" disabled={missing || test.isPending}>
            {say.workItOut}
          </button>
        </div>
        <Trouble error={test.error} />
        {found && (
          <div className="rounded-lg border-2 border-leafdeep bg-leaftint p-2" role="status">
            <p>{say.packGoodToAbout(name, shown, what === "resistance", found.spread)}</p>
            {found.doubt && <p className="text-ambertext">{found.doubt}</p>}
            <button
              type="button"
              className="btn go mt-1"
              onClick={() => adopt(what === "resistance" ? "resistance_ohm" : "capacity_ah", found)}
            >
              {say.useItAsMeasured}
            </button>
          </div>
        )}
      </form>
    </div>
  );
}

function Reading({
  label,
  unit,
  value,
  onChange,
}: {
  label: string;
  unit: string;
  value: string;
  onChange: (v: string) => void;
}) {
  const id = useId();
  const bad = value.trim() !== "" && parseNumber(value) === undefined;
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-small font-bold text-ink2">
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          className="input pr-12"
          inputMode="decimal"
          autoComplete="off"
          value={value}
          aria-invalid={bad || undefined}
          onChange={(e) => onChange(e.target.value)}
        />
        <span className="pointer-events-none absolute top-1/2 right-3 -translate-y-1/2 text-small text-ink3">{unit}</span>
      </div>
      {bad && (
        <p role="alert" className="mt-1 text-small text-hottext">
          {say.thisMustBeA}
        </p>
      )}
    </div>
  );
}
