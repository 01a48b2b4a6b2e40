/** Charger against pack, unit by unit, with the hours. */

import { useQuery } from "@tanstack/react-query";
import { type ChargePlan, client, unwrap } from "../../api/client";
import { choices } from "../../lib/choices";
import { useParts } from "../../lib/parts";
import { read } from "../../lib/pointer";
import { charging as say } from "../../texts/care";
import { decimals } from "../../texts/locale";
import { CheckField, LookField, NumberField, SelectField } from "../../ui/Field";
import { Fit } from "../../ui/Fit";
import { Glyph } from "../../ui/Glyph";
import { PickPart } from "../../ui/PickPart";
import { Block, Grid } from "../Heading";
import type { StageProps } from "../stage";

export function hours(h: number): string {
  const minutes = Math.round(h * 60);
  return say.hours(Math.floor(minutes / 60), minutes % 60);
}

/** Charges one after the other at each port. */
const roundsOf = (p: ChargePlan) => Math.ceil(p.charges / p.side_by_side);

const countOf = (p: ChargePlan) => {
  const all = p.charges === 2 ? say.both : say.its(p.charges);
  return p.side_by_side >= p.charges
    ? say.packsAtOnce(all)
    : p.side_by_side > 1
      ? say.chargersAtOnce(all, p.side_by_side)
      : say.oneAfterTheOther(all);
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
    <Block title={say.charging} line={say.theEndVoltsAnd}>
      {(plans.data ?? []).map((p, i) => (
        <div key={`${p.charger}${i}`} className="mb-3">
          <p className="flex flex-wrap items-baseline gap-2">
            <Glyph mark={p.fits ? "fits" : "stop"} /> <b>{p.charger}</b>
            <span className="text-ink2">{p.fits ? say.fitsEndsAtV(p.end_v) : say.doesNotFit(decimals(p.why))}</span>
          </p>
          <Fit>
            {(width) => (
              <svg
                viewBox={`0 0 ${width} 34`}
                className="mt-1 block h-auto w-full"
                role="img"
                aria-label={say.forOneChargeFor(hours(p.hours), p.charges, hours(p.total_hours), countOf(p))}
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
                  {p.per === "unit" ? say.aPackForCharges(p.charges, hours(p.total_hours), countOf(p)) : say.forTheBankIn}
                </text>
              </svg>
            )}
          </Fit>
        </div>
      ))}
      {sharing.length > 1 && (
        <p className="mb-2">{say.togetherChargersHaveEvery(sharing.length, hours(sharing[0]?.all_hours ?? 0))}</p>
      )}
      {chargers.length === 0 && <p className="mb-2 text-ink2">{say.noChargerInThis}</p>}
      {chargers.map((_, i) => (
        <div key={i} className="mb-3 border-t border-line pt-2">
          <Grid min={120}>
            <NumberField label={say.endsAt} pointer={`/chargers/${i}/end_v`} unit="V" />
            <NumberField label={say.chargesWith} pointer={`/chargers/${i}/amps_a`} unit="A" />
            <NumberField label={say.packsAtATime} pointer={`/chargers/${i}/ports`} plain whole typical="1" />
            <SelectField
              label={say.madeFor}
              pointer={`/chargers/${i}/chemistry`}
              options={choices("Charger.chemistry", { lfp: "LFP" })}
            />
            <SelectField
              label={say.charges}
              pointer={`/chargers/${i}/per`}
              options={choices("Charger.per", { unit: say.packsOneByOne, bank: say.theBankInPlace })}
            />
            <SelectField
              label={say.itsPlug}
              pointer={`/chargers/${i}/plug`}
              options={choices("Charger.plug", { own: say.oneOfItsOwn, "shared pattern": say.fitsOtherVoltsToo })}
            />
            <SelectField
              label={say.chargesThrough}
              pointer={`/chargers/${i}/through`}
              options={choices("Charger.through", {
                "its own port": say.thePacksOwnPort,
                "output contacts": say.theContactsItGives,
              })}
            />
            <SelectField
              label={say.whereItCharges}
              pointer={`/chargers/${i}/place`}
              options={choices("Charger.place", { unwatched: say.nobodyNear })}
            />
            <NumberField label={say.coldestAirThere} pointer={`/chargers/${i}/coldest_c`} kind="temp" plain />
            <CheckField label={say.wasOpenedOrMended} pointer={`/chargers/${i}/mains_opened`} />
            {read(draft.doc, `/chargers/${i}/per`) === "bank" ? (
              <LookField label={say.bankCutOffMeanwhile} pointer={`/chargers/${i}/isolated`} />
            ) : (
              <CheckField label={say.packsStayJoinedMeanwhile} pointer={`/chargers/${i}/while_joined`} />
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
              {say.takeItOut}
            </button>
          </Grid>
        </div>
      ))}
      <PickPart
        label={say.addACharger}
        className="block max-w-80"
        parts={parts.chargers}
        onPick={(part) => draft.edit("/chargers", [...chargers, part])}
      />
    </Block>
  );
}
