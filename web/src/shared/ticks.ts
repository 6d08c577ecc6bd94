import { ticks } from "d3-array";

import { fromShown, toShown, type System } from "./units";

/** Heights or distances [m] that are round in the user's units. */
export function roundMetres(lowM: number, highM: number, count: number, system: System): number[] {
  const shown = (metres: number) => toShown(metres, "m", system);
  return ticks(shown(lowM), shown(highM), count).map((tick) => fromShown(tick, "m", system));
}
