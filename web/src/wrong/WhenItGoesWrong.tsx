/** When it goes wrong: what to do, in few words, with the switches of this machine; and what must be looked at before it runs again. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Bike, CircleX, Droplets, Flame, FlaskConical, Phone, Printer, Siren, TriangleAlert, Zap } from "lucide-react";
import { useParams } from "react-router";
import { client, type Incident, unwrap, type WhenWrong } from "../api/client";
import { Header } from "../frame/Header";
import { Shortcuts } from "../frame/Shortcuts";
import { useGarage, useInGarageOf } from "../lib/garage";
import { KEPT, sendOrKeep } from "../lib/outbox";
import { useKept } from "../lib/useKept";
import { useParam } from "../lib/useParam";
import { longDay } from "../texts/locale";
import { whenItGoesWrong as say } from "../texts/wrong";
import { Glyph } from "../ui/Glyph";
import { Trouble } from "../ui/Trouble";

const ICONS = {
  runaway: Bike,
  smoke: Flame,
  swelling: TriangleAlert,
  water: Droplets,
  crash: Siren,
  acid: FlaskConical,
  shock: Zap,
} as const;

export function useWrong(buildId: number | undefined) {
  return useQuery({
    queryKey: ["wrong", buildId],
    queryFn: () =>
      buildId === undefined
        ? unwrap(client.GET("/api/troubles"))
        : unwrap(client.GET("/api/builds/{build_id}/troubles", { params: { path: { build_id: buildId } } })),
    retry: false,
  });
}

function Call({ number }: { number: string }) {
  return (
    <div className="rounded-[10px] bg-hotdeep px-4 py-3 text-onhot">
      {number ? (
        <a
          href={`tel:${number.replace(/[^\d+]/g, "")}`}
          className="flex items-center gap-3 font-head text-[32px] leading-9 font-bold"
        >
          <Phone size={28} aria-hidden="true" /> {say.call(number)}
        </a>
      ) : (
        <p className="font-head text-[21px] leading-6 font-bold">{say.callYourEmergencyNumber}</p>
      )}
      <p className="text-small">{number ? say.fireServiceAmbulance : say.itIsNotEntered}</p>
    </div>
  );
}

const NOTHING: string[] = [];

function WriteDown({ buildId, wrong }: { buildId: number; wrong: WhenWrong }) {
  const queryClient = useQueryClient();
  const [note, setNote] = useKept(`trouble ${buildId} ${wrong.id} note`, "");
  const [done, setDone] = useKept<string[]>(`trouble ${buildId} ${wrong.id} done`, NOTHING);
  const send = useMutation({
    mutationFn: () =>
      sendOrKeep<Incident>({
        method: "POST",
        url: `/api/builds/${buildId}/incidents`,
        body: { kind: wrong.id, note, done },
        words: `${wrong.title}: ${note.slice(0, 60)}`,
      }),
    onSuccess: () => {
      setNote("");
      setDone([]);
      for (const key of ["incidents", "build", "journal", "garage"]) queryClient.invalidateQueries({ queryKey: [key] });
    },
  });
  return (
    <form
      className="noprint"
      onSubmit={(e) => {
        e.preventDefault();
        send.mutate();
      }}
    >
      <ul className="grid grid-cols-2 gap-x-6 max-desk:grid-cols-1">
        {wrong.checks.map((check) => (
          <li key={check.key} className="flex min-h-11 items-center gap-3">
            <input
              id={`check-${check.key}`}
              type="checkbox"
              className="size-6 shrink-0 accent-[var(--leaf-deep)]"
              checked={done.includes(check.key)}
              onChange={(e) => setDone(e.target.checked ? [...done, check.key] : done.filter((one) => one !== check.key))}
            />
            <label htmlFor={`check-${check.key}`}>{check.text}</label>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <label className="min-w-[220px] flex-1">
          <span className="block text-small font-bold text-ink2">{say.whatHappened}</span>
          <input className="input" value={note} onChange={(e) => setNote(e.target.value)} maxLength={500} />
        </label>
        <button type="submit" className="btn min-h-11" disabled={send.isPending}>
          {say.writeItDown}
        </button>
      </div>
      <Trouble error={send.error} />
      {send.isSuccess && (
        <p role="status" className="mt-1 font-semibold text-leaftext">
          {say.whatIsNotTicked(send.data === KEPT)}
        </p>
      )}
    </form>
  );
}

function OpenCheck({ buildId, incident, check }: { buildId: number; incident: Incident; check: Incident["checks"][number] }) {
  const queryClient = useQueryClient();
  const [seen, setSeen] = useKept(`check ${incident.id} ${check.key}`, "");
  const send = useMutation({
    mutationFn: () =>
      sendOrKeep<Incident>({
        method: "PUT",
        url: `/api/builds/${buildId}/incidents/${incident.id}/checks/${check.key}`,
        body: { seen },
        words: check.text,
      }),
    onSuccess: () => {
      for (const key of ["incidents", "build", "journal", "garage"]) queryClient.invalidateQueries({ queryKey: [key] });
    },
  });
  return (
    <li className="border-b border-line py-2">
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          send.mutate();
        }}
      >
        <Glyph mark="open" size={16} />
        <label htmlFor={`seen-${incident.id}-${check.key}`} className="min-w-[200px] flex-1 font-semibold">
          {check.text}
        </label>
        <input
          id={`seen-${incident.id}-${check.key}`}
          className="input !w-auto min-w-[180px] flex-1"
          placeholder={say.whatYouSaw}
          value={seen}
          onChange={(e) => setSeen(e.target.value)}
        />
        <button type="submit" className="btn min-h-11" disabled={send.isPending}>
          {say.lookedAt}
        </button>
      </form>
      <Trouble error={send.error} />
    </li>
  );
}

function StillOpen({ buildId }: { buildId: number }) {
  const incidents = useQuery({
    queryKey: ["incidents", buildId],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}/incidents", { params: { path: { build_id: buildId } } })),
    retry: false,
  });
  const open = (incidents.data ?? []).filter((one) => one.checks.some((check) => !check.by));
  if (open.length === 0) return null;
  return (
    <section className="noprint mt-4 rounded-lg border-[1.5px] border-ink bg-card px-4 py-3" aria-label={say.stillOpen}>
      <h2 className="text-[18px]">{say.stillOpenFromBefore}</h2>
      {open.map((incident) => (
        <div key={incident.id} className="mt-2">
          <p className="text-small text-ink2">
            {longDay(incident.created)}
            {incident.note && <>: {incident.note}</>}
          </p>
          <ul>
            {incident.checks
              .filter((check) => !check.by)
              .map((check) => (
                <OpenCheck key={check.key} buildId={buildId} incident={incident} check={check} />
              ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

/** One kind of trouble as it is read: also what is printed. */
export function WrongPage({ wrong, number }: { wrong: WhenWrong; number: string }) {
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_284px] gap-8 max-wide:grid-cols-1">
      <div>
        <h1 className="text-[44px] leading-[46px] max-desk:text-[34px] max-desk:leading-9">{wrong.title}</h1>
        <p className="mt-1 border-b-[1.5px] border-ink pb-4 text-[16px] text-ink2">{wrong.lead}</p>
        <ol>
          {wrong.steps.map((step, i) => (
            <li key={step.title} className="grid grid-cols-[44px_1fr] gap-4 border-b border-line py-4">
              <span className="font-head text-[44px] leading-10 font-medium text-ink3" aria-hidden="true">
                {i + 1}
              </span>
              <div>
                <h2 className="text-[26px] leading-7">{step.title}</h2>
                <p className="text-[16px] text-ink2">{step.what}</p>
              </div>
            </li>
          ))}
        </ol>
      </div>
      <div className="grid content-start gap-4">
        {wrong.call && <Call number={number} />}
        <ul className="border-t-[1.5px] border-ink">
          {wrong.dont.map((words) => (
            <li key={words} className="flex gap-3 border-b border-line py-3 text-[16px]">
              <CircleX className="mt-0.5 shrink-0 text-hottext" size={20} aria-hidden="true" /> {words}
            </li>
          ))}
        </ul>
        <section className="rounded-[10px] border border-amberline bg-ambertint p-4">
          <h2 className="text-[19px]">{wrong.milder_title}</h2>
          <p>{wrong.milder}</p>
        </section>
      </div>
    </div>
  );
}

export function WhenItGoesWrong() {
  const { buildId } = useParams();
  const id = buildId === undefined ? undefined : Number(buildId);
  const build = useQuery({
    queryKey: ["build", id],
    queryFn: () => unwrap(client.GET("/api/builds/{build_id}", { params: { path: { build_id: id ?? 0 } } })),
    enabled: id !== undefined,
  });
  useInGarageOf(build.data);
  const own = useGarage();
  const its = useGarage(build.data?.garage_id);
  // The number to call is that of the garage the machine is in; while that is not known, any is better than none.
  const garage = its ?? own;
  const wrongs = useWrong(id);
  const [kind, setKind] = useParam("what", "runaway");
  const shown = wrongs.data?.find((one) => one.id === kind) ?? wrongs.data?.[0];
  const number = garage?.emergency_number ?? "";
  return (
    <Shortcuts actions={{}}>
      <div className="flex min-h-full flex-col">
        <div className="noprint border-b-[1.5px] border-ink [&>header]:h-[52px]">
          <Header build={id} crumb={<strong className="font-head text-[15px] text-ink">{say.whenItGoesWrong}</strong>} />
        </div>
        <div className="grid flex-1 grid-cols-[300px_minmax(0,1fr)] max-desk:grid-cols-1">
          <nav
            className="noprint border-line bg-sunk max-desk:grid max-desk:grid-cols-4 desk:border-r"
            aria-label={say.kindsOfTrouble}
          >
            {wrongs.data?.map((one) => {
              const Icon = ICONS[one.id];
              const here = one.id === shown?.id;
              return (
                <button
                  key={one.id}
                  type="button"
                  aria-pressed={here}
                  onClick={() => setKind(one.id)}
                  className={`flex w-full items-center gap-4 border-b border-line px-4 py-5 text-left max-desk:grid max-desk:min-h-[74px] max-desk:justify-items-center max-desk:gap-1 max-desk:border-r max-desk:px-1 max-desk:py-2 max-desk:text-center ${here ? "bg-ink text-card" : ""}`}
                >
                  <Icon size={26} aria-hidden="true" className="shrink-0" />
                  <span className="min-w-0">
                    <b className="block font-head text-[20px] leading-6 max-desk:text-[13px] max-desk:leading-4">
                      {one.id === "smoke" ? say.smokeOrHeat : one.title}
                    </b>
                    <span className="text-small max-desk:hidden">{one.under}</span>
                  </span>
                </button>
              );
            })}
            <button
              type="button"
              onClick={() => window.print()}
              className="flex w-full items-center gap-4 px-4 py-5 text-left max-desk:grid max-desk:justify-items-center max-desk:gap-1 max-desk:px-1 max-desk:py-2"
            >
              <Printer size={26} aria-hidden="true" className="shrink-0" />
              <b className="font-head text-[20px] leading-6 max-desk:text-[13px] max-desk:leading-4">{say.onPaper}</b>
            </button>
          </nav>
          <main className="bg-card px-8 py-6 max-desk:px-4 max-desk:py-4" tabIndex={-1}>
            {wrongs.isError && (
              <p role="alert" className="mb-4 font-semibold text-hottext">
                {say.noAnswerFromThe}
              </p>
            )}
            {!wrongs.data && !wrongs.isError && <p role="status">{say.opening}</p>}
            {shown && (
              <>
                <div className="print:hidden">
                  <WrongPage wrong={shown} number={number} />
                </div>
                {/* On paper all of them, for the wall of the garage. */}
                <div className="hidden print:block">
                  {wrongs.data?.map((one) => (
                    <div key={one.id} className="mb-6 break-inside-avoid">
                      <WrongPage wrong={one} number={number} />
                    </div>
                  ))}
                </div>
                <section
                  className="noprint mt-5 border-t-[1.5px] border-ink pt-4"
                  aria-label={say.beforeAnythingAgain(shown.before)}
                >
                  <h2 className="text-[21px]">{say.beforeAnythingAgain(shown.before)}</h2>
                  <p className="mb-1 text-small text-ink2">{id === undefined ? say.openTheMachineIt : say.keptInTheJournal}</p>
                  {id === undefined ? (
                    <ul className="list-disc pl-5">
                      {shown.checks.map((check) => (
                        <li key={check.key}>{check.text}</li>
                      ))}
                    </ul>
                  ) : (
                    <WriteDown key={shown.id} buildId={id} wrong={shown} />
                  )}
                </section>
                {id !== undefined && <StillOpen buildId={id} />}
                <p className="mt-4 text-small text-ink3">{say.cautionsOfThisPlanner}</p>
              </>
            )}
          </main>
        </div>
      </div>
    </Shortcuts>
  );
}
