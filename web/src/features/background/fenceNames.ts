/** Where the names of paddocks stand on the plan. */
import type { Design } from "../../api/types";
import type { Area } from "../../shared/area";
import type { Scale } from "../../shared/fit";
import type { Spot } from "../../shared/way";

type Paddock = NonNullable<Design["paddocks"]>[number];

export interface Fence {
  paddock: Paddock;
  /** its corners in pixels */
  corners: Spot[];
  /** null where there is no room for it inside the fence */
  name: { text: string; x: number; y: number } | null;
}

const OVER_SOUTH_PX = 10;
const LETTER_PX = 6.4;
const LINE_PX = 14;

/** Paddocks with a fence round them, each with its name in the middle over its southern end. */
export function fencesOf(document: Design, scale: Scale): Fence[] {
  return (document.paddocks ?? [])
    .filter((paddock) => (paddock.corners ?? []).length > 2)
    .map((paddock) => {
      const corners = (paddock.corners ?? []).map(([x = 0, y = 0]): Spot => [scale.x(x), scale.y(y)]);
      const [west, east] = [Math.min(...corners.map(([x]) => x)), Math.max(...corners.map(([x]) => x))];
      const south = Math.max(...corners.map(([, y]) => y));
      const text = paddock.name ?? paddock.id;
      const fits = text.length * LETTER_PX <= east - west;
      return {
        paddock,
        corners,
        name: fits ? { text, x: (west + east) / 2, y: south - OVER_SOUTH_PX } : null,
      };
    });
}

/** What the names of paddocks cover: other labels keep off it. */
export const fenceNameAreas = (document: Design, scale: Scale): Area[] =>
  fencesOf(document, scale).flatMap(({ name }) => {
    if (!name) return [];
    const width = name.text.length * LETTER_PX;
    return [{ x: name.x - width / 2, y: name.y - LINE_PX + 3, width, height: LINE_PX }];
  });
