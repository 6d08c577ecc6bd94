/** What a frost does to a vessel, in words. */
import type { WinterReport } from "../../api/types";
import { durationText } from "../../shared/duration";

/** The worst and the best of what may come, its unit said once. */
export const range = (text: (value: number) => string, [from, , to]: readonly [number, number, number]) =>
  text(from) === text(to) ? "" : `${text(from).split(" ")[0]} to ${text(to)}`;

/** A range after a figure; nothing where there is none. */
export const between = (text: string) => (text ? `, ${text}` : "");

/** How the vessel ends the frost. */
export function iceText({ empty_s, solid_s, closed_s, kept_open }: WinterReport["vessels"][number]): string {
  if (empty_s !== null) return `drawn empty after ${durationText(empty_s)}: nothing comes in`;
  if (solid_s !== null) return `ice all through after ${durationText(solid_s)}`;
  if (closed_s !== null) return `its outlet closes after ${durationText(closed_s)}`;
  return kept_open ? "kept free of ice by what is drawn" : "its outlet stays open";
}
