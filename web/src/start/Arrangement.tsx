/** One arrangement of the packs on the shelf, with its speed, run time and stops. */
import { useMutation } from "@tanstack/react-query";
import { client, type Offer, unwrap } from "../api/client";
import { useGarage } from "../lib/garage";
import { type Doc, read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { arrangement as say } from "../texts/start";
import { duration, sentence, withUnit } from "../texts/units";
import { SideRibbon } from "../trail/Ribbon";
import { Glyph } from "../ui/Glyph";
import { Trouble } from "../ui/Trouble";
import { PackPicture } from "./PackPicture";

export function Arrangement({
  offer,
  base,
  checked,
  onToggle,
  baseline,
  onCompleted,
}: {
  offer: Offer;
  base: boolean;
  checked: boolean;
  onToggle: () => void;
  /** The machine as found, for what the arrangement lacks. */
  baseline: Doc;
  onCompleted: (offer: Offer) => void;
}) {
  const { units } = useSettings();
  const garage = useGarage();
  const id = `offer-${offer.name.replace(/\W/g, "-")}-${offer.rows}-${offer.in_series}`;
  const complete = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/completed", {
          body: { setup: offer.setup, name: offer.name, baseline, garage_id: garage?.id ?? null },
        }),
      ),
    onSuccess: onCompleted,
  });
  const cells = read(offer.setup, "/bank/rows/0/units/0/cells_in_series") ?? 0;
  const best = offer.advice === "best start";
  return (
    <li
      className={`relative flex min-w-0 flex-none basis-[236px] flex-col border-r border-line px-4 pt-5 pb-3 ${best ? "bg-leaftint" : "bg-paper"} max-desk:basis-[80vw]`}
    >
      {best && (
        <b className="absolute top-0 left-4 rounded-b bg-leafdeep px-2 text-small leading-5 text-onleaf">{say.bestStart}</b>
      )}
      <label htmlFor={id} className="flex items-start justify-between gap-2">
        <span>
          <b className="block font-head text-[16px] leading-5">{offer.name}</b>
          <span className="text-small text-ink2">
            {base ? say.alwaysKept : offer.in_series > 1 && offer.rows > 1 ? say.rowsOf(offer.rows, offer.in_series) : " "}
          </span>
        </span>
        <input
          id={id}
          type="checkbox"
          className="size-6 flex-none accent-[var(--leaf-deep)]"
          checked={checked}
          disabled={base}
          onChange={onToggle}
        />
      </label>
      {cells > 0 && (
        <div className="flex h-[52px] items-end">
          <PackPicture rows={offer.rows} series={offer.in_series} cells={cells} />
        </div>
      )}
      <p className="mt-1 flex flex-wrap gap-x-4 font-head text-[21px] font-bold whitespace-nowrap">
        <span>{offer.top_speed_m_s == null ? "–" : withUnit(offer.top_speed_m_s, "speed", units)}</span>
        <span>{offer.run_time_s == null ? "–" : duration(offer.run_time_s)}</span>
      </p>
      <p className="mt-1 text-[13px]">{sentence(offer.says, units)}</p>
      {offer.lacked.length > 0 && (
        <p className="mt-1 text-[13px]">
          <b>{say.withWhatItLacks}</b> {sentence(offer.lacked.join("; "), units)}.
        </p>
      )}
      <div className="mt-auto pt-1">
        <SideRibbon
          stations={offer.shares.map((share, i) => ({ share, state: offer.states[i] ?? "unknown" }))}
          id={id}
          tall={30}
        />
        <p className="mt-1 text-small" title={offer.stops.join("; ")}>
          <Glyph mark={offer.stops.length ? "stop" : offer.cautions ? "caution" : "fine"} size={13} quiet />{" "}
          {offer.stops.length
            ? `${sentence(offer.stops[0] ?? "", units)}${offer.stops.length > 1 ? say.andMore(offer.stops.length) : ""}`
            : offer.cautions
              ? say.noStopButCautions(offer.cautions)
              : say.noStop}
        </p>
        {!base && offer.stops.length > 0 && offer.lacked.length === 0 && (
          <button type="button" className="btn mt-1.5" disabled={complete.isPending} onClick={() => complete.mutate()}>
            {complete.isPending ? say.tryingWhatItLacks : say.planItWithWhat}
          </button>
        )}
        {offer.stops.length > 0 && offer.lacked.length > 0 && (
          <p className="mt-1 text-small text-hottext">{say.noChangeClearsThis}</p>
        )}
        <Trouble error={complete.error} otherwise={say.thatDidNotWork} className="mt-1" />
      </div>
    </li>
  );
}
