/** Hands its children their width in pixels, so that a drawing's letters keep their size. */
import { type ReactNode, useLayoutEffect, useRef, useState } from "react";

export function Fit({ children, start = 360 }: { children: (width: number) => ReactNode; start?: number }) {
  const place = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(start);
  useLayoutEffect(() => {
    const node = place.current;
    if (!node) return;
    const measure = () => setWidth(Math.max(Math.round(node.clientWidth), 240));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(node);
    return () => watch.disconnect();
  }, []);
  return (
    <div ref={place} className="min-w-0">
      {children(width)}
    </div>
  );
}
