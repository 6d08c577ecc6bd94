/** How a line's pipe is drawn and named. */
import type { Catalogue, Line } from "../api/types";
import { figure, shownUnit, toShown, type System } from "./units";

const DEFAULT_BORE_MM = 25;

/** A line's bore [mm]: its own, else its product's. */
export function boreOf(line: Line, catalogue: Catalogue | undefined): number {
  const product = line.product ?? line.runs?.[0]?.product;
  return line.bore_mm ?? catalogue?.pipes.find((pipe) => pipe.id === product)?.bore_mm ?? DEFAULT_BORE_MM;
}

/** A line's size as people call it: outside diameter where it is sold by that, else its bore. */
export function sizeLabel(line: Line, catalogue: Catalogue | undefined, system: System): string {
  const outside = catalogue?.pipes.find((pipe) => pipe.id === line.product)?.outside_mm;
  if (outside) return `${outside} mm`;
  const digits = system === "metric" ? 0 : 2;
  return `${figure(toShown(boreOf(line, catalogue), "mm", system), digits)} ${shownUnit("mm", system)} bore`;
}
