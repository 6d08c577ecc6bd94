import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import type { ShownPoint, ShownRoute } from "../../shared/route";
import { drained, pointOfLine, sectionAt, sectionGeometry, zoomed } from "./model";

const point = (line: string, at_m: number, ground_m: number, running_head_m: number): ShownPoint => ({
  line,
  at_m,
  ground_m,
  pipe_m: ground_m - 0.3,
  running_head_m,
  shut_head_m: 30,
  running_kpa: (running_head_m - ground_m + 0.3) * 9.8,
  shut_kpa: (30.3 - ground_m) * 9.8,
  low_m: running_head_m - 0.5,
  high_m: running_head_m + 0.2,
  velocity_ms: 1,
  mark: null,
});

const points = [
  point("a", 0, 28, 30),
  point("a", 100, 20, 27),
  point("b", 100, 20, 26.5),
  point("b", 160, 22, 25),
];
const route: ShownRoute = {
  key: "o",
  end: "o",
  run: null,
  outlet: "o",
  vessel: "v",
  lines: ["a", "b"],
  length_m: 160,
  flow_lpm: 20,
  section: points,
  sounding: null,
};

describe("what the section says at a distance", () => {
  it("runs straight between surveyed points", () => {
    const at = sectionAt(points, 50);
    expect(at?.ground_m).toBeCloseTo(24);
    expect(at?.running_head_m).toBeCloseTo(28.5);
  });

  it("is the point itself at a point, and before the later line where two meet", () => {
    expect(sectionAt(points, 100)?.running_head_m).toBeCloseTo(27);
    expect(sectionAt(points, 0)?.ground_m).toBe(28);
    expect(sectionAt(points, 160)?.ground_m).toBe(22);
  });

  it("is nothing beyond the end", () => {
    expect(sectionAt(points, 161)).toBeNull();
    expect(sectionAt([], 10)).toBeNull();
  });
});

describe("geometry", () => {
  const geometry = sectionGeometry(route, { width: 800, height: 300 }, "metric");

  it("keeps everything inside the frame", () => {
    for (const at of [0, 80, 160]) expect(geometry.x(at)).toBeGreaterThan(0);
    expect(geometry.x(160)).toBeLessThan(800);
    for (const height of [20, 30]) {
      expect(geometry.y(height)).toBeGreaterThan(0);
      expect(geometry.y(height)).toBeLessThan(geometry.bottom);
    }
  });

  it("has ticks that are round in the user's units", () => {
    const us = sectionGeometry(route, { width: 800, height: 300 }, "us");
    for (const tick of us.heightTicks)
      expect(tick / 0.3048 / 5).toBeCloseTo(Math.round(tick / 0.3048 / 5), 6);
    for (const tick of geometry.distanceTicks) expect(tick % 10).toBe(0);
  });

  it("draws one path through all points", () => {
    expect(geometry.running.match(/[ML]/g)).toHaveLength(points.length);
    expect(geometry.band.match(/[ML]/g)).toHaveLength(2 * points.length);
  });

  it("leaves out what no water gets to", () => {
    const dry = points.map((one, index) => (index < 2 ? one : { ...one, running_head_m: null, low_m: null }));
    const part = sectionGeometry({ ...route, section: dry }, { width: 800, height: 300 }, "metric");
    expect(part.running.match(/[ML]/g)).toHaveLength(2);
    expect(sectionAt(dry, 130)?.running_head_m).toBeNull();
  });
});

describe("which point of its own line is dragged", () => {
  it.each([
    [0, "a", 0],
    [1, "a", 1],
    [2, "b", 0],
    [3, "b", 1],
  ])("point %i is %s %i", (index, line, own) => {
    expect(pointOfLine(points, index, new Set())).toEqual({ line, index: own });
  });

  it("counts from the other end on a line that is walked backwards", () => {
    expect(pointOfLine(points, 2, new Set(["b"]))).toEqual({ line: "b", index: 1 });
    expect(pointOfLine(points, 9, new Set())).toBeNull();
  });
});

describe("zooming", () => {
  it.each([
    [[0, 400], 200, 2, [100, 300]],
    [[0, 400], 0, 2, [0, 200]],
    [[0, 400], 400, 2, [200, 400]],
    [[100, 300], 150, 0.5, [0, 400]],
    [[100, 300], 120, 4, [115, 165]],
    [[100, 110], 105, 10, [95, 115]],
  ] as const)("of %s about %f by %f shows %s", (stretch, about, factor, shown) => {
    const [from, to] = zoomed(stretch, about, factor, 400);
    expect(from).toBeCloseTo(shown[0], 6);
    expect(to).toBeCloseTo(shown[1], 6);
  });
});

describe("a dip", () => {
  const plan = (kind: string, atM: number, backwards = false): Design =>
    ({
      lines: [
        { id: "a", from: "tank", to: "mid" },
        {
          id: "b",
          ...(backwards ? { from: "o", to: "mid" } : { from: "mid", to: "o" }),
          inline: [{ kind, at_m: atM }],
        },
      ],
    }) as unknown as Design;
  const way = { ...route, vessel: "tank", lines: ["a", "b"], section: points } as unknown as ShownRoute;
  const dip = { ...(points[3] as ShownPoint), at_m: 140 };

  it.each([
    ["drain", 40, false, true],
    ["drain", 42.5, false, true],
    ["drain", 44, false, false],
    ["tap_point", 40, false, false],
    ["drain", 20, true, true], // drawn the other way
    ["drain", 40, true, false],
  ])("with a %s at %d m, drawn backwards %s, is drained: %s", (kind, atM, backwards, expected) => {
    expect(drained(dip, way, plan(kind, atM, backwards))).toBe(expected);
  });

  it("on no line of the way is not", () => {
    expect(drained({ ...dip, line: "gone" }, way, plan("drain", 40))).toBe(false);
  });
});
