/** A heading of a sheet. */
export function H({ children }: { children: string }) {
  return <h2 className="mt-6 mb-2 border-b-2 border-ink pb-1 text-[18px]">{children}</h2>;
}
