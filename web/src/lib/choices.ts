/** What a field may be, as it is offered: the values come from the document's schema, here only the words for them are written. */
import { CHOICES, MOST } from "../api/choices";
import { decimals } from "../texts/locale";

export { MOST };

export type Option = readonly [value: string, label: string];
type Place = keyof typeof CHOICES;
type Value<P extends Place> = `${(typeof CHOICES)[P][number]}`;

/** The values of a field. */
export const valuesOf = <P extends Place>(place: P): (typeof CHOICES)[P] => CHOICES[place];

/** The choices of a field in its own order, each in its own words where no others are given, without those that are not offered here. */
export const choices = <P extends Place>(
  place: P,
  words: { readonly [V in Value<P>]?: string } = {},
  without: readonly Value<P>[] = [],
): Option[] =>
  CHOICES[place]
    .map((value) => String(value) as Value<P>)
    .filter((value) => !without.includes(value))
    .map((value) => [value, words[value] ?? decimals(value)]);
