/** The same object as long as it says the same: its functions call the latest ones, and only another value makes it another object. */
import { useRef } from "react";

type Any = (...args: never[]) => unknown;

export function useSteady<T extends object>(value: T): T {
  const latest = useRef(value);
  latest.current = value;
  const kept = useRef<T>(null);
  const steady = useRef<Record<string, Any>>({});
  const entries = Object.entries(value) as [keyof T & string, T[keyof T & string]][];
  const same =
    kept.current !== null &&
    entries.every(([key, one]) => (typeof one === "function" ? true : Object.is(one, kept.current?.[key])));
  if (!same) {
    kept.current = Object.fromEntries(
      entries.map(([key, one]) => {
        if (typeof one !== "function") return [key, one];
        steady.current[key] ??= (...args: never[]) => (latest.current[key] as Any)(...args);
        return [key, steady.current[key]];
      }),
    );
  }
  return kept.current as T;
}
