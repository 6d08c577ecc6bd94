/** Level books: kinds of reading, a book to start with, and taking its heights over. */
import type { BookReport, Design, LevelBook, StaffReading } from "../../api/types";
import { setPlaceGround } from "../../shared/ground";
import { freeNumber } from "../../shared/names";

export type Sight = "first" | "between" | "moves" | "last";

/** What a reading is by what was read there. */
export function sightOf(reading: StaffReading): Sight {
  if (reading.mid_m != null) return "between";
  if (reading.fore_m != null) return reading.back_m != null ? "moves" : "last";
  return "first";
}

/** The same point read as another kind of sight. */
export function asSight(reading: StaffReading, sight: Sight): StaffReading {
  const read = reading.mid_m ?? reading.fore_m ?? reading.back_m ?? 1;
  const { place, name } = reading;
  const point = { ...(place == null ? {} : { place }), ...(name == null ? {} : { name }) };
  if (sight === "between") return { ...point, mid_m: read };
  if (sight === "moves") return { ...point, fore_m: read, back_m: reading.back_m ?? read };
  return sight === "last" ? { ...point, fore_m: read } : { ...point, back_m: read };
}

/** A book to start with at the first place. */
export function newBook(document: Design): LevelBook {
  const number = freeNumber(document.books, "book");
  const place = document.places[0]?.id ?? "";
  return { id: `book-${number}`, name: `Level book ${number}`, readings: [{ place, back_m: 1.5 }] };
}

/** Set the ground of every place that a book levelled, the first excepted, and say where it comes from. */
export function takeHeights(draft: Design, book: LevelBook, report: BookReport, errorM: number): void {
  const first = book.readings?.[0]?.place;
  (book.readings ?? []).forEach((reading, index) => {
    const point = report.points[index];
    const place = draft.places.find((one) => one.id === reading.place);
    if (!point || !place || place.id === first) return;
    setPlaceGround(draft, place.id, Number(point.adjusted_m.toFixed(3)));
    place.height_from = "level and staff";
    place.height_error_m = errorM;
  });
}

/** The half-width of a levelled height's error [m]: what it missed by, at least a centimetre. */
export const errorOf = (report: BookReport): number =>
  Number(Math.max(0.01, Math.abs(report.misclosure_m ?? 0.02)).toFixed(3));
