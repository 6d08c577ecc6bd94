/** Walking a route through the document: which lines it takes forwards and which against their drawing. */
import type { Design, Route } from "../api/types";

export interface Leg {
  line: string;
  from: string;
  to: string;
  forward: boolean;
  startM: number;
  endM: number;
}

/** Return the legs of a route in flow order, each with its ends in flow order. */
export function legsOf(route: Route, document: Design): Leg[] {
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
