/** Numbers for people: SI inside, converted here and nowhere else. */
import { decimals, fixed, isNothing, MARK } from "./locale";

export type Kind = "speed" | "way" | "length" | "span" | "mass" | "temp" | "small" | "grade" | "farad" | "plain";
export type UnitChoice = { speed: string; length: string; mass: string; temp: string; wire: string; small: string };

export const IMPERIAL: UnitChoice = { speed: "mph", length: "ft", mass: "lb", temp: "°F", wire: "AWG", small: "in" };
export const METRIC: UnitChoice = { speed: "km/h", length: "m", mass: "kg", temp: "°C", wire: "mm²", small: "mm" };

type Scale = { factor: number; offset?: number; digits: number };
const SCALES: Record<string, Scale> = {
  mph: { factor: 3600 / 1609.344, digits: 1 },
  "km/h": { factor: 3.6, digits: 1 },
  ft: { factor: 1 / 0.3048, digits: 1 },
  m: { factor: 1, digits: 2 },
  lb: { factor: 1 / 0.45359237, digits: 0 },
  kg: { factor: 1, digits: 0 },
  "°F": { factor: 1.8, offset: 32, digits: 0 },
  "°C": { factor: 1, offset: 0, digits: 0 },
  in: { factor: 1 / 0.0254, digits: 1 },
  mm: { factor: 1000, digits: 0 },
  mi: { factor: 1 / 1609.344, digits: 1 },
  km: { factor: 0.001, digits: 1 },
  cm: { factor: 100, digits: 0 },
  "%": { factor: 100, digits: 0 },
  µF: { factor: 1e6, digits: 0 },
  mΩ: { factor: 1000, digits: 0 },
};

/** Cross-sections by gauge in mm² (ASTM B258), for those who buy by the square millimetre. */
const MM2: Record<number, string> = {
  18: "0.82",
  16: "1.3",
  14: "2.1",
  12: "3.3",
  10: "5.3",
  8: "8.4",
  6: "13",
  4: "21",
  2: "34",
};

/** A span is a length one measures with a folding rule: a wheelbase, a lead. */
export const unitOf = (kind: Kind, units: UnitChoice, own = "") =>
  kind === "plain"
    ? own
    : kind === "grade"
      ? "%"
      : kind === "farad"
        ? "µF"
        : kind === "way"
          ? units.length === "ft"
            ? "mi"
            : "km"
          : kind === "span"
            ? units.length === "ft"
              ? "in"
              : "cm"
            : units[kind];

export function toShown(value: number, unit: string): number {
  const scale = SCALES[unit];
  return scale ? value * scale.factor + (scale.offset ?? 0) : value;
}

export function fromShown(value: number, unit: string): number {
  const scale = SCALES[unit];
  return scale ? (value - (scale.offset ?? 0)) / scale.factor : value;
}

/** Without zeros that say nothing: 7.40 is 7.4. */
const trim = (text: string) => {
  const [whole = "", part = ""] = text.split(MARK);
  const kept = part.replace(/0+$/, "");
  return kept ? `${whole}${MARK}${kept}` : whole;
};

/** A knob's marks run from 0 to 10. */
export const toMark = (share: number) => 10 * share;
export const fromMark = (mark: number) => mark / 10;

/** Ohms of packs and joints are so small that they are told in thousandths. */
export const milliohms = (ohm: number) => `${plainNumber(1000 * ohm, 1)} mΩ`;

/** A plain number with sensible digits: 7.4, 38, 1200. */
export function plainNumber(value: number, digits?: number): string {
  const places = digits ?? (Math.abs(value) < 10 ? 2 : Math.abs(value) < 100 ? 1 : 0);
  return trim(fixed(value, places));
}

export function shown(value: number, kind: Kind, units: UnitChoice, digits?: number): string {
  const unit = unitOf(kind, units);
  return fixed(toShown(value, unit), digits ?? SCALES[unit]?.digits ?? 1);
}

/** Lengths under two metres are told in inches or centimetres, as one measures them. */
export function withUnit(value: number, kind: Kind, units: UnitChoice): string {
  const told = kind === "length" && Math.abs(value) < 2 ? "span" : kind;
  return `${shown(value, told, units)} ${unitOf(told, units)}`;
}

export const wire = (awg: number, units: UnitChoice) => (units.wire === "AWG" ? `${awg} AWG` : `${MM2[awg] ?? "?"} mm²`);

export type WireSize = { awg: number; mm2?: number | null | undefined; strands?: number | undefined };

/** A wire as it is bought: by gauge or by mm², and how many side by side. */
export const sizeWords = (size: WireSize, units: UnitChoice) => {
  const one = size.mm2 == null ? wire(size.awg, units) : `${plainNumber(size.mm2)} mm²`;
  return (size.strands ?? 1) > 1 ? `${size.strands} × ${one}` : one;
};

export const sameSize = (a: WireSize | undefined, b: WireSize | undefined) =>
  a !== undefined &&
  b !== undefined &&
  a.awg === b.awg &&
  (a.mm2 ?? null) === (b.mm2 ?? null) &&
  (a.strands ?? 1) === (b.strands ?? 1);

/** A way ridden: metres or feet while it is short, then kilometres or miles. */
export function way(metres: number, units: UnitChoice): string {
  if (Math.abs(metres) < 300) return withUnit(metres, "length", units);
  const [size, name] = units.length === "ft" ? [1609.344, "mi"] : [1000, "km"];
  return `${plainNumber(metres / size, metres / size < 10 ? 2 : 1)} ${name}`;
}

/** Energy for each mile or kilometre, as ways are told. */
export const energyPerWay = (whPerKm: number, units: UnitChoice) =>
  units.length === "ft" ? `${plainNumber(whPerKm * 1.609344, 1)} Wh per mile` : `${plainNumber(whPerKm, 1)} Wh per km`;

/** A difference of temperatures. */
export const rise = (kelvin: number, units: UnitChoice) =>
  units.temp === "°F" ? `${fixed(kelvin * 1.8, 0)} °F` : `${fixed(kelvin, 0)} °C`;

/** What a change brings or costs, in few words: speed, minutes, volts; empty where none of them moves. */
export function priceWords(
  price: { top_speed_m_s: number | null; run_time_s: number | null; nominal_v: number | null },
  units: UnitChoice,
): string {
  const signed = (value: number, digits: number, unit: string) => {
    const text = fixed(Math.abs(value), digits);
    return isNothing(text) ? "" : `${value < 0 ? "−" : "+"}${text} ${unit}`;
  };
  return [
    signed(toShown(price.top_speed_m_s ?? 0, units.speed), 1, units.speed),
    signed((price.run_time_s ?? 0) / 60, 0, "min"),
    signed(price.nominal_v ?? 0, 0, "V"),
  ]
    .filter(Boolean)
    .join(", ");
}

export function duration(seconds: number): string {
  if (seconds < 100) return `${fixed(seconds, seconds < 10 ? 1 : 0)} s`;
  const minutes = Math.round(seconds / 60);
  return minutes < 120 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** How many of a thing: 1 step, 2 steps. */
export const countWords = (count: number, one: string, many = `${one}s`) => `${count} ${count === 1 ? one : many}`;

/** Parse what somebody typed: decimal point or comma, blanks around. Undefined for what is no number. */
export function parseNumber(text: string): number | undefined {
  const clean = text.trim().replace(/\s/g, "").replace(",", ".");
  if (!/^[-+]?(\d+\.?\d*|\.\d+)$/.test(clean)) return undefined;
  return Number(clean);
}

const TOKEN = /\[\[(-?[\d.e+-]+)\|(\w+)\]\]/g;

/** A sentence of the core with its quantities in this garage's units and its numbers as this reader writes them. */
export function sentence(text: string, units: UnitChoice): string {
  const told = text.replace(TOKEN, (_all, number: string, kind: string) => {
    const value = Number(number);
    if (kind === "awg") return wire(value, units);
    if (kind === "rise") return rise(value, units);
    return withUnit(value, kind as Kind, units);
  });
  return decimals(told);
}
