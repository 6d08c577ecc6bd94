import { describe, expect, it } from "vitest";

import type { Analysis, Design, Feed, Grade, Route, Run, SectionPoint } from "../api/types";
import { legsOf, routeOf, shownRoutes } from "./route";

const design = {
  format: "leadsman-design",
  version: 1,
  name: "Plan",
  site: { name: "Tamsel Ridge" },
  places: [],
  lines: [
    { id: "one", from: "tank", to: "gate", length_m: 10 },
    { id: "two", from: "valve", to: "gate", length_m: 20 },
    { id: "in", from: "box", to: "tank", length_m: 5 },
  ],
  outlets: [{ id: "valve", kind: "open_end", place: "p", fills: "trough" }],
} satisfies Design;

const point = (line: string, at_m: number): SectionPoint => ({
  line,
  at_m,
  ground_m: 0,
  pipe_m: 0,
  shut_head_m: 9,
  shut_kpa: 90,
  mark: null,
});
const grade = (head_m: number | null): Grade => ({
  head_m,
  low_m: null,
  high_m: null,
  pressure_kpa: null,
  velocity_ms: 1,
});
const run = (flow_lpm: number, heads: (number | null)[]): Run => ({
  state: "running",
  reason_words: [],
  flow_lpm,
  flow_range: null,
  grade: heads.map(grade),
  sounding: null,
});
const route: Route = {
  outlet: "valve",
  vessel: "tank",
  lines: ["one", "two"],
  length_m: 30,
  section: [point("one", 0), point("one", 10), point("two", 10), point("two", 30)],
  together: run(8, [9, 8, 8, null]),
  alone: run(20, [9, 7, 7, 5]),
};
const cutOff: Route = {
  ...route,
  outlet: "dry",
  vessel: null,
  lines: [],
  section: [],
  together: run(0, []),
  alone: run(0, []),
};
const feed: Feed = {
  vessel: "box",
  into: "tank",
  lines: ["in"],
  length_m: 5,
  flow_lpm: 3,
  section: [point("in", 0), point("in", 5)],
  grade: [grade(12), grade(9)],
};
const analysis = { routes: [cutOff, route], feeds: [feed] } as unknown as Analysis;

describe("the ways that are shown", () => {
  it("are of all outlets drawing or of each alone, and after them from vessel to vessel", () => {
    const together = shownRoutes(analysis, "together");
    expect(together.map((one) => [one.key, one.flow_lpm])).toEqual([
      ["dry", 0],
      ["valve", 8],
      ["in", 3],
    ]);
    expect(together[1]?.section.map((one) => one.running_head_m)).toEqual([9, 8, 8, null]);
    expect(shownRoutes(analysis, "alone")[1]?.section.at(-1)?.running_head_m).toBe(5);
    expect(shownRoutes(null, "alone")).toEqual([]);
  });

  it.each([
    [null, "valve"],
    ["two", "valve"],
    ["trough", "valve"],
    ["dry", "valve"],
    ["in", "in"],
    ["tank", "in"],
    ["box", "in"],
  ])("with %s selected it is the one to %s", (selected, key) => {
    expect(routeOf(shownRoutes(analysis, "together"), selected, design)?.key).toBe(key);
  });

  it("are walked from the vessel, whichever way a line was drawn", () => {
    const [, shown] = shownRoutes(analysis, "together");
    const legs = shown ? legsOf(shown, design) : [];
    expect(legs.map((leg) => [leg.line, leg.from, leg.to, leg.forward, leg.startM, leg.endM])).toEqual([
      ["one", "tank", "gate", true, 0, 10],
      ["two", "gate", "valve", false, 10, 30],
    ]);
  });
});
