/** Start a build: family, the labels that are easy to find, rider and ground; then the packs on the shelf and what they make. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { client, Failed, type Offer, unwrap } from "../api/client";
import { Header } from "../app/Header";
import { Shortcuts } from "../app/Shortcuts";
import { MachineDrawing } from "../garage/MachineDrawing";
import { useGarage } from "../lib/garage";
import { useParts } from "../lib/parts";
import { type Doc, type Json, read, write } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { sentence } from "../lib/units";
import { useHelp } from "../lib/useHelp";
import { usePlan, useSettled } from "../lib/usePlan";
import { FormProvider, NumberField, SelectField, TextField } from "../ui/Field";
import { PickPart } from "../ui/PickPart";
import { Trouble } from "../ui/Trouble";
import { Arrangement } from "./Arrangement";
import { KEPT, kept, type ShelfEntry } from "./kept";
import { Tags } from "./Tags";

const FAMILIES = [
  ["ride-on car", "Ride-on car", "pedal, two small motors"],
  ["small dirt bike", "Small dirt bike", "throttle, chain"],
  ["quad", "Quad", "key, three speeds"],
  ["scooter", "Scooter", "hub motor, display"],
  ["kart", "Kart", "nothing electric yet"],
  ["mini bike", "Mini bike", "brushless, chain"],
  ["transplant", "Transplant", "any body, geared axle"],
] as const;

/** What on a stock machine is made for its volts and its motor's watts. */
const MADE_FOR_LABELS = [
  "/motor/volts_v",
  "/controller/nominal_v",
  "/controller/undervoltage_v",
  "/controller/battery_limit_a",
  "/stock/fuse_a",
  "/main_fuse/kind",
  "/main_fuse/rating_a",
  "/main_fuse/dc_volts_v",
  "/main_lead/awg",
  "/pedal_switch/rating_a",
  "/pedal_switch/dc_volts_v",
];

/** Labels of the stock machine that others follow. */
const LABELS = ["/stock/volts_v", "/stock/capacity_ah", "/motor/power_w"];
type Labels = { volts: number | undefined; watts: number | undefined };
const labels = (doc: Doc): Labels => ({
  volts: read(doc, "/stock/volts_v/value") as number | undefined,
  watts: read(doc, "/motor/power_w/value") as number | undefined,
});

/** Plain numbers of the typical machine, which carry no basis of their own. */
const PREFILLED = ["/drivetrain/motor_teeth", "/drivetrain/wheel_teeth", "/main_fuse/rating_a"];

export function StartBuild() {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const garage = useGarage();
  const parts = useParts();
  const help = useHelp();
  const { units } = useSettings();
  const first = useMemo(kept, []);
  const [family, setFamily] = useState(first?.family ?? "ride-on car");
  const [doc, setDoc] = useState<Doc | null>(first?.doc ?? null);
  const [name, setName] = useState(first?.name ?? "");
  const [shelf, setShelf] = useState<ShelfEntry[]>(first?.shelf ?? []);
  const [chosen, setChosen] = useState<Record<string, boolean>>({});
  const [typed, setTyped] = useState<string[]>(first?.typed ?? []);
  const typical = useQuery({
    queryKey: ["typical", family],
    queryFn: () => unwrap(client.GET("/api/typical/{family}", { params: { path: { family } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  useEffect(() => {
    if (!typical.data) return;
    if (!doc || read(doc, "/vehicle/family") !== family) {
      const rider = doc ? (read(doc, "/rider") ?? null) : null;
      setDoc({ ...(typical.data as Doc), rider });
      setChosen({});
      setTyped([]);
    }
  }, [typical.data, family, doc]);
  useEffect(() => {
    if (doc) sessionStorage.setItem(KEPT, JSON.stringify({ family, doc, name, shelf, typed }));
  }, [family, doc, name, shelf, typed]);
  // What is typed stays as it is; what was assumed is moved so that the machine goes as fast as somebody remembers.
  const settled = useSettled(doc, 250);
  const speed = read(settled ?? {}, "/stock/top_speed_m_s") as number | undefined;
  const recalled = useQuery({
    queryKey: ["remembered", settled],
    queryFn: () => unwrap(client.POST("/api/remembered", { body: { setup: settled ?? {}, speed_m_s: speed ?? 0 } })),
    enabled: settled !== null && speed !== undefined && speed > 0,
    placeholderData: (old) => old,
    retry: false,
  });
  const machine = speed !== undefined && recalled.data ? (recalled.data.setup as Doc) : doc;
  const plan = usePlan(machine ?? {}, undefined, true);
  const packs = parts.packs ?? [];
  const asked = useSettled({ baseline: machine, shelf }, 250);
  const offers = useQuery({
    queryKey: ["offers", asked, packs.length],
    queryFn: () =>
      unwrap(
        client.POST("/api/offers", {
          body: {
            baseline: asked.baseline ?? {},
            shelf: asked.shelf.flatMap((s) => {
              const p = packs.find((x) => x.id === s.id);
              return p ? [{ pack: p.part, count: s.count }] : [];
            }),
          },
        }),
      ),
    enabled: asked.baseline !== null && packs.length > 0,
    placeholderData: (old) => old,
    retry: false,
  });
  const list = offers.data?.offers ?? [];
  const keyOf = (o: Offer) => `${o.name} ${o.top_speed_m_s?.toFixed(2)}`;
  const isChosen = (o: Offer) => chosen[keyOf(o)] ?? o.advice !== "";
  const picked = list.filter(isChosen);
  const make = useMutation({
    mutationFn: () => {
      const names = new Set<string>(["As found"]);
      const setups = [
        { name: "As found", document: machine ?? {} },
        ...picked.map((o) => {
          let label = o.name;
          for (let n = 2; names.has(label); n++) label = `${o.name} (${n})`;
          names.add(label);
          return { name: label, document: o.setup };
        }),
      ];
      return unwrap(
        client.POST("/api/garages/{garage_id}/builds", {
          params: { path: { garage_id: garage?.id ?? 0 } },
          body: { name: name.trim() || FAMILIES.find(([f]) => f === family)?.[1] || "Build", family, description: "", setups },
        }),
      );
    },
    onSuccess: (build) => {
      sessionStorage.removeItem(KEPT);
      queryClient.invalidateQueries({ queryKey: ["garage"] });
      const open = build.setups[1] ?? build.setups[0];
      navigate(`/builds/${build.id}/setups/${open?.id}/${build.setups[1] ? "power" : "survey"}`);
    },
  });
  const assumed = {};
  const edit = (pointer: string, value: Json) => setDoc((now) => (now ? write(now, pointer, value) : now));
  const atLabels = useMutation({
    mutationFn: ({ volts, watts }: Labels) =>
      unwrap(client.GET("/api/typical/{family}", { params: { path: { family }, query: { volts, watts } } })) as Promise<Doc>,
    // What was typed on since counts, not what was asked for; and what was read off a label stays.
    onSuccess: (machine, asked) =>
      setDoc((now) => {
        const { volts, watts } = labels(now ?? {});
        if (!now || volts !== asked.volts || watts !== asked.watts || read(now, "/vehicle/family") !== family) return now;
        const capacity = read(now, "/stock/capacity_ah");
        const units = ((read(machine, "/bank/rows/0/units") as Doc[]) ?? []).map((u) => ({
          ...u,
          capacity_ah: capacity ?? null,
        }));
        return MADE_FOR_LABELS.reduce(
          (doc, pointer) => {
            const there = read(doc, pointer);
            const known = there !== null && typeof there === "object" && !Array.isArray(there) && there.basis !== "assumed";
            return known || typed.includes(pointer) || !read(doc, pointer.split("/").slice(0, 2).join("/"))
              ? doc
              : write(doc, pointer, read(machine, pointer) ?? null);
          },
          write(now, "/bank/rows/0/units", units),
        );
      }),
  });
  /** Stock volts, amp-hours and watts are the stock machine's: its packs and what was made for them change with them. */
  const editLabel = (pointer: string, value: Json) => {
    edit(pointer, value);
    const number = (value as { value?: number } | null)?.value;
    const units = (read(doc ?? {}, "/bank/rows/0/units") as Doc[] | undefined) ?? [];
    if (number === undefined) return;
    if (pointer === "/stock/capacity_ah")
      edit(
        "/bank/rows/0/units",
        units.map((u) => ({ ...u, capacity_ah: value })),
      );
    else if (number > 0) atLabels.mutate(labels(write(doc ?? {}, pointer, value)));
  };
  const form = {
    doc: doc ?? {},
    edit: (p: string, v: Json) => {
      setTyped((now) => (now.includes(p) ? now : [...now, p]));
      if (LABELS.includes(p)) editLabel(p, v);
      else edit(p, v);
    },
    untyped: (p: string) => PREFILLED.includes(p) && !typed.includes(p),
    problems: plan.problems,
    help,
    assumed,
  };
  const direct = read(doc ?? {}, "/controller/kind") === "none";
  const chain = read(doc ?? {}, "/drivetrain/kind") === "chain";
  return (
    <Shortcuts actions={{}}>
      <div className="flex min-h-full flex-col">
        <div className="[&>header]:h-[52px] max-desk:[&>header]:h-14">
          <Header
            crumb={
              <>
                <a href="/" className="underline underline-offset-3">
                  Garage
                </a>
                <span>/</span>
                <strong className="font-head text-[15px] text-ink">Start a build</strong>
              </>
            }
          />
        </div>
        <fieldset
          className="flex min-w-0 overflow-x-auto border-y-[1.5px] border-ink bg-sunk"
          aria-label="What kind of machine is it?"
        >
          {FAMILIES.map(([value, words, line]) => (
            <button
              type="button"
              key={value}
              aria-pressed={family === value}
              onClick={() => setFamily(value)}
              className={`flex min-w-[150px] flex-1 items-center gap-2 border-l border-strong px-2 py-2 text-left first:border-l-0 ${family === value ? "bg-ink text-onink" : ""}`}
            >
              <span className="rounded bg-card p-0.5">
                <MachineDrawing family={value} width={56} />
              </span>
              <span>
                <b className="block font-head leading-4">{words}</b>
                <span className="block text-micro leading-[13px]">{line}</span>
              </span>
            </button>
          ))}
        </fieldset>
        <main className="grid flex-1 grid-cols-[minmax(0,1fr)_330px] max-wide:grid-cols-1">
          <section className="bg-card p-5 max-desk:p-4">
            <div className="mb-3 flex flex-wrap items-baseline gap-3">
              <h1 className="text-[26px]">What have you got?</h1>
              <p className="flex-1 text-ink2 max-desk:basis-full">
                Fill in what you can read. Skip the rest: a typical figure steps in, marked assumed.
              </p>
            </div>
            <div className="mb-4 grid justify-items-center gap-2 rounded-xl border border-line bg-paper p-3">
              <MachineDrawing family={family} width={160} />
              {doc && <Tags doc={doc} />}
            </div>
            {doc && (
              <FormProvider value={form}>
                <div className="grid grid-cols-[repeat(auto-fill,minmax(165px,1fr))] items-end gap-3">
                  <div>
                    <label htmlFor="build-name" className="mb-1 block text-small font-bold text-ink2">
                      Name of the build
                    </label>
                    <input
                      id="build-name"
                      className="input"
                      value={name}
                      maxLength={60}
                      placeholder="Such as Marigold"
                      onChange={(e) => setName(e.target.value)}
                    />
                  </div>
                  <NumberField label="Battery volts" pointer="/stock/volts_v" unit="V" />
                  <NumberField label="Battery capacity" pointer="/stock/capacity_ah" unit="Ah" />
                  <NumberField label="Motor watts, each" pointer="/motor/power_w" unit="W" />
                  <NumberField label="Motor volts" pointer="/motor/volts_v" unit="V" />
                  {chain ? (
                    <>
                      <NumberField label="Motor teeth" pointer="/drivetrain/motor_teeth" plain whole />
                      <NumberField label="Wheel teeth" pointer="/drivetrain/wheel_teeth" plain whole />
                    </>
                  ) : (
                    read(doc, "/drivetrain/kind") !== "hub" && (
                      <NumberField label="Gear ratio" pointer="/drivetrain/ratio" unit=": 1" />
                    )
                  )}
                  <NumberField label="Wheel across" pointer="/wheel/diameter_m" kind="small" />
                  {!direct && <NumberField label="Controller limit" pointer="/controller/battery_limit_a" unit="A" />}
                  <NumberField label="Fuse as found" pointer="/main_fuse/rating_a" unit="A" plain />
                  <NumberField label="As bought it does about" pointer="/stock/top_speed_m_s" kind="speed" plain />
                  <TextField label="Rider" pointer="/rider/name" />
                  <NumberField label="Rider's age" pointer="/rider/age_years" unit="years" plain />
                  <SelectField
                    label="Where it is ridden"
                    pointer="/ground/surface"
                    options={["paving", "packed dirt", "short grass", "long grass", "deep sand"].map((s) => [s, s] as const)}
                  />
                </div>
              </FormProvider>
            )}
            {speed !== undefined && recalled.data && !recalled.error && (
              <p role="status" className="mt-3 border-l-4 border-leaf pl-3 text-ink2">
                {recalled.data.said}
              </p>
            )}
            {recalled.error instanceof Failed && (
              <p role="alert" className="mt-3 border-l-4 border-hot pl-3">
                {recalled.error.error.message}
              </p>
            )}
          </section>
          <aside className="border-l border-line bg-paper p-5 max-wide:border-t max-wide:border-l-0" aria-label="On your shelf">
            <h2 className="text-[21px]">On your shelf</h2>
            <p className="mb-2 text-ink2">Which packs do you own, or may you borrow?</p>
            <ul>
              {shelf.map((s, i) => (
                <li key={s.id} className="flex items-center gap-2 border-b border-line py-1.5">
                  <span className="min-w-0 flex-1">{packs.find((p) => p.id === s.id)?.label}</span>
                  <button
                    type="button"
                    className="btn !min-h-8 !px-2.5"
                    aria-label="One less"
                    onClick={() =>
                      setShelf(shelf.flatMap((x, k) => (k !== i ? [x] : x.count > 1 ? [{ ...x, count: x.count - 1 }] : [])))
                    }
                  >
                    −
                  </button>
                  <b className="w-5 text-center">{s.count}</b>
                  <button
                    type="button"
                    className="btn !min-h-8 !px-2.5"
                    aria-label="One more"
                    onClick={() => setShelf(shelf.map((x, k) => (k === i ? { ...x, count: Math.min(x.count + 1, 12) } : x)))}
                  >
                    +
                  </button>
                </li>
              ))}
            </ul>
            <PickPart
              label="Add a pack"
              className="mt-3 block"
              parts={packs}
              onPick={(_part, id) => setShelf([...shelf.filter((s) => s.id !== id), { id, count: 2 }])}
            />
            <p className="mt-3 border-l-4 border-leaf pl-3 text-ink2">
              <b className="text-ink">Same five cells.</b> “20 V max” is read fresh off the charger, 18 V is the middle. Full is
              21.0 V, and that is what parts must stand.
            </p>
          </aside>
        </main>
        <section className="border-t-[1.5px] border-ink bg-paper" aria-label="Arrangements">
          {(plan.problems.length > 0 || offers.error || atLabels.error) && (
            <p role="alert" className="bg-hottint px-4 py-2 font-semibold text-hottext">
              {(plan.problems[0] && sentence(plan.problems[0].message, units)) ??
                (offers.error instanceof Failed ? offers.error.error.message : "The arrangements cannot be computed just now.")}
            </p>
          )}
          <div className="grid grid-cols-[minmax(0,1fr)_250px] max-desk:grid-cols-1">
            <ul className="flex overflow-x-auto" aria-label="Arrangements, choose any">
              {offers.data && <Arrangement offer={offers.data.baseline} base checked onToggle={() => {}} />}
              {list.map((o) => (
                <Arrangement
                  key={keyOf(o)}
                  offer={o}
                  base={false}
                  checked={isChosen(o)}
                  onToggle={() => setChosen({ ...chosen, [keyOf(o)]: !isChosen(o) })}
                />
              ))}
              {shelf.length > 0 && offers.data && list.length === 0 && (
                <li className="p-4 text-ink2">
                  These packs make no volts near what this machine was built for. Add more of them, or other ones.
                </li>
              )}
              {shelf.length === 0 && (
                <li className="max-w-80 p-4 text-ink2">
                  Add the packs on your shelf: every arrangement that makes sense appears here, with speed, run time and stops.
                </li>
              )}
            </ul>
            <div className="grid content-center gap-2 border-l border-ink p-4 max-desk:border-t max-desk:border-l-0">
              <button
                type="button"
                className="btn go min-h-12"
                disabled={make.isPending || !doc || !garage || plan.problems.length > 0}
                onClick={() => make.mutate()}
              >
                Open {name.trim() || "the build"} with {picked.length + 1} {picked.length ? "setups" : "setup"}
              </button>
              <Trouble error={make.error} otherwise="That did not work. Nothing is lost; try again." className="" />
              <p className="text-small text-ink2">Ranges are wide while figures are typical. Survey narrows them.</p>
            </div>
          </div>
        </section>
      </div>
    </Shortcuts>
  );
}
