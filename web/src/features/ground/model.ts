/** Level books: kinds of reading, and taking its heights over. */
import type {
  BookReport,
  Design,
  DesignEdit,
  FlowCheck,
  LevelBook,
  NextReading,
  PlaceHeight,
  StaffReading,
} from "../../api/types";
import { troughName } from "../../shared/names";
import { quantityText, type System } from "../../shared/units";

export type SightKind = "first" | "between" | "moves" | "last";

export const SIGHTS: { value: SightKind; text: string }[] = [
  { value: "between", text: "intermediate sight" },
  { value: "moves", text: "turning point" },
  { value: "last", text: "closes the book" },
];

/** What a reading is by what was read there. */
export function sightOf(reading: StaffReading): SightKind {
  if (reading.mid_m != null) return "between";
  if (reading.fore_m != null) return reading.back_m != null ? "moves" : "last";
  return "first";
}

/** A reading of a kind; null where the backsight of a turning point is no reading yet: none is made up. */
export function readingOf(
  place: string,
  sight: SightKind,
  read: number,
  back: number | null = null,
): StaffReading | null {
  const point = place ? { place } : {};
  if (sight === "between") return { ...point, mid_m: read };
  if (sight === "first") return { ...point, back_m: read };
  if (sight === "last") return { ...point, fore_m: read };
  return back === null ? null : { ...point, fore_m: read, back_m: back };
}

/** The same point read as another kind of sight; null where that takes a backsight that is no reading yet. */
export function asSight(
  reading: StaffReading,
  sight: SightKind,
  back = reading.back_m ?? null,
): StaffReading | null {
  const read = reading.mid_m ?? reading.fore_m ?? reading.back_m;
  const { place, name } = reading;
  const made = read == null ? null : readingOf(place ?? "", sight, read, back);
  return made && (name == null ? made : { ...made, name });
}

/** The edits that give every place that a book levelled its ground, the first excepted, and say where it comes from. */
export function heightsTaken(book: LevelBook, report: BookReport, errorM: number): DesignEdit[] {
  const first = book.readings?.[0]?.place;
  return (book.readings ?? []).flatMap(({ place }, index) => {
    const point = report.points[index];
    if (!point || !place || place === first) return [];
    const ground_m = Number(point.adjusted_m.toFixed(3));
    return [
      {
        kind: "set_ground",
        place,
        ground_m,
        height_error_m: errorM,
        height_from: "level and staff",
      } as const,
    ];
  });
}

/** The half-width of a levelled height's error [m]: what it missed by, at least a centimetre. */
export const errorOf = (report: BookReport): number =>
  Number(Math.max(0.01, Math.abs(report.misclosure_m ?? 0.02)).toFixed(3));

/** What to do for a reading, in words: "level Fold", "time a pail at …". */
export function readingName(document: Design, one: NextReading): string {
  const lists = [document.places, document.lines ?? [], document.outlets ?? []];
  const part = lists.flat().find((known) => known.id === one.part);
  const name = part?.name ?? one.part;
  switch (one.kind) {
    case "height":
      return `level ${name}`;
    case "valve":
      return `time a pail at ${name}, with a gauge before its valve`;
    case "bore":
      return `measure the bore of ${name}`;
    default:
      return `time a pail at the end of ${name}`;
  }
}

/** The one sentence: which reading an answer turns on, and that the rest is good enough. */
export function nextSentence(document: Design, next: NextReading[]): string {
  const turning = next.filter((one) => one.turns);
  const first = turning[0];
  if (!first) return "No answer depends on values not known exactly: the measurements are good enough.";
  const upper = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
  const settled = first.settles ? ", and this would settle it" : ", though this alone would not settle it";
  const outlets = [...new Set(turning.map((one) => one.outlet))].filter((one) => one !== first.outlet);
  const then = outlets.flatMap((outlet) => {
    const best = turning.find((one) => one.outlet === outlet);
    return best ? [`${readingName(document, best)} (for ${troughName(document, outlet)})`] : [];
  });
  const begun = `${upper(readingName(document, first))}: the answer at ${troughName(document, first.outlet)} depends on it${settled}.`;
  return `${begun}${then.length ? ` Then ${then.join("; ")}.` : ""} The rest is good enough.`;
}

/** The edit that gives a place its height by all readings, with how good it is and the ways it comes from. */
export const heightTaken = (found: PlaceHeight): DesignEdit => ({
  kind: "set_ground",
  place: found.place,
  ground_m: Number(found.height_m.toFixed(3)),
  height_error_m: Number(Math.max(0.001, found.error_m).toFixed(3)),
  height_from: found.way,
});

/** A rise in words: "Low field 3.21 m under Beech gate, ± 0.02 m". */
export function riseTold(
  document: Design,
  rise: { from_place: string | null; to_place: string; rise_m: number; error_m: number },
  system: System,
): string {
  const metres = (value: number) => quantityText({ value, unit: "m" }, system);
  const nameOf = (id: string) => document.places.find((place) => place.id === id)?.name ?? id;
  if (rise.from_place === null)
    return `${nameOf(rise.to_place)} at ${metres(rise.rise_m)}, ± ${metres(rise.error_m)}`;
  const way = rise.rise_m < 0 ? "under" : "over";
  return `${nameOf(rise.to_place)} ${metres(Math.abs(rise.rise_m))} ${way} ${nameOf(rise.from_place)}, ± ${metres(rise.error_m)}`;
}

/** What a timed flow says of the plan, in words. */
export function flowTold(document: Design, check: FlowCheck, system: System): string {
  const flow = (value: number) => quantityText({ value, unit: "L/min" }, system);
  const metres = (value: number) => quantityText({ value: Math.abs(value), unit: "m" }, system);
  const where = troughName(document, check.outlet);
  const measured = `${where} gives ${flow(check.measured_lpm)} ± ${flow(check.error_lpm)} alone; the plan says ${flow(check.likely_lpm)}, ${flow(check.worst_lpm)} to ${flow(check.best_lpm)}.`;
  if (check.agrees) return `${measured} They agree.`;
  if (check.higher_m === null)
    return `${measured} No height explains it: check for a shut tap, a clogged filter or a different pipe.`;
  const span =
    check.least_m === null || check.most_m === null
      ? ""
      : `, between ${metres(check.least_m)} ${check.least_m < 0 ? "lower" : "higher"} and ${metres(check.most_m)} ${check.most_m < 0 ? "lower" : "higher"}`;
  return `${measured} It would fit if the place were ${metres(check.higher_m)} ${check.higher_m < 0 ? "lower" : "higher"} than planned${span}; or something in the line loses more or less than planned.`;
}

export interface BookPoint {
  name: string;
  levelM: number;
  spot: readonly [number, number] | null;
  moves: boolean;
}

/** The points of a book for its picture: names, levels before sharing out, and where on the plan they are. */
export function bookPoints(document: Design, book: LevelBook, report: BookReport): BookPoint[] {
  return (book.readings ?? []).flatMap((reading, index) => {
    const point = report.points[index];
    const place = document.places.find((one) => one.id === reading.place);
    if (!point) return [];
    return [
      {
        name: place?.name ?? reading.name ?? `${index + 1}`,
        levelM: point.level_m,
        spot: place ? ([place.east_m, place.north_m] as const) : null,
        moves: sightOf(reading) === "moves",
      },
    ];
  });
}
