/** What a pack holds and how much it sags over its life, with how far that is known; the core drew the line, here it is shown. */
import type { PackLife } from "../api/client";
import { fixed, month } from "../texts/locale";
import { life as say } from "../texts/rack";
import { plainNumber, toShown } from "../texts/units";
import { Plot } from "../ui/Plot";

type Figure = PackLife["capacity"];

const at = (when: string) => new Date(when).getTime();

function OverTime({
  figure,
  title,
  aside = "",
  unit,
  digits,
}: {
  figure: Figure;
  title: string;
  aside?: string;
  unit: string;
  digits: number;
}) {
  const line = figure.line;
  const shown = (v: number) => toShown(v, unit);
  const every = [...line, ...figure.readings].flatMap((one) => [shown(one.low), shown(one.high)]);
  const [first, last] = [at(line[0]?.when ?? ""), at(line.at(-1)?.when ?? "")];
  const [low, high] = [Math.min(...every), Math.max(...every, shown(figure.new))];
  const room = (high - low) * 0.08 || 1;
  const now = at(figure.now.when);
  const ticks = [0.08, 0.36, 0.64, 0.92].map((share) => first + (last - first) * share);
  const past = line.filter((one) => at(one.when) <= now);
  const ahead = line.filter((one) => at(one.when) >= (past.length ? at(past.at(-1)?.when ?? "") : now));
  const xs = (rows: typeof line) => rows.map((one) => at(one.when));
  return (
    <section aria-label={title} className="min-w-0">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="flex-1 text-[18px]">{title}</h2>
        <p className="font-head text-[24px] font-bold">
          {fixed(shown(figure.now.value), digits)}{" "}
          <span className="font-text text-small font-normal text-ink3">
            {unit}, {say.span(fixed(shown(figure.now.low), digits), fixed(shown(figure.now.high), digits))}
          </span>
        </p>
        <p className="basis-full text-small text-ink2">
          {[aside, figure.readings.length ? say.readings(figure.readings.length) : say.asOnTheLabel].filter(Boolean).join(", ")}
        </p>
      </div>
      <Plot
        title={title}
        xLabel=""
        yLabel={unit}
        x={[first, last]}
        y={[Math.max(low - room, 0), high + room]}
        xTicks={ticks}
        xFormat={(v) => month(new Date(v))}
        height={190}
        bands={[
          {
            x: xs(line),
            low: line.map((one) => shown(one.low)),
            high: line.map((one) => shown(one.high)),
            colour: "var(--leaf)",
            opacity: 0.18,
          },
        ]}
        lines={[
          { x: xs(past), y: past.map((one) => shown(one.value)), colour: "var(--leaf-deep)", width: 2 },
          { x: xs(ahead), y: ahead.map((one) => shown(one.value)), colour: "var(--leaf-deep)", dash: "5 4", width: 2 },
          { x: [now, now], y: [Math.max(low - room, 0), high + room], colour: "var(--focus)", width: 1.5 },
        ]}
        marks={figure.readings.map((one) => ({
          x: at(one.when),
          y: shown(one.value),
          half: (shown(one.high) - shown(one.low)) / 2,
          filled: true,
        }))}
        words={[{ x: now, y: high + room * 0.4, text: say.today, colour: "var(--focus)", anchor: "end" as const }]}
      />
    </section>
  );
}

export function Life({ life }: { life: PackLife }) {
  return (
    <div className="mb-6 grid grid-cols-2 gap-6 max-wide:grid-cols-1">
      <OverTime figure={life.capacity} title={say.whatItHolds} unit="Ah" digits={1} />
      <OverTime
        figure={life.resistance}
        title={say.howMuchItSags}
        aside={say.at10A(plainNumber(life.sag_10a_v, 1))}
        unit="mΩ"
        digits={0}
      />
    </div>
  );
}
