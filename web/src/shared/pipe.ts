/** Pipe as people call it. */
import type { Analysis } from "../api/types";
import { figure, shownUnit, toShown, type System } from "./units";

export type LinePipes = Analysis["pipes"];

/** A line's size as people call it: outside diameter where it is sold by that, else its bore. */
export function sizeLabel(pipe: LinePipes[string] | undefined, system: System): string {
  if (!pipe) return "";
  if (pipe.outside_mm !== null) return `${pipe.outside_mm} mm`;
  const digits = system === "metric" ? 0 : 2;
  return `${figure(toShown(pipe.bore_mm, "mm", system), digits)} ${shownUnit("mm", system)} bore`;
}
