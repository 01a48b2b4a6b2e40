/** A choice on a page that lives in its address, so that it can be linked to and survives a reload. */
import { useSearchParams } from "react-router";

export function useParam(name: string, fallback: string): [string, (value: string) => void] {
  const [params, setParams] = useSearchParams();
  const set = (value: string) =>
    setParams(
      (old) => {
        const next = new URLSearchParams(old);
        next.set(name, value);
        return next;
      },
      { replace: true, preventScrollReset: true },
    );
  return [params.get(name) ?? fallback, set];
}
