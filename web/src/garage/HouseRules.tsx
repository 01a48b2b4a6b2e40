/** The house rules: which school this garage follows where practitioners differ. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, type Garage, type HouseRules as Rules, unwrap } from "../api/client";
import { houseRules as say } from "../texts/garage";

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
