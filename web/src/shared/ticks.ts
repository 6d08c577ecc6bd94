import { ticks } from "d3-array";

import { fromShown, toShown, type System } from "./units";

/** Heights or distances [m] that are round in the user's units. */
export function roundMetres(lowM: number, highM: number, count: number, system: System): number[] {
  const shown = (metres: number) => toShown(metres, "m", system);
  return ticks(shown(lowM), shown(highM), count).map((tick) => fromShown(tick, "m", system));
}

/** How many decimals tell neighbouring ticks [m] apart in the user's units. */
export function tickDigits(metres: readonly number[], system: System): number {
  const [first, second] = metres.map((tick) => toShown(tick, "m", system));
  if (first === undefined || second === undefined) return 0;
  return Math.max(0, -Math.floor(Math.log10(Math.abs(second - first)) + 1e-9));
}
