/** One arrangement of the packs on the shelf, with its speed, run time and stops. */
import type { Offer } from "../api/client";
import { useSettings } from "../lib/settings";
import { duration, withUnit } from "../lib/units";
import { SideRibbon } from "../trail/Ribbon";
import { Glyph } from "../ui/Glyph";

export function Arrangement({
  offer,
  base,
  checked,
  onToggle,
}: {
  offer: Offer;
  base: boolean;
  checked: boolean;
  onToggle: () => void;
}) {
  const { units } = useSettings();
  const id = `offer-${offer.name.replace(/\W/g, "-")}-${offer.rows}-${offer.in_series}`;
  return (
    <li className={`min-w-0 flex-none basis-[245px] border-r border-line p-3 ${checked ? "bg-leaftint" : "bg-paper"}`}>
      <label htmlFor={id} className="flex items-start justify-between gap-2">
        <b className="font-head text-[15px]">{offer.name}</b>
        <input
          id={id}
          type="checkbox"
          className="size-6 accent-[var(--leaf-deep)]"
          checked={checked}
          disabled={base}
          onChange={onToggle}
        />
      </label>
      <p className="text-small text-ink2">
        {base ? "baseline" : `${offer.rows} × ${offer.in_series}`}{" "}
        {offer.advice && <b className="text-leaftext">· {offer.advice}</b>}
      </p>
      <p className="mt-1 flex gap-4 font-head text-[22px] font-bold whitespace-nowrap">
        <span>{offer.top_speed_m_s == null ? "–" : withUnit(offer.top_speed_m_s, "speed", units)}</span>
        <span>{offer.run_time_s == null ? "–" : duration(offer.run_time_s)}</span>
      </p>
      <SideRibbon stations={offer.shares.map((share, i) => ({ share, state: offer.states[i] ?? "unknown" }))} id={id} tall={44} />
      {offer.lacked.length > 0 && (
        <p className="mt-1 text-small">
          <b>With what it lacks:</b> {offer.lacked.join("; ")}
        </p>
      )}
      <p className="mt-1 text-small" title={offer.stops.join(", ")}>
        <Glyph mark={offer.stops.length ? "stop" : offer.cautions ? "caution" : "fine"} size={13} quiet />{" "}
        {offer.stops.length
          ? `${offer.stops.length} ${offer.stops.length === 1 ? "stop" : "stops"}: ${offer.stops[0]}`
          : offer.cautions
            ? `no stops, ${offer.cautions} ${offer.cautions === 1 ? "caution" : "cautions"}`
            : "no stops"}
      </p>
    </li>
  );
}
