/** Reads a build or a whole garage in: sent part by part, checked whole by the server, and shown once all of it is there. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Upload } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { type ApiError, client, Failed, type Import, unwrap } from "../api/client";
import { useSettings } from "../lib/settings";
import { upload } from "../lib/upload";
import { importFile as say } from "../texts/garage";
import { sentence } from "../texts/units";
import { Dialog } from "../ui/Dialog";
import { FilePick } from "../ui/FilePick";

const LOOK_MS = 700;
const SHOWN = 20;
const underWay = (job: Import) => job.state === "waiting" || job.state === "checking" || job.state === "storing";
const WORDS: Partial<Record<Import["state"], string>> = say.words;

export function ImportFile({ garageId }: { garageId: number }) {
  const queryClient = useQueryClient();
  const [sending, setSending] = useState<{ name: string; share: number } | null>(null);
  const [refused, setRefused] = useState<ApiError | null>(null);
  const halt = useRef<AbortController>(undefined);
  const path = { garage_id: garageId };
  const jobs = useQuery({
    queryKey: ["imports", garageId],
    queryFn: () => unwrap(client.GET("/api/garages/{garage_id}/imports", { params: { path } })),
    refetchInterval: (query) => (query.state.data?.some(underWay) ? LOOK_MS : false),
  });
  const load = useMutation({
    mutationFn: async (file: File) => {
      halt.current = new AbortController();
      setSending({ name: file.name, share: 0 });
      const sent = await upload(file, (share) => setSending({ name: file.name, share }), halt.current.signal);
      return unwrap(client.POST("/api/garages/{garage_id}/imports", { params: { path }, body: { upload: sent } }));
    },
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["imports"] }),
    onError: (error) => setRefused(error instanceof Failed ? error.error : { code: "failed", message: say.thatDidNotWork }),
    onSettled: () => setSending(null),
  });
  const away = useMutation({
    mutationFn: (job: Import) =>
      unwrap(client.DELETE("/api/garages/{garage_id}/imports/{import_id}", { params: { path: { ...path, import_id: job.id } } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ["imports"] }),
  });
  const running = jobs.data?.filter(underWay) ?? [];
  const over = jobs.data?.filter((job) => job.state === "done" || job.state === "failed") ?? [];
  const done = over.filter((job) => job.state === "done").length;
  useEffect(() => {
    if (!done) return;
    // A list still under way was asked for before it came in: it would be taken for the answer.
    void queryClient.cancelQueries({ queryKey: ["garage"] }).then(() => queryClient.invalidateQueries({ queryKey: ["garage"] }));
  }, [done, queryClient]);
  // What came of it is told to whoever began it, once.
  const [closed, setClosed] = useState(0);
  const told = over.find((job) => job.mine && job.id > closed);
  const close = (job: Import) => {
    setClosed(job.id);
    away.mutate(job);
  };
  return (
    <>
      <FilePick
        label={say.fileOfABuild}
        accept=".json,.zip,application/json,application/zip"
        busy={load.isPending}
        onFile={load.mutate}
      >
        <Upload size={15} aria-hidden="true" /> {say.import}
      </FilePick>
      {(sending || running.length > 0) && (
        <ul className="order-last basis-full" aria-label={say.beingReadIn}>
          {sending && (
            <Progress name={sending.name} words={say.sending} share={sending.share} stop={() => halt.current?.abort()} />
          )}
          {running.map((job) => (
            <Progress
              key={job.id}
              name={job.name}
              words={WORDS[job.state] ?? ""}
              share={job.share}
              stop={() => away.mutate(job)}
            />
          ))}
        </ul>
      )}
      {refused && <Refusal name="" error={refused} close={() => setRefused(null)} />}
      {!refused && told?.error && <Refusal name={told.name} error={told.error} close={() => close(told)} />}
      {!refused && told?.came_in && <CameIn job={told} close={() => close(told)} />}
    </>
  );
}

function Progress({ name, words, share, stop }: { name: string; words: string; share: number; stop: () => void }) {
  const percent = Math.round(share * 100);
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1 text-small">
      <span className="min-w-0 flex-1 break-words">
        {words} <b>{name}</b>
      </span>
      <progress className="w-40" max={100} value={percent} aria-label={`${words} ${name}`} />
      <span className="w-10 text-right">{percent} %</span>
      <button type="button" className="underline underline-offset-2" onClick={stop}>
        {say.stop}
      </button>
    </li>
  );
}

function Refusal({ name, error, close }: { name: string; error: ApiError; close: () => void }) {
  const { units } = useSettings();
  const problems = error.problems ?? [];
  return (
    <Dialog open onOpenChange={close} title={say.nothingWasImported} description={sentence(error.message, units)}>
      {name && <p className="mb-2 break-words text-ink2">{name}</p>}
      <ul className="list-disc pl-5">
        {problems.slice(0, SHOWN).map((p) => (
          <li key={p.path + p.message}>
            <code className="break-words text-small">{p.path}</code> {sentence(p.message, units)}
          </li>
        ))}
      </ul>
      {problems.length > SHOWN && <p className="mt-1 text-small text-ink2">{say.andMoreProblems(problems.length - SHOWN)}</p>}
      {error.hint && <p className="mt-2">{error.hint}</p>}
    </Dialog>
  );
}

function CameIn({ job, close }: { job: Import; close: () => void }) {
  const { units } = useSettings();
  const came = job.came_in;
  if (!came) return null;
  const archive = came.members.length > 0;
  return (
    <Dialog open onOpenChange={close} title={say.itIsInThe} description={say.from(came.builds.length, job.name)}>
      <ul className="list-disc pl-5">
        {came.builds.slice(0, SHOWN).map((one) => (
          <li key={one.id} className="break-words">
            {one.name}
          </li>
        ))}
        {came.builds.length > SHOWN && <li>{say.andMoreBuilds(came.builds.length - SHOWN)}</li>}
      </ul>
      {came.left_out.length > 0 && (
        <section className="mt-2 rounded-lg border-2 border-hotdeep bg-hottint px-3 py-2">
          <p className="font-bold">{say.leftOutBecauseIt}</p>
          <ul className="list-disc pl-5">
            {came.left_out.map((one) => (
              <li key={one.file}>
                {sentence(one.message, units)}
                {one.problems.map((p) => (
                  <span key={p.path + p.message} className="block text-small">
                    <code className="break-words">{p.path}</code> {sentence(p.message, units)}
                  </span>
                ))}
              </li>
            ))}
          </ul>
        </section>
      )}
      {came.photos > 0 && <p className="mt-2">{say.photos(came.photos)}</p>}
      {archive && (
        <>
          <p className="mt-2">
            {came.riders + came.parts === 0 ? say.itsRidersAndParts : say.newHereAndOn(came.riders, came.parts)}
          </p>
          <p className="mt-1">{came.rules ? say.itsUnitsHouseRules : say.unitsHouseRulesAnd}</p>
          <p className="mt-1 text-ink2">{say.itWasTheGarage(came.members.join("; "))}</p>
        </>
      )}
    </Dialog>
  );
}
