/** Drawing a place: a site to start with, lines with what stands at their ends, places moved with their lines. */
import type { Design, Line } from "../../api/types";
import { placeIdOf, setLineLength } from "../../shared/ground";
import { freeNumber } from "../../shared/names";
import { wayLength, wayOf, type Spot } from "../../shared/way";

export type Start = "tank" | "spring box" | "pond";
export type End = "trough" | "tap" | "tank" | "junction";

/** Our own figures to begin with; each can be changed in the sheet. */
const USUAL_PIPE = "pe100-sdr17-32";
const SAME_SPOT_M = 0.05;

const STARTS: Record<Start, { role: "tank" | "chamber" | "pond"; height: number; level: number }> = {
  tank: { role: "tank", height: 2, level: 1.5 },
  "spring box": { role: "chamber", height: 1, level: 0.7 },
  pond: { role: "pond", height: 2, level: 1.6 },
};

/** A site with nothing on it but where the water starts. */
export function newSite(site: string, start: Start, name: string, groundM: number): Design {
  const { role, height, level } = STARTS[start];
  const shape =
    start === "pond"
      ? { kind: "box" as const, length_m: 20, width_m: 10, height_m: height }
      : { kind: "upright_cylinder" as const, diameter_m: 2, height_m: height };
  return {
    format: "leadsman-design",
    version: 1,
    name: "Plan A",
    site: { name: site },
    places: [{ id: "start", name, east_m: 0, north_m: 0, ground_m: groundM }],
    vessels: [{ id: "source", name, role, place: "start", shape, stand_m: 0, outlet_m: 0.1, level_m: level }],
  };
}

const near = (a: Spot, b: Spot) => Math.hypot(a[0] - b[0], a[1] - b[1]) <= SAME_SPOT_M;

/** The place at a spot of the plan, where one is. */
export function placeAt(document: Design, spot: Spot): Design["places"][number] | undefined {
  return document.places.find((place) => near([place.east_m, place.north_m], spot));
}

/** What a line that begins at a place is joined to: the vessel there that gives water, else the junction. */
export function startNode(document: Design, placeId: string): string {
  const giving = (document.vessels ?? []).find(
    (vessel) => vessel.place === placeId && vessel.role !== "trough" && vessel.role !== "bucket_row",
  );
  return giving?.id ?? placeId;
}

/** What a line that ends at a place is joined to: a float or tap there that has no line yet, a tank, or the junction. */
export function endNode(document: Design, placeId: string): string {
  const joined = new Set((document.lines ?? []).flatMap((line) => [line.from, line.to]));
  const open = (document.outlets ?? []).find((outlet) => outlet.place === placeId && !joined.has(outlet.id));
  return open?.id ?? startNode(document, placeId);
}

export interface NewLine {
  way: Spot[];
  end: End;
  name: string;
  groundM: number;
}

/** Lay a line along a way, with what stands at its end; where a place is there already, it ends in that. */
export function layLine(draft: Design, { way, end, name, groundM }: NewLine): string | null {
  const [first, last] = [way[0], way.at(-1)];
  const from = first && placeAt(draft, first);
  if (!from || !last || way.length < 2) return null;
  const there = placeAt(draft, last);
  const to = there ? endNode(draft, there.id) : addEnd(draft, last, end, name, groundM);
  const id = `line-${freeNumber(draft.lines, "line")}`;
  const ground = there?.ground_m ?? groundM;
  const length = Math.hypot(wayLength(way), ground - from.ground_m);
  const line = {
    id,
    from: startNode(draft, from.id),
    to,
    product: USUAL_PIPE,
    length_m: Math.max(0.5, Number(length.toFixed(1))),
  };
  const corners = way.slice(1, -1).map(([x, y]) => [Number(x.toFixed(2)), Number(y.toFixed(2))]);
  draft.lines = [...(draft.lines ?? []), corners.length ? { ...line, way: corners } : line];
  return id;
}

/** Put what stands at the end of a line on the plan; return what the line is joined to. */
function addEnd(draft: Design, [x, y]: Spot, end: End, name: string, groundM: number): string {
  const placeId = `place-${freeNumber(draft.places, "place")}`;
  draft.places.push({
    id: placeId,
    name,
    east_m: Number(x.toFixed(2)),
    north_m: Number(y.toFixed(2)),
    ground_m: groundM,
  });
  if (end === "junction") return placeId;
  const vessels = (draft.vessels ??= []);
  const outlets = (draft.outlets ??= []);
  const vesselId = `vessel-${freeNumber(vessels, "vessel")}`;
  const outletId = `outlet-${freeNumber(outlets, "outlet")}`;
  if (end === "tank") {
    vessels.push({
      id: vesselId,
      name,
      role: "tank",
      place: placeId,
      shape: { kind: "upright_cylinder", diameter_m: 2, height_m: 2 },
      stand_m: 0,
      outlet_m: 0.1,
      level_m: 0.2,
    });
    return vesselId;
  }
  if (end === "tap") {
    outlets.push({
      id: outletId,
      name,
      place: placeId,
      kind: "open_end",
      height_m: 0.6,
      bore_mm: 20,
    });
    return outletId;
  }
  vessels.push({
    id: vesselId,
    name,
    role: "trough",
    place: placeId,
    shape: { kind: "box", length_m: 2, width_m: 0.6, height_m: 0.5 },
    stand_m: 0,
    overflow_m: 0.46,
    level_m: 0.1,
  });
  const valve = { kv_m3h: 2, closes_at_m: 0.4, band_m: 0.05 };
  outlets.push({
    id: outletId,
    name: `${name} valve`,
    place: placeId,
    kind: "float_valve",
    fills: vesselId,
    height_m: 0.5,
    valve,
  });
  return outletId;
}

/** Move a place on the plan; the pipe of the lines that end there keeps what it has over the straight way. */
export function movePlace(draft: Design, placeId: string, [x, y]: Spot): void {
  const place = draft.places.find((one) => one.id === placeId);
  if (!place) return;
  const touched = (draft.lines ?? []).filter((line) =>
    [line.from, line.to].some((end) => placeIdOf(draft, end) === placeId),
  );
  const before = touched.map((line) => wayLength(wayOf(draft, line)));
  place.east_m = Number(x.toFixed(2));
  place.north_m = Number(y.toFixed(2));
  touched.forEach((line, index) =>
    scaleLength(draft, line, before[index] ?? 0, wayLength(wayOf(draft, line))),
  );
}

/** Give a line other corners on the plan; its pipe keeps what it has over the way. */
export function setCorners(draft: Design, lineId: string, corners: readonly Spot[]): void {
  const line = draft.lines?.find((one) => one.id === lineId);
  if (!line) return;
  const before = wayLength(wayOf(draft, line));
  line.way = corners.map(([x, y]) => [Number(x.toFixed(2)), Number(y.toFixed(2))]);
  if (!line.way.length) delete line.way;
  scaleLength(draft, line, before, wayLength(wayOf(draft, line)));
}

/** Pipe, surveyed points and parts of a line grow and shrink with its way on the plan. */
function scaleLength(draft: Design, line: Line, old: number, now: number): void {
  if (line.length_m == null || old < 0.5 || now < 0.5) return;
  setLineLength(draft, line.id, Number(((line.length_m * now) / old).toFixed(2)));
}

/** Move the place that a part of the plan stands at by so much. */
export function nudge(draft: Design, partId: string, [dx, dy]: Spot): void {
  const place = draft.places.find((one) => one.id === placeIdOf(draft, partId));
  if (place) movePlace(draft, place.id, [place.east_m + dx, place.north_m + dy]);
}

/** Take a line away; what stands at its ends stays. */
export function takeLine(draft: Design, lineId: string): void {
  draft.lines = (draft.lines ?? []).filter((line) => line.id !== lineId);
}
