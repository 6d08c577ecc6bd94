/** Paddocks drawn on the plan, and how far their farthest grass is from the water. */
import type { Design } from "../../api/types";
import { placeOfPart } from "../../shared/ground";
import { freeNumber } from "../../shared/names";
import type { Spot } from "../../shared/way";
import { cm } from "./stand";

/** The straight way from an outlet to the farthest of some corners [m]. */
export function farthestFrom(document: Design, outletId: string, corners: readonly Spot[]): number {
  const place = placeOfPart(document, outletId);
  if (!place || !corners.length) return 0;
  return Math.max(...corners.map(([x, y]) => Math.hypot(x - place.east_m, y - place.north_m)));
}

const asDrawn = (corners: readonly Spot[]) => corners.map(([x, y]) => [cm(x), cm(y)]);

/** Fence a paddock in; return its id. How far its grass is from the water follows from where it lies. */
export function addPaddock(draft: Design, corners: readonly Spot[], name: string, outlet: string): string {
  const id = `paddock-${freeNumber(draft.paddocks, "paddock")}`;
  draft.paddocks = [...(draft.paddocks ?? []), { id, name, outlet, corners: asDrawn(corners) }];
  return id;
}

/** Give a paddock other corners; with fewer than three it is no longer drawn. */
export function setFence(draft: Design, paddockId: string, corners: readonly Spot[]): void {
  const paddock = draft.paddocks?.find((one) => one.id === paddockId);
  if (paddock) paddock.corners = corners.length < 3 ? [] : asDrawn(corners);
}
