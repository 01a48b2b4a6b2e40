/** The pack a pack is kept together with. */
import type { RackPart } from "../api/client";
import { nameOf } from "../lib/parts";
import type { Doc } from "../lib/pointer";
import { decimals } from "../texts/locale";
import { partner as say } from "../texts/rack";
import { Trouble } from "../ui/Trouble";
import { Sticker } from "./Sticker";
import { useKeepPart } from "./useKeepPart";

export function Partner({ part, garageId, rack }: { part: RackPart; garageId: number; rack: RackPart[] }) {
  const keep = useKeepPart(garageId, part);
  const key = (part.about as { partner?: string }).partner ?? "";
  const there = rack.find((one) => one.key === key);
  const others = rack.filter((one) => one.kind === part.kind && one.id !== part.id);
  const set = (next: string) => keep.mutate({ about: { ...(part.about as Doc), partner: next } });
  return (
    <section aria-label={say.ridesWith} className="rounded-xl border border-line bg-card p-3">
      <h2 className="text-[15px]">{say.ridesWith}</h2>
      {there ? (
        <div className="mt-1 flex items-center gap-2.5">
          <Sticker letter={there.letter} out={there.out != null} />
          <span className="min-w-0 flex-1 truncate">{decimals(nameOf(there))}</span>
          <button type="button" className="btn" disabled={keep.isPending} onClick={() => set("")}>
            {say.part}
          </button>
        </div>
      ) : (
        <>
          <p className="text-small text-ink2">{say.packsThatAge}</p>
          <select
            className="input mt-1.5"
            aria-label={say.ridesWith}
            value=""
            disabled={keep.isPending || others.length === 0}
            onChange={(e) => set(e.target.value)}
          >
            <option value="">{others.length ? say.nobody : say.noOther}</option>
            {others.map((one) => (
              <option key={one.key} value={one.key}>
                {decimals(nameOf(one))}
              </option>
            ))}
          </select>
        </>
      )}
      <Trouble error={keep.error} className="mt-2" />
    </section>
  );
}
