/** The one place where figures turn from the document's units into the user's, and back. */
import type { Quantity, Unit } from "../api/types";

export type System = "metric" | "us" | "imperial";

/** A family of quantities, named by the document's unit; bore, mass and Kv are only typed, never sent as words. */
export type Family = Unit | "m³/h";

interface Shown {
  unit: string;
  /** user's figure = document's figure × factor + offset */
  factor: number;
  offset?: number;
  digits: number;
  /** leave out decimals that are zero */
  trim?: boolean;
}

const FOOT_M = 0.3048;
const US_GALLON_L = 3.785411784;
const IMPERIAL_GALLON_L = 4.54609;
const PSI_KPA = 6.894757293168;
const POUND_KG = 0.45359237;

const METRIC: Record<Family, Shown> = {
  m: { unit: "m", factor: 1, digits: 2 },
  mm: { unit: "mm", factor: 1, digits: 1 },
  "L/min": { unit: "L/min", factor: 1, digits: 1 },
  L: { unit: "L", factor: 1, digits: 0 },
  "L/d": { unit: "L/day", factor: 1, digits: 0 },
  kPa: { unit: "kPa", factor: 1, digits: 1, trim: true },
  min: { unit: "min", factor: 1, digits: 0 },
  d: { unit: "days", factor: 1, digits: 1, trim: true },
  "°C": { unit: "°C", factor: 1, digits: 1, trim: true },
  kg: { unit: "kg", factor: 1, digits: 0 },
  "m³/h": { unit: "m³/h at 1 bar", factor: 1, digits: 2 },
  s: { unit: "s", factor: 1, digits: 0 },
  count: { unit: "", factor: 1, digits: 0 },
  "m/s": { unit: "m/s", factor: 1, digits: 2 },
};

const US: Record<Family, Shown> = {
  ...METRIC,
  m: { unit: "ft", factor: 1 / FOOT_M, digits: 1 },
  mm: { unit: "in", factor: 1 / 25.4, digits: 3 },
  "L/min": { unit: "gal/min", factor: 1 / US_GALLON_L, digits: 2 },
  L: { unit: "gal", factor: 1 / US_GALLON_L, digits: 0 },
  "L/d": { unit: "gal/day", factor: 1 / US_GALLON_L, digits: 0 },
  kPa: { unit: "psi", factor: 1 / PSI_KPA, digits: 1, trim: true },
  "°C": { unit: "°F", factor: 1.8, offset: 32, digits: 0 },
  kg: { unit: "lb", factor: 1 / POUND_KG, digits: 0 },
  "m/s": { unit: "ft/s", factor: 1 / FOOT_M, digits: 1 },
  // Cv = Kv × (1 m³/h in gal/min) / √(1 bar in psi)
  "m³/h": { unit: "gal/min at 1 psi", factor: 1000 / 60 / US_GALLON_L / Math.sqrt(100 / PSI_KPA), digits: 2 },
};

/** Imperial gallons with feet and pounds a square inch; heat and weight stay metric, as they are used with them. */
const IMPERIAL: Record<Family, Shown> = {
  ...US,
  "L/min": { unit: "imp gal/min", factor: 1 / IMPERIAL_GALLON_L, digits: 2 },
  L: { unit: "imp gal", factor: 1 / IMPERIAL_GALLON_L, digits: 0 },
  "L/d": { unit: "imp gal/day", factor: 1 / IMPERIAL_GALLON_L, digits: 0 },
  "°C": METRIC["°C"],
  kg: METRIC.kg,
  "m³/h": METRIC["m³/h"],
};

const SYSTEMS: Record<System, Record<Family, Shown>> = { metric: METRIC, us: US, imperial: IMPERIAL };

export function shownUnit(family: Family, system: System): string {
  return SYSTEMS[system][family].unit;
}

export function shownDigits(family: Family, system: System): number {
  return SYSTEMS[system][family].digits;
}

const TRICKLE_LPM = 1;

/** Decimals for a figure: one more than usual for a flow that is a trickle. */
export function digitsOf(value: number, family: Family, system: System): number {
  const trickle = family === "L/min" && Math.abs(value) < TRICKLE_LPM;
  return shownDigits(family, system) + (trickle ? 1 : 0);
}

/** Turn the document's figure into the user's. */
export function toShown(value: number, family: Family, system: System): number {
  const { factor, offset = 0 } = SYSTEMS[system][family];
  return value * factor + offset;
}

/** Turn the user's figure into the document's, rounded to nine significant digits so that none drift. */
export function fromShown(value: number, family: Family, system: System): number {
  const { factor, offset = 0 } = SYSTEMS[system][family];
  return Number(((value - offset) / factor).toPrecision(9));
}

const THIN_SPACE = "\u202f";

/** Return a figure with thin spaces between thousands and a true minus sign. */
export function figure(value: number, digits: number): string {
  const fixed = Math.abs(value).toFixed(digits);
  const [whole = "0", part] = fixed.split(".");
  const grouped = whole.replace(/\B(?=(\d{3})+(?!\d))/g, THIN_SPACE);
  const sign = value < 0 && Number(fixed) !== 0 ? "−" : "";
  return sign + grouped + (part ? `.${part}` : "");
}

/** Return a quantity as text in the user's units. */
export function quantityText(quantity: Quantity, system: System): string {
  const { unit, trim } = SYSTEMS[system][quantity.unit];
  const digits = quantity.digits ?? digitsOf(quantity.value, quantity.unit, system);
  const text = figure(toShown(quantity.value, quantity.unit, system), digits);
  return `${trim ? text.replace(/\.0+$/, "") : text} ${unit}`;
}

/** Read what somebody typed: point or comma, spaces between thousands; null where it is no number. */
export function typedNumber(text: string): number | null {
  const plain = text
    .trim()
    .replace(/[\s\u202f]/g, "")
    .replace(",", ".")
    .replace("−", "-");
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : null;
}
