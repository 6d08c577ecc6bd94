/** The one place where figures turn from the document's units into the user's, and back. */
import type { Quantity, Unit } from "../api/types";
import table from "./units.generated.json";

export type System = "metric" | "us" | "imperial";

/** A family of quantities, named by the document's unit. */
export type Family = Unit;

interface Shown {
  unit: string;
  /** user's figure = document's figure × factor + offset */
  factor: number;
  offset?: number;
  digits: number;
  /** leave out decimals that are zero */
  trim?: boolean;
}

// the table is the core's: see leadsman/core/base/unit_system.py
const SYSTEMS: Record<System, Record<Family, Shown>> = table;
/** what one of it is called */
const ONE: Partial<Record<Family, string>> = { d: "day" };

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
  const trimmed = trim ? text.replace(/\.0+$/, "") : text;
  return `${trimmed} ${trimmed === "1" ? (ONE[quantity.unit] ?? unit) : unit}`;
}

const LAND: Record<System, { unit: string; m2: number }> = {
  metric: { unit: "ha", m2: 10_000 },
  us: { unit: "acres", m2: 4046.8564224 },
  imperial: { unit: "acres", m2: 4046.8564224 },
};

/** An area of land, in hectares or acres. */
export function areaText(m2: number, system: System): string {
  const { unit, m2: one } = LAND[system];
  return `${figure(m2 / one, m2 < 10 * one ? 2 : 1)} ${unit}`;
}
