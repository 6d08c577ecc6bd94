/** Where the parts of a document stand. */
import type { Design, Place } from "../api/types";
import { standing } from "./standing";

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
    standsAt: new Map(standing(document).map((part) => [part.id, part.place])),
    places: new Map(document.places.map((place) => [place.id, place])),
  };
  if (Object.isFrozen(document)) indexed.set(document, made);
  return made;
}

/** The place at which a line's end stands: itself, or where its vessel, outlet or source stands. */
export function placeIdOf(document: Design, end: string): string {
  if (Object.isFrozen(document)) return indexOf(document).standsAt.get(end) ?? end; // immer freezes what is done
  const stands = standing(document).find((part) => part.id === end);
  return stands?.place ?? end;
}

/** The place at which a part stands, or of that id. */
export function placeOfPart(document: Design, id: string): Place | undefined {
  const placeId = placeIdOf(document, id);
  if (Object.isFrozen(document)) return indexOf(document).places.get(placeId);
  return document.places.find((one) => one.id === placeId);
}
