/** Geometry of the plan: places to pixels with one scale for both axes, lines by the bore they have. */
import type { Catalogue, Design, Place, Vessel } from "../../api/types";
import { fitScale, type Frame, type Scale } from "../../shared/fit";
import { placeIdOf } from "../../shared/ground";
import { sizeLabel } from "../../shared/pipe";
import type { ShownRoute } from "../../shared/route";
import { sucksAir } from "../../shared/sounding";
import type { System } from "../../shared/units";
import { alongWay, wayOf } from "../../shared/way";
import { alongStroke, around, LABEL, placeLabels, type Area, type Label } from "./labels";

/** Room for labels around the places [px]. */
export const EDGE = { left: 76, right: 136, top: 56, bottom: 78 };

export const planScale = (document: Design, frame: Frame) =>
  fitScale(
    document.places.map((place) => [place.east_m, place.north_m] as const),
    frame,
    EDGE,
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

export const LITTLE_M = 1;
export const SOME_M = 4;

/**
 * How much head the best served outlet behind a line keeps over what it needs, at the flow wanted there: where only some
 * fall short, the trouble lies in their own branch.
 */
export function spareOf(lineId: string, routes: ShownRoute[], running: ReadonlySet<string>): Spare {
  const margins = routes.flatMap(({ lines, sounding }) =>
    sounding?.wanted && lines.includes(lineId) ? [sucksAir(sounding) ? -Infinity : sounding.margin_m] : [],
  );
  if (!margins.length) return running.has(lineId) ? "joins" : "still";
  const best = Math.max(...margins);
  return best < 0 ? "short" : best < LITTLE_M ? "little" : best < SOME_M ? "some" : "enough";
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
  const place = document.places.find((one) => one.id === placeIdOf(document, end));
  return place ? [scale.x(place.east_m), scale.y(place.north_m)] : [0, 0];
}

/** A vessel, or an outlet that fills none, with where its mark lies and the way its water comes. */
export interface Mark {
  id: string;
  name: string;
  vessel: Vessel | null;
  route: ShownRoute | undefined;
  area: Area;
}

export interface PlanLayout {
  marks: Mark[];
  junctions: { place: Place; area: Area }[];
  sizes: { id: string; text: string }[];
  placed: Map<string, Area>;
}

/** Narrower than this [px], soundings and the names of what draws nothing may be left out. */
export const SMALL_PLAN = 520;

const SIZE_HEIGHT = 19;
const LEGEND_HEIGHT = 42;
const STROKE_KEEPS_OFF = 8;

/** Lay out every mark, and the labels so that none covers another: vessels and outlets first, sizes last. */
export function planLayout(
  document: Design,
  catalogue: Catalogue | undefined,
  routes: ShownRoute[],
  scale: Scale,
  frame: Frame,
  system: System,
): PlanLayout {
  const spot = (end: string) => placeSpot(document, scale, end);
  const small = frame.width < SMALL_PLAN;
  const marks = marksOf(document, routes, spot, small ? 0.7 : 1);
  const marked = new Set(
    [...(document.vessels ?? []), ...(document.outlets ?? [])].map((part) => part.place),
  );
  const lines = document.lines ?? [];
  const junctions = document.places
    .filter((place) => !marked.has(place.id))
    .map((place) => ({ place, area: centred(spot(place.id), 12, 12) }));
  const ways = lines.map((line) =>
    wayOf(document, line).map(([east, north]): [number, number] => [scale.x(east), scale.y(north)]),
  );
  const strokes = ways.flatMap((way) =>
    way.slice(1).flatMap((corner, index) => alongStroke(way[index] ?? corner, corner, STROKE_KEEPS_OFF)),
  );
  const sizes = lines.map((line) => ({ id: line.id, text: sizeLabel(line, catalogue, system) }));
  const taken = [...marks.map((mark) => mark.area), ...junctions.map((one) => one.area)];
  const whole = { x: 4, y: 4, width: frame.width - 40, height: frame.height - LEGEND_HEIGHT - 4 };
  const names = placeLabels(
    [
      ...byNeed(marks).map((mark) => labelOf(mark, small)),
      ...junctions.map(({ place, area }) => {
        const width = (place.name ?? place.id).length * LABEL.letter;
        return { key: `place:${place.id}`, width, height: 16, spots: around(area, width, 16), needed: false };
      }),
    ],
    [...taken, ...strokes],
    whole,
  );
  const free = placeLabels(
    lines.map((line, index) => {
      const width = (sizes[index]?.text.length ?? 0) * 6.8 + 12;
      const spots = [0.5, 0.4, 0.6, 0.3, 0.7, 0.22, 0.78].map((share): [number, number] => {
        const [x, y] = alongWay(ways[index] ?? [], share);
        return [x - width / 2, y - SIZE_HEIGHT / 2];
      });
      return { key: `size:${line.id}`, width, height: SIZE_HEIGHT, spots, needed: false };
    }),
    [...taken, ...names.values()],
    whole,
  );
  return { marks, junctions, sizes, placed: new Map([...names, ...free]) };
}

/** Outlets first: what they get is what the plan is looked at for. */
function byNeed(marks: Mark[]): Mark[] {
  return [...marks.filter((mark) => mark.route), ...marks.filter((mark) => !mark.route)];
}

function marksOf(
  document: Design,
  routes: ShownRoute[],
  spot: (end: string) => [number, number],
  size: number,
): Mark[] {
  const outlets = document.outlets ?? [];
  const vessels = (document.vessels ?? []).map((vessel): Mark => {
    const outlet = outlets.find((one) => one.fills === vessel.id);
    const [width, height] =
      vessel.role === "trough" ? [40, 16] : vessel.role === "pond" ? [46, 20] : [38, 26];
    return {
      id: vessel.id,
      name: vessel.name ?? vessel.id,
      vessel,
      route: outlet && routes.find((route) => route.outlet === outlet.id),
      area: centred(spot(vessel.id), width * size, height * size),
    };
  });
  const others = outlets
    .filter((outlet) => !outlet.fills)
    .map((outlet): Mark => ({
      id: outlet.id,
      name: outlet.name ?? outlet.id,
      vessel: null,
      route: routes.find((route) => route.outlet === outlet.id),
      area: centred(spot(outlet.id), 20 * size, 20 * size),
    }));
  return [...vessels, ...others];
}

function labelOf(mark: Mark, small: boolean): Label {
  const sounded = Boolean(mark.route?.sounding) && !small;
  const width = Math.max(mark.name.length * LABEL.letter, sounded ? LABEL.bar : 0);
  const height = LABEL.line + (mark.route ? LABEL.line : 0) + (sounded ? LABEL.sounding : 0);
  return {
    key: mark.id,
    width,
    height,
    spots: around(mark.area, width, height),
    needed: !small || Boolean(mark.route),
  };
}

function centred([x, y]: [number, number], width: number, height: number): Area {
  return { x: x - width / 2, y: y - height / 2, width, height };
}
