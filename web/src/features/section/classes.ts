/** What pressure each line's pipe is good for, and where that lies in the section. */
import type { Catalogue, Design } from "../../api/types";
import type { ShownPoint } from "../../shared/route";

/** What each line's pipe is good for [kPa at 20 °C], where the catalogue tells. */
export function classOf(document: Design, catalogue: Catalogue | undefined): Map<string, number> {
  const known = new Map((catalogue?.pipes ?? []).map((pipe) => [pipe.id, pipe.class_kpa]));
  return new Map(
    (document.lines ?? []).flatMap((line) => {
      const kpa = known.get(line.product ?? "");
      return kpa ? [[line.id, kpa] as const] : [];
    }),
  );
}

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
