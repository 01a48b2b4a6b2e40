/** What is still on its way to the screen: asked of the server, or typed and about to be asked. The page says how much on its root element. */
import { useIsFetching, useIsMutating } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";

let held = 0;
const watchers = new Set<() => void>();
const change = (by: number) => {
  held += by;
  for (const watch of watchers) watch();
};

/** Something is about to come; call what this gives once it is there, or will not come. */
export function hold(): () => void {
  change(1);
  let over = false;
  return () => {
    if (!over) change(-1);
    over = true;
  };
}

/** For as long as a piece of the page is shown that stands in for another. */
export const useHold = () => useEffect(() => hold(), []);

const watched = (watch: () => void) => {
  watchers.add(watch);
  return () => {
    watchers.delete(watch);
  };
};

/** Tells on the root element how much is under way: whoever looks at the page from outside waits for none. */
export function Underway() {
  const asked = useIsFetching() + useIsMutating();
  const about = useSyncExternalStore(watched, () => held);
  useEffect(() => {
    document.documentElement.dataset.underway = String(asked + about);
  }, [asked, about]);
  return null;
}
