/** Geometry of the plan: places to pixels with one scale for both axes, lines by the bore they have. */
import type { Design, Place, Vessel } from "../../api/types";
import { MARK_COUNTS, type Area } from "../../shared/area";
import { fitScale, type Frame, type Scale } from "../../shared/fit";
import { placeOfPart } from "../../shared/ground";
import type { ShownRoute } from "../../shared/route";
import { alongWay, wayOf, type Spot } from "../../shared/way";
import { alongStroke, around, LABEL, placeLabels, type Label } from "./labels";

/** Room for labels around the places [px], and for the tools over them. */
export const edgeOf = (frame: Frame) => ({ left: 76, right: 136, top: toolsHeight(frame) + 16, bottom: 78 });

/** The tools stand in one row, on a narrow plan in two, as high as a finger needs. */
const toolsHeight = (frame: Frame) => (frame.width < SMALL_PLAN ? 2 * FINGER_ROW : TOOLS_ROW);
const [TOOLS_ROW, FINGER_ROW] = [40, 52];

export const planScale = (document: Design, frame: Frame) =>
  fitScale(
    document.places.map((place) => [place.east_m, place.north_m] as const),
    frame,
    edgeOf(frame),
  );

/** A round length whose bar is about 100 pixels. */
export function scaleBar(
  perMetre: number,
  toShown: (m: number) => number,
): { length: number; pixels: number } {
  const unit = toShown(1);
  const wanted = (100 / perMetre) * unit;
  const power = 10 ** Math.floor(Math.log10(wanted));
  const length = ([5, 2, 1].find((step) => step * power <= wanted) ?? 1) * power;
  return { length, pixels: (length / unit) * perMetre };
}

export type Spare = "short" | "little" | "some" | "enough" | "joins" | "still";

const LESS_FIRST = ["short", "little", "some", "enough"] as const;

/**
 * How much head the best served outlet behind each line keeps over what it needs, at the flow wanted there: where only
 * some fall short, the trouble lies in their own branch.
 */
export function sparesOf(routes: ShownRoute[]): Map<string, Spare> {
  const best = new Map<string, number>();
  for (const { lines, sounding } of routes) {
    if (!sounding?.wanted || sounding.spare === null) continue;
    const rank = LESS_FIRST.indexOf(sounding.spare);
    for (const line of lines) best.set(line, Math.max(rank, best.get(line) ?? 0));
  }
  return new Map([...best].map(([line, rank]) => [line, LESS_FIRST[rank] ?? "short"]));
}

export const SPARE_INK = {
  short: "short",
  little: "little",
  some: "some",
  enough: "enough",
  joins: "water",
  still: "faint",
} as const;

/** Where a line's end lies on the plan. */
export function placeSpot(document: Design, scale: Scale, end: string): [number, number] {
  const place = placeOfPart(document, end);
  return place ? [scale.x(place.east_m), scale.y(place.north_m)] : [0, 0];
}

/** A vessel, an outlet that fills none, or a source under pressure, with where its mark lies and the way its water comes. */
export interface Mark {
  id: string;
  place: string;
  name: string;
  vessel: Vessel | null;
  /** it is a source under pressure */
  source: boolean;
  route: ShownRoute | undefined;
  area: Area;
}

export interface PlanMarks {
  marks: Mark[];
  junctions: { place: Place; area: Area }[];
  /** corners of each line in pixels */
  ways: Map<string, Spot[]>;
  small: boolean;
}

/** Labels as offsets from what they name; those of sizes by their share of the line's way. */
export interface PlanLabels {
  names: Map<string, Area>;
  sizes: Map<string, { text: string; share: number; width: number }>;
  /** what marks and labels cover: what lies under the plan writes nothing there */
  covered: Area[];
}

/** Narrower than this [px], soundings and the names of what draws nothing may be left out. */
export const SMALL_PLAN = 520;

/** With more outlets than these their marks are small, and names stand only where there is room. */
export const MANY_OUTLETS = 40;

export const SIZE_HEIGHT = 19;
const LEGEND_HEIGHT = 42;
const STROKE_KEEPS_OFF = 8;
const TOOLS_COUNT = 8; // a label under the tools cannot be read at all

/** Where every mark and every line lies. */
export function planMarks(document: Design, routes: ShownRoute[], scale: Scale, frame: Frame): PlanMarks {
  const spot = (end: string) => placeSpot(document, scale, end);
  const small = frame.width < SMALL_PLAN || (document.outlets?.length ?? 0) > MANY_OUTLETS;
  const marks = marksOf(document, routes, spot, small ? 0.7 : 1);
  const marked = new Set(marks.map((mark) => mark.place));
  for (const outlet of document.outlets ?? []) marked.add(outlet.place);
  const junctions = document.places
    .filter((place) => !marked.has(place.id))
    .map((place) => ({ place, area: centred(spot(place.id), 12, 12) }));
  const ways = new Map(
    (document.lines ?? []).map((line) => [
      line.id,
      wayOf(document, line).map(([east, north]): Spot => [scale.x(east), scale.y(north)]),
    ]),
  );
  return { marks, junctions, ways, small };
}

/** Lay out the labels so that none covers another or what it should keep off: vessels and outlets first, sizes last. */
export function planLabels(
  { marks, junctions, ways, small }: PlanMarks,
  sizeOf: (lineId: string) => string,
  frame: Frame,
  keepOff: Area[] = [],
): PlanLabels {
  const strokes = [...ways.values()].flatMap((way) =>
    way.slice(1).flatMap((corner, index) => alongStroke(way[index] ?? corner, corner, STROKE_KEEPS_OFF)),
  );
  const tools = { x: 0, y: 0, width: frame.width, height: toolsHeight(frame), weight: TOOLS_COUNT };
  const marked = [...marks, ...junctions].map(({ area }) => ({ ...area, weight: MARK_COUNTS }));
  const taken = [tools, ...marked, ...keepOff];
  const whole = { x: 4, y: 4, width: frame.width - 40, height: frame.height - LEGEND_HEIGHT - 4 };
  const areas = new Map([
    ...marks.map((mark) => [mark.id, mark.area] as const),
    ...junctions.map(({ place, area }) => [place.id, area] as const),
  ]);
  const names = placeLabels(
    [
      ...byHeadNeeded(marks, small).map((mark) => labelOf(mark, small, marks.length > MANY_OUTLETS)),
      ...junctions.map(({ place, area }) => {
        const width = (place.name ?? place.id).length * LABEL.letter;
        return { key: place.id, width, height: 16, spots: around(area, width, 16), needed: false };
      }),
    ],
    [...taken, ...strokes],
    whole,
  );
  const shares = [0.5, 0.4, 0.6, 0.3, 0.7, 0.22, 0.78];
  const sized = [...ways].map(([id, way]) => {
    const text = sizeOf(id);
    const width = text.length * 6.8 + 12;
    const spots = shares.map((share): [number, number] => {
      const [x, y] = alongWay(way, share);
      return [x - width / 2, y - SIZE_HEIGHT / 2];
    });
    return { key: id, text, width, height: SIZE_HEIGHT, spots, needed: false };
  });
  const free = placeLabels(sized, [...taken, ...names.values()], whole);
  const sizes = sized.flatMap(({ key, text, width, spots }) => {
    const area = free.get(key);
    const chosen = spots.findIndex(([x, y]) => x === area?.x && y === area.y);
    return area ? [[key, { text, width, share: shares[chosen] ?? 0.5 }] as const] : [];
  });
  const offsets = [...names].map(([id, area]) => {
    const own = areas.get(id) ?? area;
    return [id, { ...area, x: area.x - own.x, y: area.y - own.y }] as const;
  });
  const covered = [...marked, ...names.values(), ...free.values()];
  return { names: new Map(offsets), sizes: new Map(sizes), covered };
}

/** What an outlet has to spare of the head it needs [m]; more than any where no flow is wanted there. */
const margin = ({ route }: Mark) => (route?.sounding?.wanted ? route.sounding.margin_m : Infinity);

/** Outlets first, the tightest before the others: what they get is what the plan is looked at for. */
function byHeadNeeded(marks: Mark[], small: boolean): Mark[] {
  const fed = marks.filter((mark) => mark.route);
  const ordered =
    small || fed.length > MANY_OUTLETS
      ? fed.sort((a, b) => (margin(a) < margin(b) ? -1 : margin(a) > margin(b) ? 1 : 0))
      : fed;
  return [...ordered, ...marks.filter((mark) => !mark.route)];
}

function marksOf(
  document: Design,
  routes: ShownRoute[],
  spot: (end: string) => [number, number],
  size: number,
): Mark[] {
  const outlets = document.outlets ?? [];
  const byOutlet = new Map(routes.flatMap((route) => (route.outlet ? [[route.outlet, route] as const] : [])));
  const filling = new Map(outlets.flatMap((one) => (one.fills ? [[one.fills, one] as const] : [])));
  const vessels = (document.vessels ?? []).map((vessel): Mark => {
    const outlet = filling.get(vessel.id);
    const [width, height] =
      vessel.role === "trough" ? [40, 16] : vessel.role === "pond" ? [46, 20] : [38, 26];
    return {
      id: vessel.id,
      place: vessel.place,
      name: vessel.name ?? vessel.id,
      vessel,
      source: false,
      route: outlet && byOutlet.get(outlet.id),
      area: centred(spot(vessel.id), width * size, height * size),
    };
  });
  const others = outlets
    .filter((outlet) => !outlet.fills)
    .map((outlet): Mark => ({
      id: outlet.id,
      place: outlet.place,
      name: outlet.name ?? outlet.id,
      vessel: null,
      source: false,
      route: byOutlet.get(outlet.id),
      area: centred(spot(outlet.id), 20 * size, 20 * size),
    }));
  const sources = (document.pressure_sources ?? []).map((source): Mark => ({
    id: source.id,
    place: source.place,
    name: source.name ?? source.id,
    vessel: null,
    source: true,
    route: undefined,
    area: centred(spot(source.id), 26 * size, 26 * size),
  }));
  return [...vessels, ...others, ...sources];
}

function labelOf(mark: Mark, small: boolean, many: boolean): Label {
  const sounded = Boolean(mark.route?.sounding) && !small;
  const width = Math.max(
    mark.name.length * LABEL.letter,
    mark.route ? LABEL.flow : 0,
    sounded ? LABEL.bar : 0,
  );
  const height = LABEL.line + (mark.route ? LABEL.line : 0) + (sounded ? LABEL.sounding : 0);
  return {
    key: mark.id,
    width,
    height,
    spots: around(mark.area, width, height),
    needed: !many && (!small || margin(mark) < 0),
  };
}

function centred([x, y]: [number, number], width: number, height: number): Area {
  return { x: x - width / 2, y: y - height / 2, width, height };
}
