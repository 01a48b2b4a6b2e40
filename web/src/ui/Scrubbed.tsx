/** Lines over one axis, one under the other, with a cursor moved by a slider or the arrow keys, and what each line shows there. */
import { useId, useState } from "react";
import { scrubbed as say } from "../texts/ui";
import { Plot, type Zone } from "./Plot";

export interface Trace {
  name: string;
  y: number[];
  say: (value: number) => string;
  colour?: string;
  zones?: Zone[];
  /** Lowest and highest of the axis, where the line alone does not tell. */
  range?: [number, number];
}

/** The point of a rising axis nearest below a place. */
export function indexAt(x: number[], place: number): number {
  let low = 0;
  let high = x.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((x[middle] ?? 0) <= place) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** A line's value at a place between its points. */
export function valueAt(x: number[], y: number[], place: number): number {
  const low = indexAt(x, place);
  const [x0, x1] = [x[low] ?? 0, x[low + 1] ?? x[low] ?? 0];
  const [y0, y1] = [y[low] ?? 0, y[low + 1] ?? y[low] ?? 0];
  return x1 > x0 ? y0 + ((place - x0) / (x1 - x0)) * (y1 - y0) : y0;
}

export function Scrubbed({
  label,
  x,
  xLabel,
  sayX,
  traces,
  words,
}: {
  label: string;
  x: number[];
  xLabel: string;
  sayX: (value: number) => string;
  traces: Trace[];
  /** What is going on at a point. */
  words?: (index: number) => string;
}) {
  const id = useId();
  const [share, setShare] = useState(0.25);
  const end = x.at(-1) ?? 1;
  const start = x[0] ?? 0;
  const place = start + share * (end - start);
  const index = indexAt(x, place);
  return (
    <div>
      <div className="mb-1 grid grid-cols-[auto_minmax(0,1fr)_auto] items-center gap-3">
        <label htmlFor={id} className="text-small font-bold text-ink2">
          {label}
        </label>
        <input
          id={id}
          type="range"
          min="0"
          max="1000"
          value={Math.round(1000 * share)}
          onChange={(e) => setShare(Number(e.target.value) / 1000)}
          aria-valuetext={`${sayX(place)}${words ? `, ${words(index)}` : ""}`}
          className="min-h-8 accent-[var(--focus)]"
        />
        <b className="min-w-[9ch] text-right">{sayX(place)}</b>
      </div>
      {words && (
        <p className="mb-1 text-ink2" aria-live="polite">
          {words(index)}
        </p>
      )}
      <dl className="mb-2 flex flex-wrap gap-x-5 gap-y-1">
        {traces.map((t) => (
          <div key={t.name} className="flex items-baseline gap-1.5">
            <dt className="flex items-baseline gap-1 text-small text-ink3">
              <span
                className="inline-block h-[3px] w-3 self-center"
                style={{ background: t.colour ?? "var(--leaf-deep)" }}
                aria-hidden="true"
              />
              {t.name}
            </dt>
            <dd className="font-bold">{t.say(valueAt(x, t.y, place))}</dd>
          </div>
        ))}
      </dl>
      <div className="grid grid-cols-2 gap-x-5 gap-y-1 max-desk:grid-cols-1">
        {traces.map((t) => {
          const low = t.range?.[0] ?? Math.min(0, ...t.y);
          const high = t.range?.[1] ?? Math.max(...t.y) * 1.12;
          const top = high > low ? high : low + 1;
          return (
            <Plot
              key={t.name}
              title={say.over(t.name, xLabel)}
              xLabel={xLabel}
              yLabel={t.name}
              x={[start, end > start ? end : start + 1]}
              y={[low, top]}
              height={150}
              zones={t.zones ?? []}
              lines={[
                { x, y: t.y, colour: t.colour ?? "var(--leaf-deep)", width: 2 },
                { x: [place, place], y: [low, top], colour: "var(--focus)", width: 1.4 },
              ]}
              marks={[{ x: place, y: valueAt(x, t.y, place), colour: "var(--focus)" }]}
            />
          );
        })}
      </div>
    </div>
  );
}
