/** A line cut in two at a point of its way, and two lines made one again. */
import type { Design, Line } from "../../api/types";
import { placeOfPart } from "../../shared/ground";
import { freeNumber } from "../../shared/names";
import { wayLength, wayOf, type Spot } from "../../shared/way";
import { addPlace, cm } from "./stand";

export interface OnLine {
  line: string;
  /** of the way on the plan, 0 to 1 */
  share: number;
  spot: Spot;
  offM: number;
}

const AT_AN_END = 0.002;

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

/** The ground at a distance along a line: between its surveyed points, else straight between its ends. */
export function groundAlong(document: Design, line: Line, atM: number): number {
  const length = pipeLength(line);
  const ends = [line.from, line.to].map((end) => placeOfPart(document, end)?.ground_m ?? 0);
  const points = line.points?.length
    ? line.points.map(([at = 0, ground = 0]) => [at, ground] as const)
    : ([
        [0, ends[0] ?? 0],
        [length, ends[1] ?? 0],
      ] as const);
  const after = Math.max(
    1,
    points.findIndex(([at]) => at >= atM),
  );
  const [a, b] = [points[after - 1] ?? [0, 0], points[after] ?? [0, 0]];
  return b[0] > a[0] ? a[1] + ((b[1] - a[1]) * (atM - a[0])) / (b[0] - a[0]) : b[1];
}

export const pipeLength = (line: Line): number =>
  line.length_m ?? (line.runs ?? []).reduce((sum, run) => sum + run.length_m, 0);

/** Cut a line at a point of its way; return the id of the new place there. The first part keeps the line's id. */
export function splitLine(draft: Design, { line: lineId, share, spot }: OnLine, name: string): string | null {
  const line = draft.lines?.find((one) => one.id === lineId);
  if (!line || !draft.lines) return null;
  const length = pipeLength(line);
  const at = Number((length * share).toFixed(2));
  const ground = cm(groundAlong(draft, line, at));
  const [before, after] = cornersAround(draft, line, share);
  const placeId = addPlace(draft, spot, name, ground);
  const points = line.points ?? [];
  const later = points.filter(([point = 0]) => point > at).map(([point = 0, g = 0]) => [cm(point - at), g]);
  const second: Line = {
    ...line,
    id: `line-${freeNumber(draft.lines, "line")}`,
    from: placeId,
    ...(line.name ? { name: `${line.name}, farther part` } : {}),
    ...(points.length ? { points: [[0, ground], ...later] } : {}),
    fittings: [],
    inline: (line.inline ?? [])
      .filter((part) => part.at_m > at)
      .map((part) => ({ ...part, at_m: cm(part.at_m - at) })),
  };
  delete second.pump;
  setWay(second, after);
  setWay(line, before);
  line.to = placeId;
  line.inline = (line.inline ?? []).filter((part) => part.at_m <= at);
  if (points.length) line.points = [...points.filter(([point = 0]) => point < at), [at, ground]];
  setLengths(line, second, at, length);
  draft.lines.push(second);
  draft.distances = (draft.distances ?? []).filter((one) => one.line !== lineId); // what was counted was the whole
  if (!draft.distances.length) delete draft.distances;
  for (const scenario of draft.scenarios ?? [])
    for (const key of ["open", "shut"] as const)
      if (scenario[key]?.includes(lineId)) scenario[key] = [...scenario[key], second.id];
  return placeId;
}

function setLengths(line: Line, second: Line, at: number, length: number): void {
  const rest = cm(length - at);
  if (line.runs?.length) {
    let passed = 0;
    const [first, last]: [typeof line.runs, typeof line.runs] = [[], []];
    for (const run of line.runs) {
      const own = Math.min(run.length_m, Math.max(0, at - passed));
      if (own > 0) first.push({ ...run, length_m: cm(own) });
      if (run.length_m - own > 0) last.push({ ...run, length_m: cm(run.length_m - own) });
      passed += run.length_m;
    }
    [line.runs, second.runs] = [first, last];
  }
  if (line.length_m != null) [line.length_m, second.length_m] = [at, rest];
}

function cornersAround(document: Design, line: Line, share: number): [Spot[], Spot[]] {
  const way = wayOf(document, line);
  const cut = wayLength(way) * share;
  const corners = way.slice(1, -1);
  const lies = corners.map((_, index) => wayLength(way.slice(0, index + 2)));
  return [
    corners.filter((_, index) => (lies[index] ?? 0) < cut),
    corners.filter((_, index) => (lies[index] ?? 0) > cut),
  ];
}

function setWay(line: Line, corners: Spot[]): void {
  if (corners.length) line.way = corners.map(([x, y]) => [cm(x), cm(y)]);
  else delete line.way;
}

/** Whether two lines that meet at a place, and nothing else there, are of one pipe and run on: they can be one again. */
export function joinable(document: Design, placeId: string): [Line, Line] | null {
  const lines = (document.lines ?? []).filter((line) => line.from === placeId || line.to === placeId);
  const [into, out] = [
    lines.find((line) => line.to === placeId),
    lines.find((line) => line.from === placeId),
  ];
  if (lines.length !== 2 || !into || !out || into.from === out.to) return null;
  const alike = (["product", "bore_mm", "roughness_mm", "cover_m", "siphon", "shut"] as const).every(
    (key) => (into[key] ?? null) === (out[key] ?? null),
  );
  return alike && !out.pump ? [into, out] : null;
}

/** Make the two lines that meet at a place one, which keeps the first one's id. */
export function joinLines(draft: Design, placeId: string): boolean {
  const pair = joinable(draft, placeId);
  const place = draft.places.find((one) => one.id === placeId);
  if (!pair || !place || !draft.lines) return false;
  const [into, out] = pair;
  const [at, rest] = [pipeLength(into), pipeLength(out)];
  const corner: Spot = [place.east_m, place.north_m];
  setWay(into, [...inner(draft, into), corner, ...inner(draft, out)]);
  if (into.points?.length || out.points?.length) {
    const own = (line: Line, length: number) =>
      line.points?.length ? line.points : [0, length].map((d) => [d, groundAlong(draft, line, d)]);
    const later = own(out, rest).map(([d = 0, ground = 0]) => [cm(d + at), ground]);
    into.points = [...own(into, at), ...later.slice(1)];
  }
  if (into.runs?.length || out.runs?.length) into.runs = [...(into.runs ?? []), ...(out.runs ?? [])];
  if (into.length_m != null) into.length_m = cm(at + rest);
  into.fittings = [...(into.fittings ?? []), ...(out.fittings ?? [])];
  into.inline = [
    ...(into.inline ?? []),
    ...(out.inline ?? []).map((part) => ({ ...part, at_m: cm(part.at_m + at) })),
  ];
  into.to = out.to;
  draft.lines = draft.lines.filter((line) => line.id !== out.id);
  for (const scenario of draft.scenarios ?? [])
    for (const key of ["open", "shut"] as const)
      if (scenario[key]) scenario[key] = scenario[key].filter((id) => id !== out.id);
  draft.distances = (draft.distances ?? []).filter((one) => one.line !== out.id && one.line !== into.id);
  if (!draft.distances.length) delete draft.distances;
  return true;
}

const inner = (document: Design, line: Line): Spot[] => wayOf(document, line).slice(1, -1);
