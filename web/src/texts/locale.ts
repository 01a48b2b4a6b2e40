/** How this reader writes numbers and dates. The words are English; the decimal mark, the order of a date and its clock are the reader's own. */

/** A locale with the digits that can also be typed; British English for one nobody knows, such as a machine's "C". */
function known(tag: string): Intl.Locale {
  try {
    return new Intl.Locale(tag, { numberingSystem: "latn" });
  } catch {
    return new Intl.Locale("en-GB", { numberingSystem: "latn" });
  }
}

/** What the browser asks for. */
const LOCALE = known(navigator.language);
/** Names of months belong to the sentence around them: English, in the reader's own English where it is one. */
const ENGLISH = LOCALE.language === "en" ? LOCALE : "en-GB";

const numbers = new Map<number, Intl.NumberFormat>();

/** A number with so many decimals, in the reader's decimal mark and without marks between thousands. */
export function fixed(value: number, digits: number): string {
  let format = numbers.get(digits);
  if (!format) {
    format = new Intl.NumberFormat(LOCALE, { minimumFractionDigits: digits, maximumFractionDigits: digits, useGrouping: false });
    numbers.set(digits, format);
  }
  return format.format(value);
}

/** The reader's decimal mark. */
export const MARK = fixed(0.5, 1).slice(1, -1);

/** Whether a number as it is written is nothing: 0, 0.0. */
export const isNothing = (text: string) => !/[1-9]/.test(text);

/** Words of the core or of a label, whose numbers carry a point, with the reader's mark in its place. What has two points is no number. */
export const decimals = (words: string) => words.replace(/(?<![\w.])(\d+)\.(\d+)(?!\w|\.\d)/g, `$1${MARK}$2`);

/** A day: 5 Nov 2026. */
export const day = (when: string | Date) => new Date(when).toLocaleDateString(ENGLISH, { dateStyle: "medium" });

/** A day of this year or the last: 5 Nov. */
export const shortDay = (when: string | Date) => new Date(when).toLocaleDateString(ENGLISH, { day: "numeric", month: "short" });

/** A month of any year: Nov 26. */
export const month = (when: string | Date) => new Date(when).toLocaleDateString(ENGLISH, { month: "short", year: "2-digit" });

/** An amount of money, in its own currency and the reader's marks. */
export function amountOf(amount: number, currency: string): string {
  try {
    const digits = Number.isInteger(amount) ? 0 : 2;
    return new Intl.NumberFormat(LOCALE, {
      style: "currency",
      currency,
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
      useGrouping: false,
    }).format(amount);
  } catch {
    return `${fixed(amount, 2)} ${currency}`;
  }
}

/** A sum as a span in whole units, from so much on where some part has no price at all: "$56 to $287". */
export function sumOf({ low, high, currency }: { low: number; high: number | null; currency: string }): string {
  const [least, most] = [low, high].map((one) => (one == null ? null : amountOf(Math.round(one), currency)));
  if (most == null) return `${least} or more`;
  return least === most ? `${least}` : `${least} to ${most}`;
}

/** A day as a sheet of paper carries it: 5 November 2026. */
export const longDay = (when: string | Date) => new Date(when).toLocaleDateString(ENGLISH, { dateStyle: "long" });

/** A day and its minute: 5 Nov 2026, 14:05. */
export const minute = (when: string | Date) =>
  new Date(when).toLocaleString(ENGLISH, { dateStyle: "medium", timeStyle: "short" });

/** A minute of today: 14:05. */
export const clock = (when: string | Date) => new Date(when).toLocaleTimeString(ENGLISH, { hour: "2-digit", minute: "2-digit" });
