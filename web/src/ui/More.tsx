/** The way to the next page of a list. */
import type { Pages } from "../lib/usePages";
import { more as say } from "../texts/ui";

export function More<T>({ of, words }: { of: Pages<T>; words: string }) {
  if (!of.more) return null;
  return (
    <button type="button" className="btn mt-2" disabled={of.loading} onClick={of.loadMore}>
      {of.loading ? say.fetching : words}
    </button>
  );
}
