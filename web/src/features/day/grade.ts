/** The pressure line along a way at a time of a run: from node to node, straight along each line. */
import type { DayRun, Design } from "../../api/types";
import { placeOfPart } from "../../shared/ground";
import type { ShownRoute } from "../../shared/route";
import { valueAt } from "./model";

/** Distance along the way and head [m] at each of its nodes, from the vessel on. */
export function gradeAt(document: Design, route: ShownRoute, run: DayRun, atS: number): [number, number][] {
  const lines = new Map((document.lines ?? []).map((line) => [line.id, line]));
  const heads: [number, number][] = [];
  let node = route.vessel;
  let at = 0;
  const told = (id: string): number | null => {
    const vessel = document.vessels?.find((one) => one.id === id);
    if (vessel) {
      const ground = placeOfPart(document, id)?.ground_m ?? 0;
      return ground + (vessel.stand_m ?? 0) + valueAt(run.times_s, run.levels_m[id] ?? [], atS);
    }
    const row = run.heads_m[id];
    return row ? valueAt(run.times_s, row, atS) : null;
  };
  const note = () => {
    const head = node === null ? null : told(node);
    if (head !== null) heads.push([at, head]);
  };
  note();
  for (const id of route.lines) {
    const line = lines.get(id);
    if (!line) return heads;
    node = line.from === node ? line.to : line.from;
    const points = route.section.filter((point) => point.line === id);
    at = Math.max(at, ...points.map((point) => point.at_m));
    note();
  }
  return heads;
}
