/** Where what each pipe is good for lies in the section. */
import type { ShownPoint } from "../../shared/route";

/** The height to which each pipe's class would let water stand; it shows only where that is not far above. */
export function classLine(
  points: ShownPoint[],
  classes: ReadonlyMap<string, number>,
  { x, y }: { x: (atM: number) => number; y: (heightM: number) => number },
): string {
  return points
    .flatMap((point, index) => {
      const kpa = classes.get(point.line);
      if (kpa === undefined || point.shut_head_m === null || !point.shut_kpa) return [];
      const high = point.pipe_m + ((point.shut_head_m - point.pipe_m) / point.shut_kpa) * kpa;
      const begins = points[index - 1]?.line !== point.line;
      return [`${begins ? "M" : "L"}${x(point.at_m).toFixed(1)},${y(high).toFixed(1)}`];
    })
    .join("");
}
