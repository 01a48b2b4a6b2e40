/** Small tables of numbers: the first column to the left, the others to the right. */
import type { ReactNode } from "react";

export const th = "py-0.5 pr-2 text-left font-semibold";
export const td = "py-0.5 pl-2 text-right whitespace-nowrap";

/** A place for a table wider than the page: it scrolls by itself, by keys too. */
export function Wide({ label, children }: { label: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keys
    <section className="overflow-x-auto" aria-label={label} tabIndex={0}>
      {children}
    </section>
  );
}

/** Column heads: the first to the left, numbers to the right. */
export function Head({ names }: { names: string[] }) {
  return (
    <thead>
      <tr className="text-ink3">
        {names.map((name, i) => (
          <th
            key={`${i} ${name}`}
            scope="col"
            className={`${i ? td : th} align-bottom ${name.length > 12 ? "!whitespace-normal" : ""}`}
          >
            {name}
          </th>
        ))}
      </tr>
    </thead>
  );
}

/** Print one part of the page alone: the element that carries the same name in `data-print`. */
export function printAlone(name: string) {
  document.documentElement.dataset.printing = name;
  window.print();
  delete document.documentElement.dataset.printing;
}
