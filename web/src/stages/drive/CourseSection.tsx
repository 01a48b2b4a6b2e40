/** The course: one of those shipped, the setup's own stretches, or one read from a file; and out again as a table. */

import { useMutation, useQuery } from "@tanstack/react-query";
import { memo, useState } from "react";
import { client, unwrap } from "../../api/client";
import { choices, MOST } from "../../lib/choices";
import { type Doc, read } from "../../lib/pointer";
import { saveAs } from "../../lib/saveAs";
import { upload } from "../../lib/upload";
import { courseSection as say } from "../../texts/drive";
import { NumberField, SelectField, TextField, useForm } from "../../ui/Field";
import { FilePick } from "../../ui/FilePick";
import { Trouble } from "../../ui/Trouble";

const PACES = [
  ["share", say.shareOfTheTop],
  ["speed_m_s", say.aSpeed],
  ["throttle", say.aThrottle],
  ["coast", say.letItRoll],
] as const;
/** So many stretches are shown at once: a track has hundreds. */
const SHOWN = 20;
/** A file up to this size goes with the request; a larger one part by part. */
const AT_ONCE = 1_000_000;

const paceOf = (s: Doc) => (s.coast ? "coast" : s.throttle != null ? "throttle" : s.speed_m_s != null ? "speed_m_s" : "share");
const START: Record<string, Doc> = {
  share: { share: 0.8, speed_m_s: null, throttle: null, coast: false },
  speed_m_s: { share: null, speed_m_s: 3, throttle: null, coast: false },
  throttle: { share: null, speed_m_s: null, throttle: 1, coast: false },
  coast: { share: null, speed_m_s: null, throttle: null, coast: true },
};

export const CourseSection = memo(function CourseSection() {
  const { doc, edit } = useForm();
  const [sent, setSent] = useState<number | null>(null);
  const [shownTo, setShownTo] = useState(SHOWN);
  const shipped = useQuery({
    queryKey: ["courses"],
    queryFn: () => unwrap(client.GET("/api/courses")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const course = read(doc, "/course");
  const segments = course?.segments ?? [];
  const setSegments = (next: Doc[]) => edit("/course", { ...course, segments: next });
  const readFile = useMutation({
    mutationFn: async (file: File) =>
      unwrap(
        client.POST("/api/courses/read", {
          body: {
            name: file.name.replace(/\.[^.]+$/, "").slice(0, 60) || say.ownCourse,
            ...(file.size > AT_ONCE
              ? { text: "", upload: await upload(file, setSent) }
              : { text: await file.text(), upload: null }),
          },
        }),
      ),
    onSettled: () => setSent(null),
    onSuccess: (found) => edit("/course", found.course),
  });
  const asTable = useMutation({
    mutationFn: async () => {
      const text = await unwrap(client.POST("/api/courses/csv", { body: { course: course as never }, parseAs: "text" }));
      saveAs(text as string, `${String(course?.name ?? "course")}.csv`, "text/csv");
    },
  });
  const known = shipped.data?.find((c) => c.name === course?.name);
  return (
    <div className="relative grid gap-3">
      <div className="flex flex-wrap gap-1.5">
        <button type="button" className="btn" aria-pressed={!course} onClick={() => edit("/course", null)}>
          {say.standardRide}
        </button>
        {shipped.data?.map((c) => (
          <button
            key={String(c.name)}
            type="button"
            className="btn"
            aria-pressed={course?.name === c.name}
            onClick={() => edit("/course", c)}
          >
            {String(c.name)}
          </button>
        ))}
        {course && !known && (
          <button type="button" className="btn" aria-pressed={true}>
            {String(course.name)}
          </button>
        )}
        <FilePick
          label={say.courseFileGpxOr}
          accept=".gpx,.csv,.txt,text/csv,application/gpx+xml"
          busy={readFile.isPending}
          onFile={readFile.mutate}
        >
          {!readFile.isPending ? say.readGpxOrCsv : sent !== null && sent < 1 ? say.sending(sent) : say.reading}
        </FilePick>
        {course && (
          <button type="button" className="btn quiet" onClick={() => asTable.mutate()}>
            {say.saveAsCsv}
          </button>
        )}
      </div>
      <Trouble error={readFile.error ?? asTable.error} />
      {readFile.data?.said.map((one) => (
        <p key={one} role="status" className="border-l-4 border-amber pl-2">
          {one}
        </p>
      ))}
      {!course ? (
        <p className="text-ink2">{say.standardRideRoundAnd}</p>
      ) : (
        <details open={segments.length <= 3}>
          <summary className="font-bold">{say.riddenRoundAndRound(segments.length)}</summary>
          <div className="mt-2 max-w-[260px]">
            <TextField label={say.nameOfTheCourse} pointer="/course/name" />
          </div>
          <ol className="mt-2 grid gap-2">
            {segments.slice(0, shownTo).map((s, i) => {
              const at = `/course/segments/${i}`;
              const pace = paceOf(s);
              return (
                <li
                  key={i}
                  className="grid grid-cols-[20px_repeat(auto-fill,minmax(112px,1fr))] items-end gap-2 border-t border-line pt-2"
                >
                  <b className="self-center">{i + 1}</b>
                  {s.time_s == null ? (
                    <NumberField label={say.length} pointer={`${at}/length_m`} kind="length" plain />
                  ) : (
                    <NumberField label={say.time} pointer={`${at}/time_s`} unit="s" plain />
                  )}
                  <NumberField label={say.slope} pointer={`${at}/grade`} kind="grade" plain />
                  <SelectField
                    label={say.ground}
                    pointer={`${at}/surface`}
                    options={[["", say.asTheSetup], ...choices("Segment.surface")]}
                    onPick={(v) => edit(`${at}/surface`, v || null)}
                  />
                  <label className="min-w-0">
                    <span className="mb-1 block text-small font-bold text-ink2">{say.pace}</span>
                    <select
                      className="input"
                      value={pace}
                      onChange={(e) => setSegments(segments.map((o, k) => (k === i ? { ...o, ...START[e.target.value] } : o)))}
                    >
                      {PACES.map(([v, words]) => (
                        <option key={v} value={v}>
                          {words}
                        </option>
                      ))}
                    </select>
                  </label>
                  {pace === "share" && <NumberField label={say.share} pointer={`${at}/share`} kind="grade" plain />}
                  {pace === "speed_m_s" && <NumberField label={say.speed} pointer={`${at}/speed_m_s`} kind="speed" plain />}
                  {pace === "throttle" && <NumberField label={say.throttle} pointer={`${at}/throttle`} kind="grade" plain />}
                  <NumberField label={say.thenStands} pointer={`${at}/stop_s`} unit="s" plain />
                  <button
                    type="button"
                    className="btn quiet"
                    disabled={segments.length === 1}
                    onClick={() => setSegments(segments.filter((_, k) => k !== i))}
                    aria-label={say.takeStretchOut(i)}
                  >
                    {say.takeOut}
                  </button>
                </li>
              );
            })}
          </ol>
          {segments.length > shownTo && (
            <button type="button" className="btn quiet mt-2" onClick={() => setShownTo(shownTo + SHOWN)}>
              {say.showMoreOf(SHOWN, segments.length, shownTo)}
            </button>
          )}
          <button
            type="button"
            className="btn mt-2"
            disabled={segments.length >= MOST["Course.segments"]}
            onClick={() => setSegments([...segments, { ...(segments.at(-1) ?? {}), grade: 0, length_m: 50, time_s: null }])}
          >
            {say.oneMoreStretch}
          </button>
        </details>
      )}
    </div>
  );
});
