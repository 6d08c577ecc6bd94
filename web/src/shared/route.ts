/** The ways that the water takes, as they are shown: for all outlets together, or each by itself. */
import type { Analysis, Course, Design, Feed, Grade, Route, Run, SectionPoint, Sounding } from "../api/types";

export type Together = "together" | "alone";

/** A surveyed point with the running water there; heads are null where no water gets to. */
export interface ShownPoint extends SectionPoint {
  running_head_m: number | null;
  running_kpa: number | null;
  low_m: number | null;
  high_m: number | null;
  velocity_ms: number;
}

/** One way from a vessel to an outlet, or into another vessel, in the case that is shown. */
export interface ShownRoute {
  key: string;
  outlet: string | null;
  vessel: string | null;
  /** the outlet or vessel it leads to */
  end: string;
  lines: string[];
  length_m: number;
  flow_lpm: number;
  run: Run | null;
  sounding: Sounding | null;
  section: ShownPoint[];
}

/** Every way in the case that is shown: to the outlets first, then from vessel to vessel. */
export function shownRoutes(analysis: Analysis | null, together: Together): ShownRoute[] {
  if (!analysis) return [];
  return [
    ...analysis.routes.map((route) => routeTo(route, route[together])),
    ...analysis.feeds.map((feed) => routeInto(feed)),
  ];
}

function routeTo(route: Route, run: Run): ShownRoute {
  const { outlet, vessel, lines, length_m, section } = route;
  return {
    key: outlet,
    outlet,
    vessel,
    end: outlet,
    lines,
    length_m,
    flow_lpm: run.flow_lpm,
    run,
    sounding: run.sounding,
    section: withGrade(section, run.grade),
  };
}

function routeInto(feed: Feed): ShownRoute {
  const { vessel, into, lines, length_m, flow_lpm, section, grade } = feed;
  const key = lines.at(-1) ?? into;
  return {
    key,
    outlet: null,
    vessel,
    end: into,
    lines,
    length_m,
    flow_lpm,
    run: null,
    sounding: null,
    section: withGrade(section, grade),
  };
}

/** The way between two nodes as it is shown: it begins at the first, whatever that is. */
export function shownCourse({ start, end, lines, length_m, section, grade }: Course): ShownRoute {
  const shown = { key: `${start} ${end}`, outlet: null, vessel: start, end, lines, length_m, flow_lpm: 0 };
  return { ...shown, run: null, sounding: null, section: withGrade(section, grade) };
}

/** Of sections shown before: most ways stay as they are while one thing is dragged. */
const graded = new WeakMap<Grade[], { section: SectionPoint[]; points: ShownPoint[] }>();

function withGrade(section: SectionPoint[], grades: Grade[]): ShownPoint[] {
  const before = graded.get(grades);
  if (before?.section === section) return before.points;
  const points = section.map((point, index) => {
    const grade = grades[index];
    return {
      ...point,
      running_head_m: grade?.head_m ?? null,
      running_kpa: grade?.pressure_kpa ?? null,
      low_m: grade?.low_m ?? null,
      high_m: grade?.high_m ?? null,
      velocity_ms: grade?.velocity_ms ?? 0,
    };
  });
  graded.set(grades, { section, points });
  return points;
}

/** The way that the section shows: to the selected outlet, over the selected line or into the selected vessel. */
export function routeOf(
  routes: ShownRoute[],
  selected: string | null,
  document: Design | null,
): ShownRoute | null {
  const walked = routes.filter((route) => route.vessel);
  const filling = document?.outlets?.find((outlet) => outlet.fills === selected)?.id;
  const wanted = filling ?? selected;
  return (
    walked.find((route) => route.key === wanted) ??
    walked.find((route) => route.end === wanted) ??
    walked.find((route) => wanted !== null && route.lines.includes(wanted)) ??
    walked.find((route) => route.vessel === wanted) ??
    walked[0] ??
    null
  );
}

export interface Leg {
  line: string;
  from: string;
  to: string;
  forward: boolean;
  startM: number;
  endM: number;
}

/** Return the legs of a route in flow order, each with its ends in flow order. */
export function legsOf(route: ShownRoute, document: Design): Leg[] {
  let here = route.vessel ?? "";
  return route.lines.flatMap((id) => {
    const line = document.lines?.find((one) => one.id === id);
    if (!line) return [];
    const forward = line.from === here;
    const [from, to] = forward ? [line.from, line.to] : [line.to, line.from];
    here = to;
    const own = route.section.filter((point) => point.line === id);
    return [{ line: id, from, to, forward, startM: own[0]?.at_m ?? 0, endM: own.at(-1)?.at_m ?? 0 }];
  });
}
