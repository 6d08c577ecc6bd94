import { describe, expect, it } from "vitest";

import type { Design } from "../api/types";
import { alongWay, wayLength, wayOf } from "./way";

const farm = {
  places: [
    { id: "a", east_m: 0, north_m: 0 },
    { id: "b", east_m: 30, north_m: 40 },
  ],
  vessels: [{ id: "tank", place: "a" }],
  lines: [
    { id: "straight", from: "tank", to: "b" },
    { id: "round", from: "b", to: "a", way: [[30, 0]] },
  ],
} as unknown as Design;
const [straight, round] = farm.lines ?? [];

describe("the way of a line on the plan", () => {
  it("runs between the places of its ends, by its corners", () => {
    if (!straight || !round) throw new Error("two lines");
    expect(wayOf(farm, straight)).toEqual([
      [0, 0],
      [30, 40],
    ]);
    expect(wayOf(farm, round)).toEqual([
      [30, 40],
      [30, 0],
      [0, 0],
    ]);
    expect(wayLength(wayOf(farm, straight))).toBe(50);
    expect(wayLength(wayOf(farm, round))).toBe(70);
  });

  it.each([
    [0, [30, 40]],
    [20 / 70, [30, 20]],
    [40 / 70, [30, 0]],
    [55 / 70, [15, 0]],
    [1, [0, 0]],
  ] as const)("is at %f of its length where it should be", (share, [x, y]) => {
    if (!round) throw new Error("two lines");
    const [east, north] = alongWay(wayOf(farm, round), share);
    expect(east).toBeCloseTo(x);
    expect(north).toBeCloseTo(y);
  });

  it("of no length stays where it is", () => {
    expect(
      alongWay(
        [
          [3, 4],
          [3, 4],
        ],
        0.5,
      ),
    ).toEqual([3, 4]);
    expect(alongWay([], 0.5)).toEqual([0, 0]);
  });
});
