/** What can be read on the line, where, and while what runs. */
import type { Design } from "../../api/types";
import type { Family } from "../../shared/units";

export type ReadingKind = "timing" | "gauge" | "level";

export const READINGS: Record<
  ReadingKind,
  { text: string; key: string; label: string; family: Family; digits: number }
> = {
  timing: { text: "Pail", key: "seconds", label: "Full in", family: "s", digits: 1 },
  gauge: { text: "Gauge", key: "pressure_kpa", label: "It reads", family: "kPa", digits: 1 },
  level: { text: "Dipstick", key: "level_m", label: "Water stands", family: "m", digits: 2 },
};

/** Said of a dipstick: what went since the last one is a leak. */
export const QUIET = "quiet";

/** Ids of the parts at which something of a kind can be read. */
export function readable(document: Design, kind: ReadingKind): string[] {
  const outlets = (document.outlets ?? []).map(({ id }) => id);
  if (kind === "timing") return outlets;
  if (kind === "level")
    return (document.vessels ?? []).filter(({ role }) => role !== "trough").map(({ id }) => id);
  const ends = new Set((document.lines ?? []).flatMap((line) => [line.from, line.to]));
  return [...outlets, ...document.places.map(({ id }) => id).filter((id) => ends.has(id))];
}

/** What may run while something is read; empty where that does not matter. The first is the usual one. */
export function drawingsOf(
  document: Design,
  kind: ReadingKind,
  part: string,
): { value: string; text: string }[] {
  const alone = { value: "alone", text: "this one runs, the others are shut" };
  const all = { value: "all", text: "all run" };
  const none = { value: "none", text: "all are shut" };
  if (kind === "level")
    return [
      { value: "drunk", text: "animals drank since the last dipstick" },
      { value: QUIET, text: "nobody drank since the last dipstick" },
    ];
  if (kind === "timing") return [alone, all];
  return document.outlets?.some(({ id }) => id === part) ? [none, alone, all] : [none, all];
}
