/** Geometry of the profile: scales, paths and marks, ready to be drawn. */
import { scaleLinear } from "d3-scale";
import { area, line as lineThrough } from "d3-shape";

import type { Design } from "../../api/types";
import { legsOf, type ShownPoint, type ShownRoute } from "../../shared/route";
import { roundMetres } from "../../shared/ticks";
import type { System } from "../../shared/units";

export interface Frame {
  width: number;
  height: number;
}

export const MARGIN = { left: 46, right: 18, top: 10, bottom: 40 };

/** Room under the lowest point for its note. */
const NOTE_ROOM = 36;

type Place = [number, number];
const through = lineThrough();

export type SectionGeometry = ReturnType<typeof sectionGeometry>;

/** The stretch of a route that is shown [m]. */
export type Stretch = readonly [number, number];

/** A stretch zoomed about a distance, kept within the route and no shorter than a twentieth of it. */
export function zoomed([from, to]: Stretch, about: number, factor: number, lengthM: number): Stretch {
  const wide = Math.min(lengthM, Math.max(lengthM / 20, (to - from) / factor));
  const share = to > from ? (about - from) / (to - from) : 0.5;
  const start = Math.min(Math.max(0, about - share * wide), lengthM - wide);
  return [start, start + wide];
}

export function sectionGeometry(route: ShownRoute, frame: Frame, system: System, stretch?: Stretch) {
  const [from, to] = stretch ?? [0, route.length_m];
  const points = route.section;
  const seen = points.filter((_, index) => {
    const [before, after] = [points[index - 1]?.at_m ?? -1, points[index + 1]?.at_m ?? Infinity];
    return after >= from && before <= to; // what lies just outside draws the line in
  });
  const heights = seen.flatMap((p) => [
    p.ground_m,
    p.pipe_m,
    ...(p.shut_head_m === null ? [] : [p.shut_head_m]),
    ...(p.running_head_m === null ? [] : [Math.min(p.running_head_m, p.shut_head_m ?? Infinity)]),
  ]);
  const low = Math.min(...heights);
  const high = Math.max(...heights);
  const room = Math.max(1, high - low) * 0.08;
  const x = scaleLinear([from, to], [MARGIN.left, frame.width - MARGIN.right]);
  const y = scaleLinear(
    [low - room * 0.3, high + room],
    [frame.height - MARGIN.bottom - NOTE_ROOM, MARGIN.top],
  );
  const bottom = frame.height - MARGIN.bottom;

  const path = (height: (point: ShownPoint) => number | null) =>
    through(
      points.flatMap((point): Place[] => {
        const m = height(point);
        return m === null ? [] : [[x(point.at_m), y(m)]];
      }),
    ) ?? "";
  const banded = points.filter((point) => point.low_m !== null && point.high_m !== null);
  const ground = path((point) => point.ground_m);

  return {
    x,
    y,
    bottom,
    ground,
    groundArea: points.length ? `${ground}L${x(route.length_m)},${bottom}L${x(0)},${bottom}Z` : "",
    pipe: path((point) => point.pipe_m),
    shut: path((point) => point.shut_head_m),
    running: path((point) => point.running_head_m),
    band:
      area<ShownPoint>()
        .x((point) => x(point.at_m))
        .y0((point) => y(point.low_m ?? 0))
        .y1((point) => y(point.high_m ?? 0))(banded) ?? "",
    heightTicks: roundMetres(low, high, 6, system),
    distanceTicks: roundMetres(from, to, Math.max(2, frame.width / 110), system).filter(
      (tick) => tick > from && tick < to - (to - from) * (60 / Math.max(120, frame.width)),
    ),
  };
}

const WORDS_UNDER = 17; // pixels from the grade down to the words' foot

/** Where under the grade there is most room for words of a width [px]: their left end and foot, in pixels. */
export function roomUnderGrade(
  route: ShownRoute,
  { x, y }: SectionGeometry,
  width: number,
): { x: number; y: number } | null {
  const spots = Array.from({ length: 16 }, (_, index) => x((route.length_m * index) / 20))
    .filter((left) => left + width <= x(route.length_m))
    .flatMap((left) => {
      const under = [0, 0.25, 0.5, 0.75, 1].flatMap((share) => {
        const at = sectionAt(route.section, x.invert(left + width * share));
        return at && at.running_head_m !== null
          ? [{ grade: y(at.running_head_m), ground: y(at.ground_m) }]
          : [];
      });
      if (!under.length) return [];
      const foot = Math.max(...under.map((one) => one.grade)) + WORDS_UNDER;
      return [{ x: left, y: foot, room: Math.min(...under.map((one) => one.ground)) - foot }];
    });
  return spots.sort((a, b) => b.room - a.room)[0] ?? null;
}

/** What the section says at a distance: everything on straight lines between surveyed points. */
export function sectionAt(points: ShownPoint[], atM: number): ShownPoint | null {
  const after = points.findIndex((point) => point.at_m >= atM);
  const b = points[after];
  const a = points[after - 1] ?? b;
  if (!a || !b) return null;
  const share = b.at_m > a.at_m ? (atM - a.at_m) / (b.at_m - a.at_m) : 1;
  const weighed = (from: number, to: number) => from + (to - from) * share;
  const between = (
    key: "running_head_m" | "shut_head_m" | "running_kpa" | "shut_kpa" | "low_m" | "high_m",
  ) => {
    const [from, to] = [a[key], b[key]];
    return from === null || to === null ? null : weighed(from, to);
  };
  return {
    ...b,
    at_m: atM,
    ground_m: weighed(a.ground_m, b.ground_m),
    pipe_m: weighed(a.pipe_m, b.pipe_m),
    running_head_m: between("running_head_m"),
    shut_head_m: between("shut_head_m"),
    running_kpa: between("running_kpa"),
    shut_kpa: between("shut_kpa"),
    low_m: between("low_m"),
    high_m: between("high_m"),
  };
}

/** Which surveyed point of its own line each point of the route is, for editing: points run from the line's start. */
export function pointOfLine(points: ShownPoint[], index: number, backwards: ReadonlySet<string>) {
  const point = points[index];
  if (!point) return null;
  const own = points.map((other, i) => ({ other, i })).filter(({ other }) => other.line === point.line);
  const rank = own.findIndex(({ i }) => i === index);
  return { line: point.line, index: backwards.has(point.line) ? own.length - 1 - rank : rank };
}

const AT_LOW_POINT_M = 3;

/** Whether a drain sits at a point of the section, or near enough to empty it. */
export function drained(point: ShownPoint, route: ShownRoute, document: Design): boolean {
  const leg = legsOf(route, document).find((one) => one.line === point.line);
  if (!leg) return false;
  const along = leg.forward ? point.at_m - leg.startM : leg.endM - point.at_m;
  const inline = document.lines?.find((one) => one.id === point.line)?.inline ?? [];
  return inline.some((part) => part.kind === "drain" && Math.abs(part.at_m - along) <= AT_LOW_POINT_M);
}
