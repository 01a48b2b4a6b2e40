/** Each rider's cap and where knob or mode must stand for it: a label to print and stick beside the knob. */
import type { DrivePlan } from "../../api/client";
import { useSettings } from "../../lib/settings";
import { ridersSection as say } from "../../texts/drive";
import { decimals } from "../../texts/locale";
import { plainNumber, toMark, withUnit } from "../../texts/units";
import { Glyph } from "../../ui/Glyph";
import { Head, printAlone, td, th, Wide } from "../../ui/Table";
import { Block } from "../Heading";

export function RidersSection({
  riders,
  note,
  build,
  rides,
  choose,
}: {
  riders: DrivePlan["riders"];
  note: string;
  build: string;
  /** Whom the setup is computed for. */
  rides: string | undefined;
  choose: (name: string) => void;
}) {
  const { units } = useSettings();
  const speed = (v: number) => withUnit(v, "speed", units);
  const measured = riders[0]?.marks_measured ?? 0;
  if (!riders.length) return <p className="text-ink2">{say.enterARiderBelow}</p>;
  return (
    <div className="grid grid-cols-[minmax(0,1.7fr)_minmax(220px,1fr)] gap-6 max-desk:grid-cols-1">
      <div className="min-w-0">
        <Wide label={say.riders}>
          <table className="w-full text-small">
            <Head names={say.riderHeads} />
            <tbody>
              {riders.map((r) => (
                <tr key={r.name} className="border-t border-line">
                  <th scope="row" className={th}>
                    {r.name}
                    {r.age_years != null && <span className="font-normal text-ink3"> {plainNumber(r.age_years, 0)}</span>}
                    {(r.lifts_front || r.over_weight) && (
                      <span className="block font-normal text-hottext">
                        <Glyph mark="caution" size={12} /> {r.over_weight ? say.overTheMakersWeight : say.aLaunchLiftsThe}
                      </span>
                    )}
                  </th>
                  <td className={td}>{withUnit(r.mass_kg, "mass", units)}</td>
                  <td className={td}>
                    {r.cap_m_s == null ? "–" : speed(r.cap_m_s)}
                    <span className="block text-micro text-ink3">{r.cap_basis === "entered" ? say.entered : r.cap_basis}</span>
                  </td>
                  <td className={td}>{speed(r.top_speed_m_s)}</td>
                  <td className={td}>{r.mark == null ? "–" : plainNumber(toMark(r.mark), 1)}</td>
                  <td className={td}>{r.mode ?? "–"}</td>
                  <td className={td}>
                    {r.name === rides ? (
                      <span className="text-ink2">{say.countedWith}</span>
                    ) : (
                      <button type="button" className="btn !min-h-7 !px-2" onClick={() => choose(r.name)}>
                        {say.countWith(r.name)}
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Wide>
        <p className="mt-2 text-small text-ink3">
          {decimals(note)} {measured >= 2 ? say.theKnobsScaleIs(measured) : say.theKnobsScaleIsTaken}
        </p>
      </div>
      <Block title={say.labelForTheKnob}>
        <div data-print="riders" className="rounded-lg border-[1.5px] border-ink bg-card p-3">
          <p className="font-head text-[15px] font-bold">{build}</p>
          <p className="mb-1 text-small">{say.fullPacksLevelGround}</p>
          <ul>
            {riders.map((r) => (
              <li key={r.name} className="flex justify-between gap-3 border-t border-line py-0.5">
                <b>{r.name}</b>
                <span className="text-right">{decimals(r.line)}</span>
              </li>
            ))}
          </ul>
          <p className="mt-1 text-micro">{say.helmetOnPrivateGround}</p>
        </div>
        <button type="button" className="btn mt-2" onClick={() => printAlone("riders")}>
          {say.printTheLabel}
        </button>
      </Block>
    </div>
  );
}
