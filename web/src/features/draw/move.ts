/** Places and corners moved on the plan; the pipe of their lines goes with them. */
import { isDraft, original } from "immer";

import type { Design, Line } from "../../api/types";
import { placeIdOf, placeOfPart, setLineLength } from "../../shared/ground";
import { wayLength, wayOf, type Spot } from "../../shared/way";
import { cm } from "./stand";

/** The document before what is being changed in it. */
const asItWas = (draft: Design): Design => (isDraft(draft) ? original(draft) : draft);

/** Move places on the plan; the pipe of the lines that end there keeps what it has over the straight way. */
export function movePlaces(draft: Design, moves: ReadonlyMap<string, Spot>): void {
  const before = asItWas(draft);
  const touched = (before.lines ?? []).flatMap((line, index) => {
    const ends = [line.from, line.to].map((end) => placeIdOf(before, end));
    return ends.some((end) => moves.has(end)) ? [{ index, old: wayLength(wayOf(before, line)) }] : [];
  });
  for (const [index, { id }] of before.places.entries()) {
    const spot = moves.get(id);
    const place = spot && draft.places[index];
    if (place) [place.east_m, place.north_m] = [cm(spot[0]), cm(spot[1])];
  }
  for (const { index, old } of touched) {
    const line = draft.lines?.[index];
    if (line) scaleLength(draft, line, old, wayLength(wayWith(before, line, moves)));
  }
}

function wayWith(before: Design, line: Line, moves: ReadonlyMap<string, Spot>): Spot[] {
  const way = wayOf(before, line);
  const at = (end: string, old: Spot | undefined): Spot => {
    const moved = moves.get(placeIdOf(before, end));
    return moved ? [cm(moved[0]), cm(moved[1])] : (old ?? [0, 0]);
  };
  return [at(line.from, way[0]), ...way.slice(1, -1), at(line.to, way.at(-1))];
}

/** Move one place, as `movePlaces` does. */
export function movePlace(draft: Design, placeId: string, spot: Spot): void {
  movePlaces(draft, new Map([[placeId, spot]]));
}

/** Give a line other corners on the plan; its pipe keeps what it has over the way. */
export function setCorners(draft: Design, lineId: string, corners: readonly Spot[]): void {
  const line = draft.lines?.find((one) => one.id === lineId);
  if (!line) return;
  const before = wayLength(wayOf(draft, line));
  line.way = corners.map(([x, y]) => [cm(x), cm(y)]);
  if (!line.way.length) delete line.way;
  scaleLength(draft, line, before, wayLength(wayOf(draft, line)));
}

/** Pipe, surveyed points and parts of a line grow and shrink with its way on the plan. */
function scaleLength(draft: Design, line: Line, old: number, now: number): void {
  if (line.length_m == null || old < 0.5 || now < 0.5) return;
  setLineLength(draft, line.id, Number(((line.length_m * now) / old).toFixed(2)));
}

/** Where the places of parts come to lie when all are moved by so much; parts at one place move it once. */
export function shifted(document: Design, partIds: Iterable<string>, [dx, dy]: Spot): Map<string, Spot> {
  const moves = new Map<string, Spot>();
  for (const id of partIds) {
    const line = document.lines?.find((one) => one.id === id);
    for (const part of line ? [line.from, line.to] : [id]) {
      const place = placeOfPart(document, part);
      if (place) moves.set(place.id, [place.east_m + dx, place.north_m + dy]);
    }
  }
  return moves;
}

/** Move the places that parts of the plan stand at by so much; lines that are among them take their corners along. */
export function nudge(draft: Design, partIds: Iterable<string>, by: Spot): void {
  const ids = [...partIds];
  const before = asItWas(draft);
  const moves = shifted(before, ids, by);
  const lines = (before.lines ?? []).flatMap((line, index) => {
    const whole = [line.from, line.to].every((end) => moves.has(placeIdOf(before, end)));
    return whole && line.way ? [index] : [];
  });
  const lengths = lines.map((index) => before.lines?.[index]);
  movePlaces(draft, moves);
  lines.forEach((index, position) => {
    const [line, old] = [draft.lines?.[index], lengths[position]];
    if (!line?.way || !old) return;
    line.way = (old.way ?? []).map(([x = 0, y = 0]) => [cm(x + by[0]), cm(y + by[1])]);
    if (old.length_m != null) setLineLength(draft, line.id, old.length_m); // moved whole: as long as before
  });
}
