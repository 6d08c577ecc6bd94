/** What stands on the plan: places, and what can be set down on them. */
import type { Design, Place } from "../../api/types";
import { freeNumber } from "../../shared/names";
import type { Spot } from "../../shared/way";
import { shapeOf, STARTS, type Start } from "./site";

export type End = "trough" | "tap" | "tank" | "junction";
export type Thing = Exclude<End, "tank"> | Start;

const SAME_SPOT_M = 0.05;

/** A coordinate as the document keeps it: to the centimetre. */
export const cm = (metres: number) => Number(metres.toFixed(2));

export const near = (a: Spot, b: Spot, withinM = SAME_SPOT_M) =>
  Math.hypot(a[0] - b[0], a[1] - b[1]) <= withinM;

/** The place at a spot of the plan, where one is. */
export function placeAt(document: Design, spot: Spot): Place | undefined {
  return document.places.find((place) => near([place.east_m, place.north_m], spot));
}

/** Put a new place on the plan; return its id. */
export function addPlace(draft: Design, [x, y]: Spot, name: string, groundM: number): string {
  const id = `place-${freeNumber(draft.places, "place")}`;
  draft.places.push({ id, name, east_m: cm(x), north_m: cm(y), ground_m: cm(groundM) });
  return id;
}

/** Set a thing down at a place; return the id that a line to it ends on. */
export function addThing(draft: Design, placeId: string, thing: Thing, name: string): string {
  if (thing === "junction") return placeId;
  if (thing === "tap") return addTap(draft, placeId, name);
  if (thing === "trough") return addTrough(draft, placeId, name);
  const { role, level } = STARTS[thing];
  const vessels = (draft.vessels ??= []);
  const id = `vessel-${freeNumber(vessels, "vessel")}`;
  vessels.push({
    id,
    name,
    role,
    place: placeId,
    shape: shapeOf(thing),
    stand_m: 0,
    outlet_m: 0.1,
    level_m: level,
    assumed: ["shape", "level_m"],
  });
  return id;
}

function addTap(draft: Design, placeId: string, name: string): string {
  const outlets = (draft.outlets ??= []);
  const id = `outlet-${freeNumber(outlets, "outlet")}`;
  outlets.push({
    id,
    name,
    place: placeId,
    kind: "open_end",
    height_m: 0.6,
    bore_mm: 20,
    assumed: ["height_m", "bore_mm"],
  });
  return id;
}

function addTrough(draft: Design, placeId: string, name: string): string {
  const vessels = (draft.vessels ??= []);
  const outlets = (draft.outlets ??= []);
  const vesselId = `vessel-${freeNumber(vessels, "vessel")}`;
  const id = `outlet-${freeNumber(outlets, "outlet")}`;
  vessels.push({
    id: vesselId,
    name,
    role: "trough",
    place: placeId,
    shape: { kind: "box", length_m: 2, width_m: 0.6, height_m: 0.5 },
    stand_m: 0,
    overflow_m: 0.46,
    level_m: 0.1,
    assumed: ["shape", "overflow_m", "level_m"],
  });
  const valve = { kv_m3h: 2, closes_at_m: 0.4, band_m: 0.05 };
  const where = { place: placeId, fills: vesselId, height_m: 0.5 };
  outlets.push({
    id,
    name: `${name} valve`,
    kind: "float_valve",
    ...where,
    valve,
    assumed: ["height_m", "kv_m3h", "closes_at_m", "band_m"],
  });
  return id;
}
