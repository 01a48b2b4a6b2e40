/** The rack of parts on hand, the riders, the house rules. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Garage, type RackPart, type Rider, type HouseRules as Rules, unwrap } from "../api/client";
import { useBinned } from "../bin/Undo";
import { useSettings } from "../lib/settings";
import { rack as say } from "../texts/garage";
import { decimals } from "../texts/locale";
import { parseNumber, withUnit } from "../texts/units";
import { Dialog } from "../ui/Dialog";
import { PartOptions } from "../ui/PickPart";
import { Alert, Trouble } from "../ui/Trouble";

const KINDS: [string, string][] = [
  ["packs", say.packs],
  ["fuses", say.fuses],
  ["wires", say.wire],
  ["plugs", say.plugs],
  ["controllers", say.controllers],
  ["chargers", say.chargers],
  ["guards", say.guards],
  ["motors", say.motors],
  ["gearboxes", say.gearboxes],
  ["wheels", say.wheels],
  ["plug colours", say.plugColours],
];

function useRefresh() {
  const queryClient = useQueryClient();
  return () => queryClient.invalidateQueries({ queryKey: ["garage"] });
}

function AddPart({ garageId, close }: { garageId: number; close: () => void }) {
  const catalogue = useQuery({
    queryKey: ["parts"],
    queryFn: () => unwrap(client.GET("/api/parts")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [kind, setKind] = useState("packs");
  const [id, setId] = useState("");
  const [count, setCount] = useState("1");
  const refresh = useRefresh();
  const entries = catalogue.data?.[kind] ?? [];
  const picked = entries.find((e) => e.id === id) ?? entries[0];
  const quantity = parseNumber(count);
  const add = useMutation({
    mutationFn: () => {
      if (!picked) throw new Error("nothing picked");
      return unwrap(
        client.POST("/api/garages/{garage_id}/rack", {
          params: { path: { garage_id: garageId } },
          body: { kind, label: picked.label, document: picked.part, quantity: quantity ?? 1 },
        }),
      );
    },
    onSuccess: () => {
      refresh();
      close();
    },
  });
  const bad = quantity === undefined || !Number.isInteger(quantity) || quantity < 1;
  return (
    <Dialog open onOpenChange={close} title={say.addAPart} description={say.whatLiesOnThe}>
      <div className="grid gap-3">
        <label className="block">
          <span className="mb-1 block text-small font-bold text-ink2">{say.kind}</span>
          <select className="input" value={kind} onChange={(e) => setKind(e.target.value)}>
            {KINDS.filter(([k]) => catalogue.data?.[k]).map(([k, words]) => (
              <option key={k} value={k}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label className="block">
          <span className="mb-1 block text-small font-bold text-ink2">{say.part}</span>
          <select className="input" value={picked?.id ?? ""} onChange={(e) => setId(e.target.value)}>
            <PartOptions parts={entries} />
          </select>
        </label>
        <label className="block">
          <span className="mb-1 block text-small font-bold text-ink2">{say.howMany}</span>
          <input
            className="input"
            inputMode="numeric"
            value={count}
            onChange={(e) => setCount(e.target.value)}
            aria-invalid={bad || undefined}
          />
        </label>
        {bad && <Alert className="">{say.enterAWholeNumber}</Alert>}
        <Trouble error={add.error} className="" />
        <button type="button" className="btn go" disabled={add.isPending || bad} onClick={() => add.mutate()}>
          {say.putItOnThe}
        </button>
      </div>
    </Dialog>
  );
}

function PackIcon() {
  return (
    <svg width="20" height="26" viewBox="0 0 20 26" aria-hidden="true">
      <rect x="6" y="0" width="8" height="4" rx="1.5" fill="var(--ink)" />
      <rect x="1.5" y="3.500" width="17" height="21" rx="4" fill="var(--leaf-tint)" stroke="var(--ink)" strokeWidth="1.8" />
      <rect x="5" y="8" width="10" height="13" rx="1.5" fill="var(--leaf)" />
    </svg>
  );
}

export function Rack({ garageId, parts }: { garageId: number; parts: RackPart[] }) {
  const [adding, setAdding] = useState(false);
  const binned = useBinned();
  const refresh = useRefresh();
  const change = useMutation({
    mutationFn: ({ part, quantity }: { part: RackPart; quantity: number }) => {
      const path = { garage_id: garageId, part_id: part.id };
      return quantity > 0
        ? unwrap(
            client.PUT("/api/garages/{garage_id}/rack/{part_id}", {
              params: { path },
              body: { kind: part.kind, label: part.label, document: part.document, quantity },
            }),
          )
        : unwrap(client.DELETE("/api/garages/{garage_id}/rack/{part_id}", { params: { path } }));
    },
    onSuccess: (_data, { part, quantity }) => {
      if (quantity <= 0) binned({ garage: garageId, kind: "part", id: part.id, name: part.label });
      return refresh();
    },
  });
  const kinds = KINDS.filter(([k]) => parts.some((p) => p.kind === k));
  return (
    <section aria-label={say.rack}>
      <div className="mb-2 flex items-center justify-between">
        <h2 className="text-[21px]">{say.rack}</h2>
        <button type="button" className="btn" onClick={() => setAdding(true)}>
          {say.addAPart}
        </button>
      </div>
      {parts.length === 0 && <p className="text-ink2">{say.nothingOnTheRack}</p>}
      {kinds.map(([kind, words]) => (
        <div key={kind} className="mb-3">
          <h3 className="mb-1 text-[13.5px]">{words}</h3>
          <ul className="border-b-[5px] border-ink">
            {parts
              .filter((p) => p.kind === kind)
              .map((part) => (
                <li key={part.id} id={`part-${part.id}`} className="flex items-center gap-2 py-1">
                  {kind === "packs" && <PackIcon />}
                  <span className="min-w-0 flex-1 truncate" title={decimals(part.label)}>
                    {decimals(part.label)}
                  </span>
                  <span className="flex items-center gap-1">
                    <button
                      type="button"
                      className="btn !min-h-7 !px-2"
                      aria-label={say.oneLess(part.label)}
                      onClick={() => change.mutate({ part, quantity: part.quantity - 1 })}
                    >
                      −
                    </button>
                    <b className="w-6 text-center">{part.quantity}</b>
                    <button
                      type="button"
                      className="btn !min-h-7 !px-2"
                      aria-label={say.oneMore(part.label)}
                      onClick={() => change.mutate({ part, quantity: part.quantity + 1 })}
                    >
                      +
                    </button>
                  </span>
                </li>
              ))}
          </ul>
        </div>
      ))}
      {adding && <AddPart garageId={garageId} close={() => setAdding(false)} />}
    </section>
  );
}

export function Riders({ garageId, riders }: { garageId: number; riders: Rider[] }) {
  const { units } = useSettings();
  const [name, setName] = useState("");
  const [age, setAge] = useState("");
  const binned = useBinned();
  const refresh = useRefresh();
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

/** Where practitioners differ: each school's word, and why the first is the default here. */
const SCHOOLS: {
  key: keyof Rules & string;
  label: string;
  why: string;
  options: [value: string | number | boolean, words: string][];
}[] = [
  {
    key: "wire_school",
    label: say.fuseAndWire,
    why: say.aFuseLetsA,
    options: [
      ["careful", say.carefulTheFuseOpens],
      ["common", say.commonRatingUpTo],
    ],
  },
  {
    key: "wire_table",
    label: say.wireTable,
    why: say.vehicleLeadsLieIn,
    options: [
      ["vehicle", say.vehicleTableBundledAnd],
      ["building", say.buildingWire],
    ],
  },
  {
    key: "sole_main_fuse",
    label: say.fusesAtASingle,
    why: say.withOneRowThe,
    options: [
      [true, say.oneMainFuseClose],
      [false, say.oneAtThePack],
    ],
  },
  {
    key: "guard",
    label: say.lowVoltGuard,
    why: say.aModuleActsWhen,
    options: [
      ["module", say.aModuleThatSwitches],
      ["voltmeter", say.watchingAVoltmeterIs],
    ],
  },
  {
    key: "joints",
    label: say.joints,
    why: say.twistCapsAreMade,
    options: [
      ["made fast", say.crimpedOrSolderedTwist],
      ["any", say.twistCapsAreOnly],
    ],
  },
  {
    key: "overvolt_limit",
    label: say.voltsOverTheMotors,
    why: say.oneStepUpAbout,
    options: [
      [1.5, say.oneStepUpTo],
      [1.25, say.aLittleTo1],
      [2, say.toTwiceWithThe],
    ],
  },
  {
    key: "brake_cut_off",
    label: say.brakeCutOff,
    why: say.theLeverThatStops,
    options: [
      ["keep", say.keepItWired],
      ["relaxed", say.itMayBeLeft],
    ],
  },
];

export function HouseRules({ garage }: { garage: Garage }) {
  const queryClient = useQueryClient();
  const save = useMutation({
    mutationFn: (rules: Rules) =>
      unwrap(
        client.PATCH("/api/garages/{garage_id}", { params: { path: { garage_id: garage.id } }, body: { house_rules: rules } }),
      ),
    onSuccess: () => queryClient.invalidateQueries(),
  });
  return (
    <details className="mt-5">
      <summary className="font-head text-[15px] font-bold">{say.houseRules}</summary>
      <p className="my-2 text-small text-ink2">{say.wherePractitionersDifferThese}</p>
      {SCHOOLS.map((s) => (
        <div key={s.key} className="mb-3">
          <label className="block">
            <span className="mb-1 block text-small font-bold text-ink2">{s.label}</span>
            <select
              className="input"
              aria-describedby={`why-${s.key}`}
              value={String(garage.house_rules[s.key] ?? s.options[0]?.[0])}
              onChange={(e) => {
                const picked = s.options.find(([v]) => String(v) === e.target.value);
                if (picked) save.mutate({ [s.key]: picked[0] });
              }}
            >
              {s.options.map(([v, words]) => (
                <option key={String(v)} value={String(v)}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <p id={`why-${s.key}`} className="mt-0.5 text-small text-ink3">
            {s.why}
          </p>
        </div>
      ))}
    </details>
  );
}
