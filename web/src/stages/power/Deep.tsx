/** What the packs do beyond the first look: how rows share and empty, joining them, slots, cold, the meter. */

import { useState } from "react";
import type { PowerPlan } from "../../api/client";
import { choices } from "../../lib/choices";
import { chosenId, type Offered } from "../../lib/parts";
import { read } from "../../lib/pointer";
import { letter, type Row, spotName } from "../../lib/rows";
import { useSettings } from "../../lib/settings";
import { fixed } from "../../texts/locale";
import { deep as say } from "../../texts/power";
import { duration, plainNumber, toShown, withUnit } from "../../texts/units";
import { Segmented, SelectField, useForm } from "../../ui/Field";
import { Glyph } from "../../ui/Glyph";
import { PickPart } from "../../ui/PickPart";
import { Plot } from "../../ui/Plot";
import { Head, printAlone, td, th } from "../../ui/Table";
import { Block, Grid } from "../Heading";

const COLOURS = ["var(--leaf-deep)", "var(--focus)", "var(--hot-deep)", "var(--amber-line)", "var(--ink)"];
const DASHES = [undefined, "7 3", "3 3", "9 3 2 3", "1.5 3"];
/** Each row's amps from full to the end, who ends the ride, what stays in whom. */
export function Sharing({ plan, rows }: { plan: PowerPlan; rows: Row[] }) {
  const [start, setStart] = useState("full");
  const all = plan.emptying ?? [];
  const shown = all.find((e) => e.start === start) ?? all[0];
  if (!shown) return <p className="text-ink2">{say.noAmpsFlowAt}</p>;
  const most = Math.max(...shown.rows.flatMap((r) => r.y));
  const least = Math.min(0, ...shown.rows.flatMap((r) => r.y));
  const ender = shown.units.find((u) => u.ends);
  const unused = shown.units.reduce((sum, u) => sum + u.unused_ah, 0);
  const minutes = (s: number) => s / 60;
  const alike = shown.rows.every((r) => Math.abs((r.y[0] ?? 0) - (shown.rows[0]?.y[0] ?? 0)) < 0.01);
  return (
    <div className="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-5 max-desk:grid-cols-1">
      <div>
        {all.length > 1 && (
          <Segmented
            label={say.whereItStarts}
            value={shown.start}
            options={[
              ["full", say.fromFull],
              ["as they rest", say.asTheyAreNow],
            ]}
            onChange={setStart}
          />
        )}
        <Plot
          title={say.ampsOfEachRow(minutes(shown.seconds_s), shown.ends_by)}
          xLabel={say.minutesAtA(shown.amps_a)}
          yLabel={say.ampsOfARow}
          x={[0, minutes(shown.seconds_s)]}
          y={[least * 1.1, most * 1.15]}
          lines={shown.rows.map((r, i) => ({
            x: r.x.map(minutes),
            y: r.y,
            colour: COLOURS[i % COLOURS.length] as string,
            ...(DASHES[i % DASHES.length] ? { dash: DASHES[i % DASHES.length] as string } : {}),
          }))}
          words={
            alike
              ? [
                  {
                    x: minutes(shown.seconds_s) * 0.03,
                    y: most * 1.06,
                    text: shown.rows.length > 1 ? say.allRowsAlike : say.rowA,
                  },
                ]
              : shown.rows.map((r, i) => ({
                  x: minutes(shown.seconds_s) * (0.04 + 0.12 * (i % 5)),
                  y: (r.y[Math.floor((r.y.length * (0.04 + 0.12 * (i % 5))) | 0)] ?? 0) + (most - least) * 0.04,
                  text: say.row(letter(i)),
                  colour: COLOURS[i % COLOURS.length] as string,
                  bold: true,
                }))
          }
        />
      </div>
      <div>
        <p className="mb-2">
          {ender ? say.packEndsIt(spotName(rows, { row: ender.row, unit: ender.unit }), shown.ends_by) : say.theLowVoltGuard}{" "}
          {say.afterAhStayUnused(shown.seconds_s, unused)}
        </p>
        <table className="w-full text-small">
          <Head names={say.packHeads} />
          <tbody>
            {shown.units.map((u) => (
              <tr key={`${u.row}.${u.unit}`} className="border-t border-line">
                <th scope="row" className={th}>
                  {u.ends && <Glyph mark="now" size={11} quiet />} {spotName(rows, { row: u.row, unit: u.unit })}{" "}
                  <span className="font-normal text-ink3">{u.label}</span>
                </th>
                <td className={td}>{Math.round(100 * u.start)} %</td>
                <td className={td}>{Math.round(100 * u.end)} %</td>
                <td className={td}>{say.unused(u.unused_ah)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** What flows between rows when they are joined as they rest now. */
export function Joined({ plan }: { plan: PowerPlan }) {
  const pairs = plan.joining ?? [];
  const worst = [...pairs].sort((a, b) => b.first_a / b.allowed_a - a.first_a / a.allowed_a)[0];
  if (!worst) return <p className="text-ink2">{say.enterWhatEachPack}</p>;
  const bad = worst.first_a > worst.allowed_a;
  const names = say.and(letter(worst.high), letter(worst.low));
  const end = Math.max(worst.settled_s / 60, 0.5);
  return (
    <div className="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-5 max-desk:grid-cols-1">
      <Plot
        title={say.ampsFromRowInto(letter(worst.high), letter(worst.low), worst.first_a)}
        xLabel={say.minutesAfterJoining}
        yLabel={say.ampsIntoRow(letter(worst.low))}
        x={[0, end]}
        y={[0, Math.max(worst.first_a, worst.allowed_a) * 1.15]}
        lines={[
          { x: worst.flow.x.map((s) => s / 60), y: worst.flow.y, colour: bad ? "var(--hot-deep)" : "var(--leaf-deep)" },
          { x: [0, end], y: [worst.allowed_a, worst.allowed_a], colour: "var(--focus)", dash: "6 4", width: 1.6 },
        ]}
        words={[
          {
            x: end * 0.97,
            y: worst.allowed_a * 1.04,
            text: say.itStandsA(worst.allowed_a),
            anchor: "end",
            colour: "var(--focus)",
          },
        ]}
      />
      <div className="grid content-start gap-2">
        <p className={bad ? "rounded-lg border-2 border-hotdeep bg-hottint p-2" : ""}>
          <Glyph mark={bad ? "stop" : "fits"} size={13} quiet />
          {say.rowsRestAtAnd(names, worst.high_v, worst.low_v, worst.first_a, bad, worst.safe_after_s, worst.within_v)}
        </p>
        <table className="w-full text-small">
          <Head names={say.rowsHeads} />
          <tbody>
            {pairs.map((p) => (
              <tr key={`${p.high}.${p.low}`} className="border-t border-line">
                <th scope="row" className={th}>
                  {say.into(letter(p.high), letter(p.low))}
                </th>
                <td className={td}>{fixed(p.high_v - p.low_v, 2)} V</td>
                <td className={`${td} ${p.first_a > p.allowed_a ? "text-hottext" : ""}`}>{plainNumber(p.first_a, 1)} A</td>
                <td className={td}>{duration(p.settled_s)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** Which slots may stay empty, and what the rows left must then bear; packs together or one after the other. */
export function Slots({ plan, rows, packs }: { plan: PowerPlan; rows: Row[]; packs: Offered[] }) {
  const { doc, edit } = useForm();
  const { units } = useSettings();
  const home = read(doc, "/bank/home_pack");
  const swap = plan.swap;
  return (
    <div className="grid gap-3">
      <Grid min={190}>
        {rows.length > 1 && (
          <SelectField
            label={say.riddenWithEmptySlots}
            pointer="/bank/occupancy"
            options={choices("Bank.occupancy", {
              all: say.neverAllSlotsFilled,
              "one out": say.oneRowMayBe,
              any: say.anyAsLongAs,
            })}
          />
        )}
        <PickPart
          label={say.aSmallPackTo}
          parts={packs}
          value={chosenId(packs, home)}
          none={home ? String(home.label) : say.none}
          onPick={(part) => edit("/bank/home_pack", part)}
        />
        {home && (
          <button type="button" className="btn quiet" onClick={() => edit("/bank/home_pack", null)}>
            {say.noHomePack}
          </button>
        )}
      </Grid>
      <div className="overflow-x-auto">
        <table className="w-full text-small">
          <Head names={say.slotsHeads} />
          <tbody>
            {(plan.occupancies ?? []).map((o) => (
              <tr key={o.name} className="border-t border-line align-top">
                <th scope="row" className={th}>
                  <Glyph mark={o.problems.length ? (o.permitted ? "stop" : "caution") : "fits"} size={12} /> {o.name}
                  {!o.permitted && <span className="font-normal text-ink3"> {say.notPlanned}</span>}
                  {o.problems.map((p) => (
                    <span key={p} className="block font-normal text-hottext">
                      {p}
                    </span>
                  ))}
                </th>
                <td className={td}>{fixed(o.volts_v, 1)} V</td>
                <td className={td}>{plainNumber(o.peak_a, 0)} A</td>
                <td className={td}>{plainNumber(o.rms_a, 1)} A</td>
                <td className={td}>{plainNumber(o.worst_row_a, 1)} A</td>
                <td className={td}>{o.top_speed_m_s == null ? "?" : withUnit(o.top_speed_m_s, "speed", units)}</td>
                <td className={td}>{o.run_time_s == null ? "?" : duration(o.run_time_s)}</td>
                <td className={td}>{fixed(o.sag_v, 1)} V</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {swap && (
        <p className="border-l-4 border-strong pl-2">
          {say.allRowsTogetherRun(swap.together_s, swap.together_sag_v, swap.changes, swap.swapped_s, swap.swapped_sag_v)}
        </p>
      )}
    </div>
  );
}

/** The packs in the cold. */
export function Cold({ plan }: { plan: PowerPlan }) {
  const { units } = useSettings();
  return (
    <table className="w-full max-w-[520px] text-small">
      <Head names={say.packsAtHeads} />
      <tbody>
        {(plan.cold ?? []).map((c) => (
          <tr key={c.temp_c} className="border-t border-line">
            <th scope="row" className={th}>
              {Math.round(toShown(c.temp_c, units.temp))} {units.temp}
            </th>
            <td className={td}>{say.capacity(c.capacity_ah)}</td>
            <td className={td}>{plainNumber(1000 * c.resistance_ohm, 0)} mΩ</td>
            <td className={td}>{fixed(c.sag_v, 1)} V</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The table for the handlebar, and what each set point of a guard leaves or overstrains. */
export function Meter({ plan }: { plan: PowerPlan }) {
  if (!plan.meter?.length) return <p className="text-ink2">{say.enterMotorAndMachine}</p>;
  return (
    <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
      <Block title={say.forTheHandlebar} line={say.voltsAtThePacks(plan.cruise_a)}>
        <div data-print="handlebar">
          <table className="w-full max-w-[300px] text-small">
            <Head names={say.chargeHeads} />
            <tbody>
              {plan.meter.map((m) => (
                <tr key={m.charge} className={`border-t border-line ${m.charge <= 0.2 ? "text-hottext" : ""}`}>
                  <th scope="row" className={th}>
                    {Math.round(100 * m.charge)} %
                  </th>
                  <td className={td}>{fixed(m.rest_v, 1)} V</td>
                  <td className={td}>{fixed(m.cruise_v, 1)} V</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <button type="button" className="btn mt-2" onClick={() => printAlone("handlebar")}>
          {say.printForTheHandlebar}
        </button>
      </Block>
      <Block title={say.whereToSetThe} line={say.tooLowSpoilsCells}>
        <table className="w-full text-small">
          <Head names={say.setPointHeads} />
          <tbody>
            {(plan.set_points ?? []).map((p) => (
              <tr key={p.volts_v} className="border-t border-line">
                <th scope="row" className={th}>
                  <Glyph mark={p.below_floor ? "stop" : p.left_cruise > 0.25 ? "caution" : "fits"} size={12} />{" "}
                  {fixed(p.volts_v, 1)} V
                </th>
                <td className={td}>{fixed(p.cell_v, 2)} V</td>
                <td className={td}>{Math.round(100 * p.left_cruise)} %</td>
                <td className={td}>{Math.round(100 * p.left_peak)} %</td>
                <td className={td}>{fixed(p.rebound_v, 1)} V</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Block>
    </div>
  );
}
