/** What lies under a hand on the plan: a place, or a line that passes there. */
import type { Design, Line, Place } from "../../api/types";
import { wayLength, wayOf, type Spot } from "../../shared/way";

export interface OnLine {
  line: string;
  /** of the way on the plan, 0 to 1 */
  share: number;
  spot: Spot;
  offM: number;
}

const SAME_SPOT_M = 0.05;
const ON_LINE_M = 0.25;
const AT_AN_END = 0.002;

/** The place at a spot of the plan, where one is. */
export function placeAt(document: Design, [x, y]: Spot): Place | undefined {
  return document.places.find((place) => Math.hypot(place.east_m - x, place.north_m - y) <= SAME_SPOT_M);
}

/** Whether something is at a spot that a line can begin or end on: a place, or another line. */
export const standsOn = (document: Design, spot: Spot): boolean =>
  Boolean(placeAt(document, spot) ?? lineAt(document, spot, ON_LINE_M));

/** The point of a line that lies nearest to a spot. */
export function nearestOn(document: Design, line: Line, [x, y]: Spot): OnLine {
  const way = wayOf(document, line);
  const total = wayLength(way);
  let best: OnLine = { line: line.id, share: 0, spot: way[0] ?? [0, 0], offM: Infinity };
  let before = 0;
  for (let index = 1; index < way.length; index += 1) {
    const [a, b] = [way[index - 1] ?? [0, 0], way[index] ?? [0, 0]];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const long = Math.hypot(dx, dy);
    const part = long ? Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / long ** 2)) : 0;
    const spot: Spot = [a[0] + dx * part, a[1] + dy * part];
    const offM = Math.hypot(x - spot[0], y - spot[1]);
    if (offM < best.offM)
      best = { line: line.id, share: total ? (before + long * part) / total : 0, spot, offM };
    before += long;
  }
  return best;
}

/** The line that passes within a distance of a spot, nearest first; its ends do not count. */
export function lineAt(document: Design, spot: Spot, withinM: number): OnLine | null {
  const found = (document.lines ?? [])
    .map((line) => nearestOn(document, line, spot))
    .filter(({ offM, share }) => offM <= withinM && share > AT_AN_END && share < 1 - AT_AN_END);
  return found.sort((a, b) => a.offM - b.offM)[0] ?? null;
}
