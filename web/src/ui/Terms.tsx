/** Words of the trade, explained where they stand: underlined in a sentence, and said in plain words to who asks. */
import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";
import { client, type Term, unwrap } from "../api/client";
import { useSettings } from "../lib/settings";
import { terms as say } from "../texts/ui";
import { sentence, type UnitChoice } from "../texts/units";

type Mark = (text: string) => ReactNode;
const Marks = createContext<Mark>((text) => text);

const escaped = (word: string) => word.replace(/[\\^$.*+?()[\]{}|]/g, "\\$&");
/** A word as it may stand: also at the start of a sentence, where it is written small. */
const asWritten = (word: string) => {
  const first = word.charAt(0);
  return first === first.toLowerCase() ? `[${first}${first.toUpperCase()}]${escaped(word.slice(1))}` : escaped(word);
};

/** Marks the words of the trade in a sentence, each where it comes first. */
export function marker(terms: Term[]): Mark {
  const words = terms.flatMap((term, index) => term.words.map((word) => ({ word, index })));
  if (words.length === 0) return (text) => text;
  words.sort((a, b) => b.word.length - a.word.length);
  const pattern = new RegExp(`(?<![\\w-])(?:${words.map(({ word }) => `(${asWritten(word)})`).join("|")})(?![\\w-])`, "g");
  return (text) => {
    const parts: ReactNode[] = [];
    const seen = new Set<number>();
    let from = 0;
    for (const found of text.matchAll(pattern)) {
      const index = words[found.slice(1).findIndex((group) => group !== undefined)]?.index ?? 0;
      if (seen.has(index)) continue;
      seen.add(index);
      parts.push(
        text.slice(from, found.index),
        // Bare elements with one listener for all: a sentence with three of them is drawn as fast as one with none.
        <button key={found.index} type="button" className="term" data-term={index} aria-haspopup="dialog">
          {found[0]}
        </button>,
      );
      from = found.index + found[0].length;
    }
    return parts.length ? [...parts, text.slice(from)] : text;
  };
}

/** Sentences of the core in the reader's units, with the words of the trade marked. */
export function useSaid(): (text: string) => ReactNode {
  const mark = useContext(Marks);
  const { units } = useSettings();
  return (text: string) => said(text, units, mark);
}
const said = (text: string, units: UnitChoice, mark: Mark) => mark(sentence(text, units));

/** What is underlined on the pages within can be asked for. */
export function TermsProvider({ children }: { children: ReactNode }) {
  const { data } = useQuery({
    queryKey: ["terms"],
    queryFn: () => unwrap(client.GET("/api/terms")),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const terms = data ?? NONE;
  const mark = useMemo(() => marker(terms), [terms]);
  const [asked, setAsked] = useState<number>();
  const at = useRef<HTMLElement>(null);
  useEffect(() => {
    const press = (event: MouseEvent) => {
      const button = event.target instanceof Element ? event.target.closest<HTMLElement>("[data-term]") : null;
      if (!button) return;
      at.current = button;
      setAsked(Number(button.dataset.term));
    };
    document.addEventListener("click", press);
    return () => document.removeEventListener("click", press);
  }, []);
  const term = asked === undefined ? undefined : terms[asked];
  return (
    <Marks.Provider value={mark}>
      {children}
      {term && (
        <Popover.Root open onOpenChange={(open) => !open && setAsked(undefined)}>
          <Popover.Anchor virtualRef={at as React.RefObject<HTMLElement>} />
          <Popover.Portal>
            <Popover.Content
              className="menu max-w-[290px] px-3 py-2 text-small"
              sideOffset={4}
              aria-label={say.whatMeans(term.words[0])}
              onCloseAutoFocus={(event) => {
                event.preventDefault();
                at.current?.focus();
              }}
            >
              <b className="inline-block first-letter:uppercase">{at.current?.textContent}.</b> {term.says}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </Marks.Provider>
  );
}
const NONE: Term[] = [];
