/** Geometry of the long section: scales, paths and marks, ready to be drawn. */
import { scaleLinear } from "d3-scale";
import { line as lineThrough } from "d3-shape";

import type { Route, SectionPoint } from "../../api/types";
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

export function sectionGeometry(route: Route, frame: Frame, system: System) {
  const points = route.section;
  const heights = points.flatMap((p) => [
    p.ground_m,
    p.pipe_m,
    p.shut_head_m,
    Math.min(p.running_head_m, p.shut_head_m),
  ]);
  const low = Math.min(...heights);
  const high = Math.max(...heights);
  const room = Math.max(1, high - low) * 0.08;
  const x = scaleLinear([0, route.length_m], [MARGIN.left, frame.width - MARGIN.right]);
  const y = scaleLinear(
    [low - room * 0.3, high + room],
    [frame.height - MARGIN.bottom - NOTE_ROOM, MARGIN.top],
  );
  const bottom = frame.height - MARGIN.bottom;

  const along = (height: (point: SectionPoint) => number) =>
    points.map((point): Place => [x(point.at_m), y(height(point))]);
  const path = (height: (point: SectionPoint) => number) => through(along(height)) ?? "";
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
    heightTicks: roundMetres(low, high, 6, system),
    distanceTicks: roundMetres(0, route.length_m, Math.max(2, frame.width / 110), system).filter(
      (tick) => tick > 0 && tick < route.length_m * (1 - 60 / Math.max(120, frame.width)),
    ),
  };
}

/** What the section says at a distance: everything on straight lines between surveyed points. */
export function sectionAt(points: SectionPoint[], atM: number): SectionPoint | null {
  const after = points.findIndex((point) => point.at_m >= atM);
  const b = points[after];
  const a = points[after - 1] ?? b;
  if (!a || !b) return null;
  const share = b.at_m > a.at_m ? (atM - a.at_m) / (b.at_m - a.at_m) : 1;
  const between = (
    key: "ground_m" | "pipe_m" | "running_head_m" | "shut_head_m" | "running_kpa" | "shut_kpa",
  ) => a[key] + (b[key] - a[key]) * share;
  return {
    ...b,
    at_m: atM,
    ground_m: between("ground_m"),
    pipe_m: between("pipe_m"),
    running_head_m: between("running_head_m"),
    shut_head_m: between("shut_head_m"),
    running_kpa: between("running_kpa"),
    shut_kpa: between("shut_kpa"),
  };
}

/** Which surveyed point of its own line each point of the route is, for editing: points run from the line's start. */
export function pointOfLine(points: SectionPoint[], index: number, backwards: ReadonlySet<string>) {
  const point = points[index];
  if (!point) return null;
  const own = points.map((other, i) => ({ other, i })).filter(({ other }) => other.line === point.line);
  const rank = own.findIndex(({ i }) => i === index);
  return { line: point.line, index: backwards.has(point.line) ? own.length - 1 - rank : rank };
}
