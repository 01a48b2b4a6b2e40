/** The sticker on a part of one's own: its letter, crossed out where the part is out of every plan. */
export function Sticker({ letter, out = false, large = false }: { letter: string; out?: boolean; large?: boolean }) {
  const size = large ? "size-11 text-[19px]" : "size-8 text-[14px]";
  return (
    <span
      aria-hidden="true"
      className={`grid ${size} flex-none place-items-center rounded-md border-[1.5px] border-ink font-head font-bold ${out ? "bg-hottint text-hottext line-through" : "bg-card"}`}
    >
      {letter || "·"}
    </span>
  );
}
