/** Fields bound to a Setup document: typed text and parsed number are separate, so half-typed input is never destroyed. */

import { Popover } from "radix-ui";
import {
  type ComponentType,
  createContext,
  memo,
  type ReactNode,
  useContext,
  useEffect,
  useId,
  useLayoutEffect,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import type { Problem } from "../api/client";
import type { Option } from "../lib/choices";
import { type Doc, type Json, read } from "../lib/pointer";
import { useSettings } from "../lib/settings";
import { field as say } from "../texts/ui";
import { fromShown, type Kind, parseNumber, plainNumber, sentence, toShown, unitOf } from "../texts/units";
import { type Basis, BasisGlyph } from "./Glyph";

export interface FormScope {
  doc: Doc;
  edit: (pointer: string, value: Json) => void;
  problems: Problem[];
  help: (pointer: string) => string;
  assumed: Record<string, number>;
  /** Whether a plain number is the typical one still, which nobody typed. */
  untyped?: (pointer: string) => boolean;
}

/** The scope as fields hear of it: each asks for its own part, so that a key press draws the fields whose part changed and no others. */
interface Store {
  now: FormScope;
  listeners: Set<() => void>;
  listen: (told: () => void) => () => void;
}
const Scope = createContext<Store | null>(null);

export function FormProvider({ value, children }: { value: FormScope; children: ReactNode }) {
  const kept = useRef<Store>(null);
  if (kept.current === null) {
    const listeners = new Set<() => void>();
    const listen = (told: () => void) => {
      listeners.add(told);
      return () => void listeners.delete(told);
    };
    kept.current = { now: value, listeners, listen };
  }
  const store = kept.current;
  store.now = value;
  useLayoutEffect(() => {
    for (const told of store.listeners) told();
  });
  return <Scope.Provider value={store}>{children}</Scope.Provider>;
}

function useStore(): Store {
  const store = useContext(Scope);
  if (!store) throw new Error("FormProvider is missing");
  return store;
}

/** The whole scope, for who shows much of it. */
export function useForm(): FormScope {
  const store = useStore();
  return useSyncExternalStore(store.listen, () => store.now);
}

/** A part of the scope; drawn anew only when that part is another one. */
export function usePart<T>(pick: (scope: FormScope) => T): T {
  const store = useStore();
  return useSyncExternalStore(store.listen, () => pick(store.now));
}

function useEdit(): FormScope["edit"] {
  const store = useStore();
  return useRef<FormScope["edit"]>((pointer, value) => store.now.edit(pointer, value)).current;
}

const useValue = (pointer: string) => usePart((scope) => read(scope.doc, pointer));
const useProblem = (pointer: string) => usePart((scope) => scope.problems.find((p) => p.path === pointer)?.message);

/** Whether two sets of props say the same; choices are lists of words, written out anew by each who shows the field. */
const alike = (a: unknown, b: unknown): boolean =>
  Object.is(a, b) || (Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((one, i) => alike(one, b[i])));
function fieldOf<P extends object>(field: ComponentType<P>) {
  return memo(field, (before, after) => {
    const keys = new Set([...Object.keys(before), ...Object.keys(after)]) as Set<keyof P>;
    return [...keys].every((key) => typeof after[key] !== "function" && alike(before[key], after[key]));
  });
}

const HELP = "noprint ml-1 inline-grid size-[18px] place-items-center rounded-full border border-strong text-micro text-ink3";

/** A word of help: what opens it is there from the start, what it opens only once somebody did. */
function Help({ text, label }: { text: string; label: string }) {
  const [asked, setAsked] = useState(false);
  if (!text) return null;
  const words = say.helpWith(label);
  if (!asked)
    return (
      <button type="button" className={HELP} aria-label={words} aria-haspopup="dialog" onClick={() => setAsked(true)}>
        ?
      </button>
    );
  return (
    <Popover.Root defaultOpen>
      <Popover.Trigger className={HELP} aria-label={words}>
        ?
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu max-w-[270px] px-3 py-2 text-small" sideOffset={4}>
          {text}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

export function Labelled({
  label,
  pointer,
  aside,
  problem,
  children,
  htmlFor,
}: {
  label: string;
  pointer?: string;
  aside?: ReactNode;
  problem?: string | undefined;
  children: ReactNode;
  htmlFor?: string;
}) {
  const help = usePart((scope) => (pointer ? scope.help(pointer) : ""));
  const { units } = useSettings();
  return (
    <div className="min-w-0">
      <div className="mb-1 flex items-center justify-between gap-2 text-small">
        <span className="min-w-0">
          <label htmlFor={htmlFor} className="font-bold text-ink2">
            {label}
          </label>
          {pointer && <Help text={help} label={label} />}
        </span>
        {aside}
      </div>
      {children}
      {problem && (
        <p role="alert" className="mt-1 text-small font-semibold text-hottext">
          {sentence(problem, units)}
        </p>
      )}
    </div>
  );
}

const NEXT: Record<Basis, Basis> = { measured: "nameplate", nameplate: "assumed", assumed: "measured" };

/** A number in its field: what was typed as it was typed, what is assumed with no more digits than it deserves. */
function written(number: number, unit: string, guess: boolean): string {
  const value = toShown(number, unit);
  const most = Math.abs(value) < 0.1 ? 5 : Math.abs(value) < 1 ? 3 : 2;
  const near = guess ? 2e-3 * Math.abs(value) : 1e-7 * Math.abs(value);
  for (let digits = 0; digits < most; digits++)
    if (Math.abs(Number(value.toFixed(digits)) - value) <= near) return plainNumber(value, digits);
  return plainNumber(value, most);
}

interface NumberProps {
  label: string;
  pointer: string;
  kind?: Kind;
  unit?: string;
  /** A figure carries a basis; a plain number (rating of a fuse, a count) does not. */
  plain?: boolean;
  whole?: boolean;
  /** Shown greyed while empty: what is assumed. */
  typical?: string;
}

export const NumberField = fieldOf(function NumberField({
  label,
  pointer,
  kind = "plain",
  unit = "",
  plain = false,
  whole = false,
  typical,
}: NumberProps) {
  const edit = useEdit();
  const guessed = usePart((scope) => scope.untyped?.(pointer) ?? false);
  const noted = usePart((scope) => scope.assumed[pointer]);
  const refused = usePart((scope) => scope.problems.find((p) => p.path === pointer || p.path.startsWith(`${pointer}/`))?.message);
  const { units } = useSettings();
  const id = useId();
  const shownUnit = unitOf(kind, units, unit);
  const value = useValue(pointer);
  const figure = value !== null && typeof value === "object" && !Array.isArray(value) ? value : null;
  const number = plain ? (typeof value === "number" ? value : null) : typeof figure?.value === "number" ? figure.value : null;
  const basis = (figure?.basis as Basis | undefined) ?? "assumed";
  const asText = number === null ? "" : written(number, shownUnit, !plain && basis === "assumed");
  const [text, setText] = useState(asText);
  const [trouble, setTrouble] = useState<string>();
  useEffect(() => {
    const typed = parseNumber(text);
    const same =
      number === null
        ? text.trim() === ""
        : typed !== undefined && Math.abs(fromShown(typed, shownUnit) - number) < 1e-9 + Math.abs(number) * 1e-3;
    if (!same && !trouble) setText(asText);
  }, [asText, number, shownUnit, text, trouble]);

  const type = (typed: string) => {
    setText(typed);
    if (typed.trim() === "") {
      setTrouble(undefined);
      return edit(pointer, null);
    }
    const parsed = parseNumber(typed);
    if (parsed === undefined) return setTrouble(say.thisMustBeA);
    if (whole && !Number.isInteger(parsed)) return setTrouble(say.thisMustBeAWhole);
    setTrouble(undefined);
    const si = fromShown(parsed, shownUnit);
    // Whoever types a number has read it somewhere; that it is a guess after all is one click on its basis.
    edit(pointer, plain ? si : { value: si, basis: basis === "measured" ? "measured" : "nameplate" });
  };
  const problem = trouble ?? refused;
  const guess = typical ?? (noted === undefined ? undefined : written(noted, shownUnit, true));
  return (
    <Labelled
      label={label}
      pointer={pointer}
      problem={problem}
      htmlFor={id}
      aside={
        number === null ? null : plain ? (
          guessed && (
            <span className="inline-flex items-center gap-1 px-1 text-micro text-ink3">
              <BasisGlyph basis="assumed" /> {say.assumed}
            </span>
          )
        ) : (
          <button
            type="button"
            className="inline-flex items-center gap-1 rounded px-1 text-micro text-ink3"
            onClick={() => edit(pointer, { ...figure, value: number, basis: NEXT[basis] })}
            title={say.changeWhereThisNumber}
          >
            <BasisGlyph basis={basis} /> {basis}
          </button>
        )
      }
    >
      <div className="relative">
        <input
          id={id}
          className="input pr-12"
          inputMode="decimal"
          autoComplete="off"
          value={text}
          placeholder={guess ? say.typical(guess) : say.notKnown}
          aria-invalid={problem ? true : undefined}
          onChange={(event) => type(event.target.value)}
          onBlur={() => {
            if (trouble) return;
            setText(asText);
          }}
        />
        <span className="pointer-events-none absolute top-1/2 right-3 -translate-y-1/2 text-small text-ink3">{shownUnit}</span>
      </div>
    </Labelled>
  );
});

export const TextField = fieldOf(function TextField({
  label,
  pointer,
  long = false,
}: {
  label: string;
  pointer: string;
  long?: boolean;
}) {
  const edit = useEdit();
  const id = useId();
  const value = useValue(pointer);
  const text = typeof value === "string" ? value : "";
  const problem = useProblem(pointer);
  const props = {
    id,
    value: text,
    className: `input ${long ? "min-h-16 py-2" : ""}`,
    "aria-invalid": problem ? true : undefined,
  } as const;
  return (
    <Labelled label={label} pointer={pointer} problem={problem} htmlFor={id}>
      {long ? (
        <textarea {...props} onChange={(e) => edit(pointer, e.target.value)} />
      ) : (
        <input {...props} onChange={(e) => edit(pointer, e.target.value)} />
      )}
    </Labelled>
  );
});

/** A day, without its clock. */
export const DateField = fieldOf(function DateField({ label, pointer }: { label: string; pointer: string }) {
  const edit = useEdit();
  const id = useId();
  const value = useValue(pointer);
  const problem = useProblem(pointer);
  return (
    <Labelled label={label} pointer={pointer} problem={problem} htmlFor={id}>
      <input
        id={id}
        type="date"
        className="input"
        value={typeof value === "string" ? value : ""}
        aria-invalid={problem ? true : undefined}
        onChange={(e) => edit(pointer, e.target.value || null)}
      />
    </Labelled>
  );
});

export const SelectField = fieldOf(function SelectField({
  label,
  pointer,
  options,
  onPick,
}: {
  label: string;
  pointer: string;
  options: readonly Option[];
  onPick?: (value: string) => void;
}) {
  const edit = useEdit();
  const id = useId();
  const value = useValue(pointer);
  const problem = useProblem(pointer);
  const known = options.some(([v]) => v === String(value));
  return (
    <Labelled label={label} pointer={pointer} problem={problem} htmlFor={id}>
      <select
        id={id}
        className="input"
        value={known ? String(value) : ""}
        onChange={(event) => {
          const picked = event.target.value;
          if (onPick) return onPick(picked);
          edit(pointer, typeof value === "number" ? Number(picked) : picked);
        }}
      >
        {!known && <option value="">{say.choose}</option>}
        {options.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    </Labelled>
  );
});

export function Segmented({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly Option[];
  onChange: (value: string) => void;
}) {
  return (
    <fieldset className="seg max-w-full" aria-label={label}>
      {options.map(([v, words]) => (
        <button type="button" key={v} aria-pressed={v === value} onClick={() => onChange(v)}>
          {words}
        </button>
      ))}
    </fieldset>
  );
}

export const SegmentField = fieldOf(function SegmentField({
  label,
  pointer,
  options,
  fallback,
}: {
  label: string;
  pointer: string;
  options: readonly Option[];
  fallback?: string;
}) {
  const edit = useEdit();
  const value = useValue(pointer);
  return (
    <Labelled label={label} pointer={pointer}>
      <Segmented
        label={label}
        value={String(value ?? fallback ?? "")}
        options={options}
        onChange={(v) => edit(pointer, v === "true" ? true : v === "false" ? false : v)}
      />
    </Labelled>
  );
});

const YES_NO = [
  ["yes", "yes"],
  ["no", "no"],
] as const;

/** A fact one has to look at: yes, no, or nobody has looked yet. */
export const LookField = fieldOf(function LookField({
  label,
  pointer,
  options = YES_NO,
}: {
  label: string;
  pointer: string;
  options?: readonly Option[];
}) {
  const edit = useEdit();
  const value = useValue(pointer);
  return (
    <Labelled label={label} pointer={pointer}>
      <Segmented
        label={label}
        value={value === true ? "yes" : value === false ? "no" : ""}
        options={options}
        onChange={(v) => edit(pointer, v === (value === true ? "yes" : value === false ? "no" : "") ? null : v === "yes")}
      />
    </Labelled>
  );
});

/** Several words of a list, each on or off. */
export const ManyField = fieldOf(function ManyField({
  label,
  pointer,
  options,
}: {
  label: string;
  pointer: string;
  options: readonly Option[];
}) {
  const edit = useEdit();
  const value = (useValue(pointer) as string[] | null | undefined) ?? [];
  return (
    <Labelled label={label} pointer={pointer}>
      <fieldset className="flex flex-wrap gap-1.5" aria-label={label}>
        {options.map(([v, words]) => (
          <button
            key={v}
            type="button"
            className="btn !min-h-8 !px-2 max-desk:!min-h-11"
            aria-pressed={value.includes(v)}
            onClick={() => edit(pointer, value.includes(v) ? value.filter((one) => one !== v) : [...value, v])}
          >
            {words}
          </button>
        ))}
      </fieldset>
    </Labelled>
  );
});

export const CheckField = fieldOf(function CheckField({ label, pointer }: { label: string; pointer: string }) {
  const edit = useEdit();
  const checked = useValue(pointer) === true;
  const help = usePart((scope) => scope.help(pointer));
  const id = useId();
  return (
    <div className="flex min-h-9 items-center gap-2">
      <input
        id={id}
        type="checkbox"
        className="size-5 accent-[var(--leaf-deep)]"
        checked={checked}
        onChange={(e) => edit(pointer, e.target.checked)}
      />
      <label htmlFor={id}>{label}</label>
      <Help text={help} label={label} />
    </div>
  );
});
