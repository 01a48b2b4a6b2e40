/** A form's content, kept in this browser while it is typed: a reload or a dead battery loses nothing. */
import { useCallback, useState } from "react";
import { keeperKey } from "./drafts";

export function useKept<T>(name: string, initial: T): [T, (next: T | ((was: T) => T)) => void] {
  const place = keeperKey("form", name);
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = localStorage.getItem(place);
      return kept === null ? initial : JSON.parse(kept);
    } catch {
      return initial;
    }
  });
  const first = JSON.stringify(initial);
  const set = useCallback(
    (next: T | ((was: T) => T)) =>
      setValue((was) => {
        const now = typeof next === "function" ? (next as (was: T) => T)(was) : next;
        const text = JSON.stringify(now);
        if (text === first) localStorage.removeItem(place);
        else localStorage.setItem(place, text);
        return now;
      }),
    [place, first],
  );
  return [value, set];
}
