/** Changes of heights and lengths that touch several parts of the document at once. */
import type { Design, Place } from "../api/types";

interface Index {
  standsAt: Map<string, string>;
  places: Map<string, Place>;
}

const indexed = new WeakMap<Design, Index>();

/** Parts of a document by id, made once for each; what is being changed is never remembered. */
function indexOf(document: Design): Index {
  const known = indexed.get(document);
  if (known) return known;
  const made = {
    standsAt: new Map(
      [...(document.outlets ?? []), ...(document.vessels ?? [])].map((part) => [part.id, part.place]),
    ),
    places: new Map(document.places.map((place) => [place.id, place])),
  };
  if (Object.isFrozen(document)) indexed.set(document, made);
  return made;
}

/** The place at which a line's end stands: itself, or its vessel's or outlet's. */
export function placeIdOf(document: Design, end: string): string {
  if (Object.isFrozen(document)) return indexOf(document).standsAt.get(end) ?? end; // immer freezes what is done
  const stands = [...(document.vessels ?? []), ...(document.outlets ?? [])].find((part) => part.id === end);
  return stands?.place ?? end;
}

/** The place at which a part stands, or of that id. */
export function placeOfPart(document: Design, id: string): Place | undefined {
  const placeId = placeIdOf(document, id);
  if (Object.isFrozen(document)) return indexOf(document).places.get(placeId);
  return document.places.find((one) => one.id === placeId);
}

/** Set a place's ground height, and the ends of the lines that stand there with it. */
export function setPlaceGround(document: Design, placeId: string, groundM: number): void {
  const place = document.places.find((one) => one.id === placeId);
  if (place) place.ground_m = groundM;
  for (const line of document.lines ?? []) {
    const points = line.points ?? [];
    if (placeIdOf(document, line.from) === placeId && points[0]) points[0][1] = groundM;
    const last = points.at(-1);
    if (placeIdOf(document, line.to) === placeId && last) last[1] = groundM;
  }
}

/** Set the ground height at one surveyed point of a line; at its ends this moves the place. */
export function setPointGround(document: Design, lineId: string, index: number, groundM: number): void {
  const line = (document.lines ?? []).find((one) => one.id === lineId);
  if (!line) return;
  const points = line.points ?? [];
  if (index === 0) setPlaceGround(document, placeIdOf(document, line.from), groundM);
  else if (index >= points.length - 1) setPlaceGround(document, placeIdOf(document, line.to), groundM);
  else {
    const point = points[index];
    if (point) point[1] = groundM;
  }
}

/** Set a line's length: its surveyed points and parts keep their share of it. */
export function setLineLength(document: Design, lineId: string, lengthM: number): void {
  const line = (document.lines ?? []).find((one) => one.id === lineId);
  if (!line?.length_m || lengthM <= 0) return;
  const share = lengthM / line.length_m;
  line.length_m = lengthM;
  for (const point of line.points ?? []) point[0] = Number(((point[0] ?? 0) * share).toFixed(3));
  for (const part of line.inline ?? []) part.at_m = Math.min(lengthM, Number((part.at_m * share).toFixed(3)));
}
