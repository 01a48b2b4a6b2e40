/** Charger against pack, unit by unit, with the hours. */

import { useQuery } from "@tanstack/react-query";
import { type ChargePlan, client, unwrap } from "../../api/client";
import { choices } from "../../lib/choices";
import { useParts } from "../../lib/parts";
import { read } from "../../lib/pointer";
import { plainNumber } from "../../lib/units";
import { CheckField, LookField, NumberField, SelectField } from "../../ui/Field";
import { Fit } from "../../ui/Fit";
import { Glyph } from "../../ui/Glyph";
import { PickPart } from "../../ui/PickPart";
import { Block, Grid } from "../Heading";
import type { StageProps } from "../stage";

export function hours(h: number): string {
  const minutes = Math.round(h * 60);
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")} min`;
}

/** Charges one after the other at each port. */
const roundsOf = (p: ChargePlan) => Math.ceil(p.charges / p.side_by_side);

const countOf = (p: ChargePlan) => {
  const all = p.charges === 2 ? "both" : `its ${p.charges}`;
  return p.side_by_side >= p.charges
    ? `${all} at a time`
    : p.side_by_side > 1
      ? `${all}, ${p.side_by_side} at a time`
      : `${all} one after the other`;
};

export function Charging({ draft }: StageProps) {
  const parts = useParts();
  const chargers = read(draft.doc, "/chargers") ?? [];
  const plans = useQuery({
    queryKey: ["charging", draft.doc],
    queryFn: () =>
      unwrap(client.POST("/api/charging", { body: { setup: draft.doc, build_id: null, baseline: null, is_baseline: false } })),
    retry: false,
    placeholderData: (old) => old,
  });
  const longest = Math.max(...(plans.data ?? []).map((p) => p.total_hours), 1);
  const sharing = (plans.data ?? []).filter((p) => p.fits && p.per === "unit");
  return (
    <Block
      title="Charging"
      line="The end volts and the chemistry must be the pack's own. Each pack on its own charger, or the bank in place."
    >
      {(plans.data ?? []).map((p, i) => (
        <div key={`${p.charger}${i}`} className="mb-3">
          <p className="flex flex-wrap items-baseline gap-2">
            <Glyph mark={p.fits ? "fits" : "stop"} /> <b>{p.charger}</b>
            <span className="text-ink2">{p.fits ? `fits: ends at ${plainNumber(p.end_v)} V` : `does not fit: ${p.why}`}</span>
          </p>
          <Fit>
            {(width) => (
              <svg
                viewBox={`0 0 ${width} 34`}
                className="mt-1 block h-auto w-full"
                role="img"
                aria-label={`${hours(p.hours)} for one charge${p.charges > 1 ? `, ${hours(p.total_hours)} for ${countOf(p)}` : ""}`}
              >
                <rect x="0" y="6" width={width} height="16" rx="4" fill="var(--paper-sunk)" />
                {Array.from({ length: roundsOf(p) }, (_, r) => {
                  const each = (width * p.total_hours) / longest / roundsOf(p);
                  return (
                    <rect
                      key={r}
                      x={r * each + 1}
                      y="6"
                      width={Math.max(each - 3, 2)}
                      height="16"
                      rx="4"
                      fill={p.fits ? "var(--leaf)" : "var(--hot)"}
                    />
                  );
                })}
                <text x="4" y="33" fontSize="11">
                  {hours(p.hours)}{" "}
                  {p.per === "unit"
                    ? `a pack${p.charges > 1 ? `, ${hours(p.total_hours)} for ${countOf(p)}` : p.charges ? "" : "; the others are done sooner without it"}`
                    : "for the bank in place"}
                </text>
              </svg>
            )}
          </Fit>
        </div>
      ))}
      {sharing.length > 1 && (
        <p className="mb-2">
          Together {sharing.length === 2 ? "both chargers" : `these ${sharing.length} chargers`} have every pack full after{" "}
          <b>{hours(sharing[0]?.all_hours ?? 0)}</b>.
        </p>
      )}
      {chargers.length === 0 && <p className="mb-2 text-ink2">No charger in this setup yet.</p>}
      {chargers.map((_, i) => (
        <div key={i} className="mb-3 border-t border-line pt-2">
          <Grid min={120}>
            <NumberField label="Ends at" pointer={`/chargers/${i}/end_v`} unit="V" />
            <NumberField label="Charges with" pointer={`/chargers/${i}/amps_a`} unit="A" />
            <NumberField label="Packs at a time" pointer={`/chargers/${i}/ports`} plain whole typical="1" />
            <SelectField
              label="Made for"
              pointer={`/chargers/${i}/chemistry`}
              options={choices("Charger.chemistry", { lfp: "LFP" })}
            />
            <SelectField
              label="Charges"
              pointer={`/chargers/${i}/per`}
              options={choices("Charger.per", { unit: "packs one by one", bank: "the bank in place" })}
            />
            <SelectField
              label="Its plug"
              pointer={`/chargers/${i}/plug`}
              options={choices("Charger.plug", { own: "one of its own", "shared pattern": "fits other volts too" })}
            />
            <SelectField
              label="Charges through"
              pointer={`/chargers/${i}/through`}
              options={choices("Charger.through", {
                "its own port": "the pack's own port or dock",
                "output contacts": "the contacts it gives by",
              })}
            />
            <SelectField
              label="Where it charges"
              pointer={`/chargers/${i}/place`}
              options={choices("Charger.place", { unwatched: "nobody near" })}
            />
            <NumberField label="Coldest air there" pointer={`/chargers/${i}/coldest_c`} kind="temp" plain />
            <CheckField label="was opened or mended" pointer={`/chargers/${i}/mains_opened`} />
            {read(draft.doc, `/chargers/${i}/per`) === "bank" ? (
              <LookField label="Bank cut off meanwhile" pointer={`/chargers/${i}/isolated`} />
            ) : (
              <CheckField label="packs stay joined meanwhile" pointer={`/chargers/${i}/while_joined`} />
            )}
            <button
              type="button"
              className="btn self-end"
              onClick={() =>
                draft.edit(
                  "/chargers",
                  chargers.filter((_c, k) => k !== i),
                )
              }
            >
              Take it out
            </button>
          </Grid>
        </div>
      ))}
      <PickPart
        label="Add a charger"
        className="block max-w-80"
        parts={parts.chargers}
        onPick={(part) => draft.edit("/chargers", [...chargers, part])}
      />
    </Block>
  );
}
