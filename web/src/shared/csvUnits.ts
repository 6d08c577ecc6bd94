/** Quantities of tables for a spreadsheet, in the user's units: bare numbers, with the unit in the heading. */
import { toShown, type Family, type System } from "./units";

const VOLUME: Record<System, string> = { metric: "l", us: "us_gal", imperial: "imp_gal" };

/** The unit of a volume as a heading has it. */
export const volumeUnit = (system: System): string => VOLUME[system];

/** A number in the user's unit, with no more digits than a spreadsheet needs. */
export function bare(value: number, family: Family, system: System): number {
  return system === "metric" ? value : Number(toShown(value, family, system).toPrecision(8));
}
