/** Lines laid on the plan. */
import type { Design } from "../../api/types";
import { freeNumber } from "../../shared/names";
import { wayLength, type Spot } from "../../shared/way";
import { lineAt, splitLine } from "./split";
import { addPlace, addThing, cm, placeAt, type End } from "./stand";

/** Our own figure to begin with; it can be changed in the sheet. */
const USUAL_PIPE = "pe100-sdr17-32";
/** So near to a line [m] is on it: a click snaps to it before. */
const ON_LINE_M = 0.25;

/** What a line that begins at a place is joined to: the vessel there that gives water, else the junction. */
export function startNode(document: Design, placeId: string): string {
  const giving = (document.vessels ?? []).find(
    (vessel) => vessel.place === placeId && vessel.role !== "trough" && vessel.role !== "bucket_row",
  );
  return giving?.id ?? placeId;
}

/** What a line that ends at a place is joined to: a float or tap there that has no line yet, a tank, or the junction. */
export function endNode(document: Design, placeId: string): string {
  const ended = (document.lines ?? []).flatMap((line) => [line.from, line.to]);
  const joined = new Set(ended);
  const open = (document.outlets ?? []).find((outlet) => outlet.place === placeId && !joined.has(outlet.id));
  const node = startNode(document, placeId);
  return open && !joined.has(node) ? open.id : node; // where a pipe is there already, the float draws from it
}

export interface NewLine {
  way: Spot[];
  end: End;
  name: string;
  groundM: number;
}

/** Whether something is at a spot that a line can begin or end on: a place, or another line. */
export const standsOn = (document: Design, spot: Spot): boolean =>
  Boolean(placeAt(document, spot) ?? lineAt(document, spot, ON_LINE_M));

/** The place at a spot; on a line, a new one where that is cut in two. */
function placeOn(draft: Design, spot: Spot): Design["places"][number] | undefined {
  const there = placeAt(draft, spot);
  const onLine = there ? null : lineAt(draft, spot, ON_LINE_M);
  const made = onLine && splitLine(draft, onLine, "Tee");
  return there ?? draft.places.find((place) => place.id === made);
}

/** Lay a line along a way, with what stands at its end; where a place or a line is there already, it ends in that. */
export function layLine(draft: Design, { way, end, name, groundM }: NewLine): string | null {
  const [first, last] = [way[0], way.at(-1)];
  const from = first && placeOn(draft, first);
  if (!from || !last || way.length < 2) return null;
  const there = placeOn(draft, last);
  const to = there
    ? endNode(draft, there.id)
    : addThing(draft, addPlace(draft, last, name, groundM), end, name);
  const id = `line-${freeNumber(draft.lines, "line")}`;
  const ground = there?.ground_m ?? groundM;
  const length = Math.hypot(wayLength(way), ground - from.ground_m);
  const start = startNode(draft, from.id);
  if (start === to) return null;
  const line = {
    id,
    from: start,
    to,
    product: USUAL_PIPE,
    length_m: Math.max(0.5, Number(length.toFixed(1))),
    assumed: ["product"],
  };
  const corners = way.slice(1, -1).map(([x, y]) => [cm(x), cm(y)]);
  draft.lines = [...(draft.lines ?? []), corners.length ? { ...line, way: corners } : line];
  return id;
}
