/** The way of a line on the plan: its corners in metres, and points along it. */
import type { Design, Line } from "../api/types";
import { placeOfPart } from "./ground";

export type Spot = readonly [number, number];

/** East and north of a line's corners, its ends among them. */
export function wayOf(document: Design, line: Line): Spot[] {
  const at = (end: string): Spot => {
    const place = placeOfPart(document, end);
    return [place?.east_m ?? 0, place?.north_m ?? 0];
  };
  const corners = (line.way ?? []).map(([x = 0, y = 0]): Spot => [x, y]);
  return [at(line.from), ...corners, at(line.to)];
}

/** The first and the last point of a way. */
export const endsOf = (way: readonly Spot[]): [Spot, Spot] => [way[0] ?? [0, 0], way.at(-1) ?? [0, 0]];

export const wayLength = (way: Spot[]): number =>
  way.slice(1).reduce((sum, [x, y], index) => {
    const [px, py] = way[index] ?? [x, y];
    return sum + Math.hypot(x - px, y - py);
  }, 0);

/** The point at a share, 0 to 1, of the length of a way. */
export function alongWay(way: Spot[], share: number): Spot {
  let left = share * wayLength(way);
  for (let index = 1; index < way.length; index += 1) {
    const [a, b] = [way[index - 1] ?? [0, 0], way[index] ?? [0, 0]];
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (left <= long || index === way.length - 1) {
      const part = long ? Math.min(1, left / long) : 0;
      return [a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part];
    }
    left -= long;
  }
  return way[0] ?? [0, 0];
}

/** At which share, 0 to 1, of its length a way comes nearest to a spot. */
export function shareAlong(way: readonly Spot[], [x, y]: Spot): number {
  let walked = 0;
  let best = { off: Infinity, at: 0 };
  for (let index = 1; index < way.length; index += 1) {
    const [[ax, ay], [bx, by]] = [way[index - 1] ?? [0, 0], way[index] ?? [0, 0]];
    const long = Math.hypot(bx - ax, by - ay);
    const part = long
      ? Math.min(Math.max(((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / long ** 2, 0), 1)
      : 0;
    const off = Math.hypot(ax + (bx - ax) * part - x, ay + (by - ay) * part - y);
    if (off < best.off) best = { off, at: walked + part * long };
    walked += long;
  }
  return walked > 0 ? best.at / walked : 0;
}

/** A way as the path of a drawing. */
export const pathOf = (way: readonly Spot[]): string =>
  way.map(([x, y], corner) => `${corner ? "L" : "M"}${x.toFixed(1)},${y.toFixed(1)}`).join("");

/** The area that corners enclose, in square metres. */
export const areaOf = (corners: readonly (readonly number[])[]): number =>
  Math.abs(
    corners.reduce((sum, [x = 0, y = 0], index) => {
      const [nx = 0, ny = 0] = corners[(index + 1) % corners.length] ?? [];
      return sum + x * ny - nx * y;
    }, 0),
  ) / 2;
