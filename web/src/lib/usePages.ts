/** A list that comes in pages, the newest first page: what is loaded so far, and the way to more. */
import { useInfiniteQuery } from "@tanstack/react-query";

export interface Pages<T> {
  /** Page by page, each in the server's order; nothing twice. Undefined until the first is there. */
  pages: T[][] | undefined;
  more: boolean;
  loadMore: () => void;
  loading: boolean;
}

export function usePages<T>(
  key: readonly unknown[],
  size: number,
  ask: (skip: number, limit: number) => Promise<T[]>,
  idOf: (row: T) => number,
): Pages<T> {
  const query = useInfiniteQuery({
    queryKey: key,
    queryFn: ({ pageParam }) => ask(pageParam, size),
    initialPageParam: 0,
    // A first page may bring more than its size: what every page is compared with.
    getNextPageParam: (last, _all, skipped) => (last.length >= size ? skipped + size : undefined),
  });
  const seen = new Set<number>();
  const pages = query.data?.pages.map((page) =>
    page.filter((row) => {
      const isNew = !seen.has(idOf(row));
      seen.add(idOf(row));
      return isNew;
    }),
  );
  return { pages, more: query.hasNextPage, loadMore: () => void query.fetchNextPage(), loading: query.isFetchingNextPage };
}
