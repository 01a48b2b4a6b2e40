/** Start a build: which machine, which packs, who rides; the rest is typical. Below, what the packs make of the machine. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { client, Failed, type Offer, type Pack, type RackPart, unwrap } from "../api/client";
import { Header } from "../frame/Header";
import { Shortcuts } from "../frame/Shortcuts";
import { assumedOf } from "../lib/assumed";
import { useGarage } from "../lib/garage";
import { type Kind, kindsOf, offeredOf, rackKey, useParts, useRack } from "../lib/parts";
import { type Doc, type Json, read, same, write } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { useHelp } from "../lib/useHelp";
import { usePlan, useSettled } from "../lib/usePlan";
import { startBuild as say } from "../texts/start";
import { sentence } from "../texts/units";
import { FormProvider } from "../ui/Field";
import { BasisGlyph } from "../ui/Glyph";
import { Trouble } from "../ui/Trouble";
import { Arrangement } from "./Arrangement";
import { Machine, Question, Riders, Shelf } from "./Columns";
import { FAMILIES, MOSTLY_BARE } from "./families";
import { KitChoice } from "./KitChoice";
import { KEPT, kept, type ShelfEntry } from "./kept";
import { Rest } from "./Rest";

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
  volts: read(doc, "/stock/volts_v/value"),
  watts: read(doc, "/motor/power_w/value"),
});

/** Plain numbers of the typical machine, which carry no basis of their own. */
const PREFILLED = ["/drivetrain/motor_teeth", "/drivetrain/wheel_teeth", "/main_fuse/rating_a"];

const MOST_KINDS = 6;

/** What lies on the shelf before anybody touched it: the part somebody starts from, else what is on the rack. */
function onRack(packs: readonly Kind[], key: string | null): ShelfEntry[] {
  const own = packs.filter((pack) => pack.names.length > 0);
  const from = own.filter((pack) => pack.names.some((name) => name.key === key));
  return (from.length ? from : own).slice(0, MOST_KINDS).map(({ id, names }) => ({ id, count: Math.min(names.length, 12) }));
}

export function StartBuild() {
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const garage = useGarage();
  const parts = useParts();
  const help = useHelp();
  const { units } = useSettings();
  const [search] = useSearchParams();
  const came = search.get("part");
  // Whoever comes with a part starts anew; who loads the page again goes on.
  const first = useMemo(() => {
    const before = kept();
    return came === null || before?.from === came ? before : null;
  }, [came]);
  const [family, setFamily] = useState(first?.family ?? say.rideOnCar);
  const [doc, setDoc] = useState<Doc | null>(first?.doc ?? null);
  const [name, setName] = useState(first?.name ?? "");
  // Nobody touched it yet: what is on the garage's rack lies on it.
  const [ownShelf, setShelf] = useState<ShelfEntry[] | null>(first?.shelf ?? null);
  const [bare, setBare] = useState(first?.bare ?? false);
  const [finished, setFinished] = useState<Record<string, Offer>>({});
  const [chosen, setChosen] = useState<Record<string, boolean>>({});
  const [typed, setTyped] = useState<string[]>(first?.typed ?? []);
  const rack = useRack(garage?.id);
  // The kit or part somebody came with, or the kit that was chosen here: it is in every arrangement. Packs lie on the shelf.
  const [chosenKit, setChosenKit] = useState<number | undefined>(first?.kit);
  const kit = rack?.find((one) => one.kind !== "packs" && (chosenKit === undefined ? one.key === came : one.id === chosenKit));
  const kitChosen = chosenKit ?? kit?.id;
  const typical = useQuery({
    queryKey: ["typical", family],
    queryFn: () => unwrap(client.GET("/api/typical/{family}", { params: { path: { family } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  useEffect(() => {
    if (!typical.data) return;
    if (!doc || read(doc, "/vehicle/family") !== family) {
      const rider = doc ? (read(doc, "/rider") ?? null) : null;
      const also = doc ? (read(doc, "/also") ?? []) : [];
      setDoc({ ...typical.data, rider, also });
      setChosen({});
      setTyped([]);
    }
  }, [typical.data, family, doc]);
  useEffect(() => {
    const part = { ...(kitChosen === undefined ? {} : { kit: kitChosen }), ...(came === null ? {} : { from: came }) };
    if (doc) sessionStorage.setItem(KEPT, JSON.stringify({ family, doc, name, shelf: ownShelf, typed, bare, ...part }));
  }, [family, doc, name, ownShelf, typed, bare, kitChosen, came]);
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
  const machine = speed !== undefined && recalled.data ? recalled.data.setup : doc;
  const plan = usePlan(machine ?? {}, undefined, true);
  const overview = useQuery({
    queryKey: ["garage", garage?.id],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}", { params: { path: { garage_id: garage?.id ?? 0 } } })),
    enabled: garage !== undefined,
  });
  const packs = useMemo(() => kindsOf(parts.packs ?? []), [parts.packs]);
  const shelf = useMemo<ShelfEntry[]>(
    () => (ownShelf ?? onRack(packs, came)).filter((one) => packs.some((pack) => pack.id === one.id)),
    [ownShelf, packs, came],
  );
  const keep = useMutation({
    mutationFn: ({ label, part, count }: { label: string; part: Doc; count: number }) =>
      unwrap(
        client.POST("/api/garages/{garage_id}/rack", {
          params: { path: { garage_id: garage?.id ?? 0 } },
          body: { kind: "packs", label, document: part as never, quantity: count, about: { status: "on hand" } },
        }),
      ),
    // One more of a kind that lies on the shelf already is one more of that kind.
    onSuccess: async (made) => {
      const known = queryClient.getQueryData<RackPart[]>(rackKey(garage?.id)) ?? [];
      queryClient.setQueryData(rackKey(garage?.id), [...known, ...made]);
      const now = kindsOf(offeredOf([...known, ...made]));
      const like = now.find((kind) => kind.names.some((name) => name.key === made[0]?.key));
      if (like)
        setShelf([...shelf.filter((one) => one.id !== like.id), { id: like.id, count: like.names.length }].slice(-MOST_KINDS));
    },
  });
  const kitId = kit?.id ?? null;
  const asked = useSettled({ baseline: machine, shelf, bare, kitId }, 250);
  const offers = useQuery({
    queryKey: ["offers", asked, packs.map((pack) => pack.names.map((name) => name.key).join()).join(";")],
    queryFn: () =>
      unwrap(
        client.POST("/api/offers", {
          body: {
            baseline: asked.baseline ?? {},
            bare: asked.bare,
            garage_id: garage?.id ?? null,
            kit: asked.kitId,
            shelf: asked.shelf.flatMap((s) => {
              const p = packs.find((x) => x.id === s.id);
              return p ? [{ pack: p.part as Pack, count: s.count, names: p.names.slice(0, s.count) }] : [];
            }),
          },
        }),
      ),
    enabled: asked.baseline !== null && packs.length > 0,
    placeholderData: (old) => old,
    retry: false,
  });
  // What stands below belongs to what stands above: nothing is opened that was worked out before the last key.
  const recalling = speed !== undefined && speed > 0 && (!same(settled, doc) || recalled.isPlaceholderData || recalled.isLoading);
  const stale =
    read(doc ?? {}, "/vehicle/family") !== family ||
    recalling ||
    offers.isPlaceholderData ||
    offers.isLoading ||
    parts.packs === undefined ||
    !same(asked, { baseline: machine, shelf, bare, kitId });
  const offered = useMemo(
    () => [...(offers.data?.offers ?? [])].sort((a, b) => Number(b.advice !== "") - Number(a.advice !== "")),
    [offers.data],
  );
  const keyOf = (o: Offer) => `${o.name} ${o.rows} ${o.in_series}`;
  // Planned with what it lacks, as long as it is the same arrangement of the same machine.
  const wholeOf = (o: Offer) => finished[JSON.stringify(o.setup)];
  const list = offered.map((o) => wholeOf(o) ?? o);
  // Where none is advised, whoever came with a kit opens it as it is.
  const asItIs = kit !== undefined && list.every((one) => one.advice === "") ? list[0] : undefined;
  const isChosen = (o: Offer) => chosen[keyOf(o)] ?? (o.advice !== "" || o === asItIs);
  const picked = list.filter(isChosen);
  const make = useMutation({
    mutationFn: async () => {
      const names = new Set<string>([say.asFound]);
      const setups = [
        { name: say.asFound, document: (bare ? offers.data?.baseline.setup : undefined) ?? machine ?? {} },
        ...picked.map((o) => {
          const own = o.name.slice(0, 56);
          let label = own;
          for (let n = 2; names.has(label); n++) label = `${own} (${n})`;
          names.add(label);
          return { name: label, document: o.setup };
        }),
      ];
      return unwrap(
        client.POST("/api/garages/{garage_id}/builds", {
          params: { path: { garage_id: garage?.id ?? 0 } },
          body: { name: name.trim() || FAMILIES.find(([f]) => f === family)?.[1] || say.build, family, description: "", setups },
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
  // Pressed before the last key was worked out: it opens as soon as that is.
  const [pressed, setPressed] = useState(false);
  const { mutate } = make;
  const wrong = plan.problems.length > 0;
  useEffect(() => {
    if (!pressed || (stale && !wrong)) return;
    setPressed(false);
    if (!wrong) mutate();
  }, [pressed, stale, wrong, mutate]);
  const assumed = assumedOf(plan.evaluation?.gaps ?? []);
  const chooseFamily = (next: string) => {
    setFamily(next);
    setBare(MOSTLY_BARE.includes(next));
  };
  const edit = (pointer: string, value: Json) => setDoc((now) => (now ? write(now, pointer, value) : now));
  const atLabels = useMutation({
    mutationFn: ({ volts, watts }: Labels) =>
      unwrap(client.GET("/api/typical/{family}", { params: { path: { family }, query: { volts, watts } } })),
    // What was typed on since counts, not what was asked for; and what was read off a label stays.
    onSuccess: (machine, asked) =>
      setDoc((now) => {
        const { volts, watts } = labels(now ?? {});
        if (!now || volts !== asked.volts || watts !== asked.watts || read(now, "/vehicle/family") !== family) return now;
        const capacity = read(now, "/stock/capacity_ah");
        const units = (read(machine, "/bank/rows/0/units") ?? []).map((u) => ({
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
    const units = read(doc ?? {}, "/bank/rows/0/units") ?? [];
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
      if (p === "/motor") {
        edit(p, v);
        // What is assumed beside it follows the motor that goes in.
        atLabels.mutate(labels(write(doc ?? {}, p, v)));
      } else if (LABELS.includes(p)) editLabel(p, v);
      else edit(p, v);
    },
    untyped: (p: string) => PREFILLED.includes(p) && !typed.includes(p),
    problems: plan.problems,
    help,
    assumed,
  };
  const direct = read(doc ?? {}, "/controller/kind") === "none";
  const people = [read(doc ?? {}, "/rider"), ...(read(doc ?? {}, "/also") ?? [])].filter(
    (one): one is Doc => one != null && typeof one === "object" && Boolean(one.name || one.age_years),
  );
  const words = FAMILIES.find(([f]) => f === family)?.[1] ?? "";
  const volts = labels(doc ?? {}).volts;
  const known = shelf.reduce((all, one) => all + one.count, 0);
  return (
    <Shortcuts actions={{}}>
      <div className="flex min-h-full flex-col">
        <div className="[&>header]:h-[52px] max-desk:[&>header]:h-14">
          <Header crumb={<strong className="font-head text-[15px] text-ink">{say.startABuild}</strong>} />
        </div>
        <h1 className="sr-only">{say.startABuild}</h1>
        {doc && (
          <FormProvider value={form}>
            <main className="grid grid-cols-[1.15fr_1fr_1fr] border-t-[1.5px] border-ink max-wide:grid-cols-1">
              <Question
                number={1}
                title={say.whichMachine}
                said={bare ? say.toBeMadeElectric(words) : `${words}, ${volts ?? "?"} V`}
                answered
              >
                <Machine family={family} onFamily={chooseFamily} bare={bare} onBare={setBare} />
                {speed !== undefined && recalled.data && !recalled.error && (
                  <p role="status" className="border-l-4 border-leaf pl-3 text-small text-ink2">
                    {recalled.data.said}
                  </p>
                )}
                {recalled.error instanceof Failed && (
                  <p role="alert" className="border-l-4 border-hot pl-3">
                    {recalled.error.error.message}
                  </p>
                )}
              </Question>
              <Question number={2} title={say.whichPacks} said={known ? say.toTry(known) : say.noneYet} answered={known > 0}>
                <Shelf
                  shelf={shelf}
                  packs={packs}
                  out={(parts.packs ?? []).filter((one) => one.own?.out)}
                  onShelf={setShelf}
                  onOwn={(own) => keep.mutate(own)}
                />
                <Trouble error={keep.error} />
                {doc && (
                  <KitChoice
                    kits={(rack ?? []).filter(
                      (part) => (part.kind === "kits" || part.key === came) && part.kind !== "packs" && !part.out,
                    )}
                    chosen={kit}
                    onChoose={(id) => setChosenKit(id ?? 0)}
                    garageId={garage?.id ?? 0}
                    machine={{ ...(machine ?? doc), ...(picked[0] ? { bank: picked[0].setup.bank ?? null } : {}) } as Doc}
                    bare={bare}
                  />
                )}
              </Question>
              <Question
                number={3}
                title={say.whoRides}
                said={
                  people.length
                    ? people.map((one) => one.name || say.years(Number(one.age_years))).join(", ")
                    : say.nobodyEnteredTakenFor
                }
                answered={people.length > 0}
              >
                <Riders riders={overview.data?.riders ?? []} cap={plan.evaluation?.outcome?.cap_m_s} />
              </Question>
            </main>
            <Rest doc={doc} direct={direct} />
          </FormProvider>
        )}
        <section className="flex flex-1 flex-col border-t-[1.5px] border-ink bg-paper" aria-label={say.arrangements}>
          {(plan.problems.length > 0 || offers.error || atLabels.error) && (
            <p role="alert" className="bg-hottint px-4 py-2 font-semibold text-hottext">
              {(plan.problems[0] && sentence(plan.problems[0].message, units)) ??
                (offers.error instanceof Failed ? offers.error.error.message : say.theArrangementsCannotBe)}
            </p>
          )}
          <div className="grid flex-1 grid-cols-[minmax(0,1fr)_250px] max-desk:grid-cols-1">
            <ul className="flex min-h-[248px] overflow-x-auto" aria-label={say.arrangementsChooseAny}>
              {offers.data && (
                <Arrangement
                  offer={offers.data.baseline}
                  base
                  checked
                  onToggle={() => {}}
                  baseline={offers.data.baseline.setup}
                  onCompleted={() => {}}
                />
              )}
              {offered.map((plain) => {
                const o = wholeOf(plain) ?? plain;
                return (
                  <Arrangement
                    key={keyOf(plain)}
                    offer={o}
                    base={false}
                    checked={isChosen(o)}
                    onToggle={() => setChosen({ ...chosen, [keyOf(o)]: !isChosen(o) })}
                    baseline={offers.data?.baseline.setup ?? {}}
                    onCompleted={(whole) => {
                      setFinished({ ...finished, [JSON.stringify(plain.setup)]: whole });
                      if (whole.stops.length === 0) setChosen({ ...chosen, [keyOf(o)]: true });
                    }}
                  />
                );
              })}
              {shelf.length > 0 && offers.data && list.length === 0 && <li className="p-4 text-ink2">{say.thesePacksMakeNo}</li>}
              {shelf.length === 0 && <li className="max-w-80 p-4 text-ink2">{say.addThePacksOn}</li>}
            </ul>
            <div className="grid content-center gap-2 border-l border-ink p-4 max-desk:border-t max-desk:border-l-0">
              <div>
                <label htmlFor="build-name" className="mb-1 block text-small font-bold text-ink2">
                  {say.nameOfTheBuild}
                </label>
                <input
                  id="build-name"
                  className="input"
                  value={name}
                  maxLength={60}
                  placeholder={say.suchAsMarigold}
                  onChange={(e) => setName(e.target.value)}
                />
              </div>
              <button
                type="button"
                className="btn go min-h-12"
                disabled={make.isPending || !doc || !garage || plan.problems.length > 0}
                onClick={() => setPressed(true)}
              >
                {pressed && stale ? say.beingWorkedOut : say.openWith(name.trim(), picked.length)}
              </button>
              <Trouble error={make.error} otherwise={say.thatDidNotWork} className="" />
              <p className="text-small text-ink2">{say.figuresMarkedAreTypical(<BasisGlyph basis="assumed" />)}</p>
            </div>
          </div>
        </section>
      </div>
    </Shortcuts>
  );
}
