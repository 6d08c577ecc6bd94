import { describe, expect, it } from "vitest";

import type { BookReport, Design, FlowCheck, LevelBook, NextReading, PlaceHeight } from "../../api/types";
import {
  asSight,
  bookPoints,
  errorOf,
  flowTold,
  nextSentence,
  riseTold,
  sightOf,
  heightsTaken,
  heightTaken,
} from "./model";

describe("sights of a level book", () => {
  it("are told by what was read, and change into one another without losing it", () => {
    const mid = { place: "a", mid_m: 1.25 };
    expect(sightOf(mid)).toBe("between");
    expect(asSight(mid, "moves")).toBeNull(); // no backsight is made up
    const moves = { place: "a", fore_m: 1.25, back_m: 2 };
    expect(asSight(mid, "moves", 2)).toEqual(moves);
    expect(sightOf(moves)).toBe("moves");
    const last = { place: "a", fore_m: 1.25 };
    expect(asSight(moves, "last")).toEqual(last);
    expect(sightOf(last)).toBe("last");
    expect(asSight(last, "between")).toEqual(mid);
    expect(asSight({ name: "peg", mid_m: 1 }, "last")).toEqual({ name: "peg", fore_m: 1 });
    expect(sightOf({ back_m: 1 })).toBe("first");
  });
});

describe("a book's heights", () => {
  const book = {
    id: "k",
    readings: [
      { place: "a", back_m: 1 },
      { place: "b", fore_m: 3.5 },
    ],
  } as LevelBook;
  const report = {
    points: [{ adjusted_m: 100 }, { adjusted_m: 97.5004 }],
    misclosure_m: -0.004,
  } as unknown as BookReport;

  it("are taken over for all but the first place, with the ends of lines there and how good they are", () => {
    expect(heightsTaken(book, report, errorOf(report))).toEqual([
      {
        kind: "set_ground",
        place: "b",
        ground_m: 97.5,
        height_error_m: 0.01,
        height_from: "level and staff",
      },
    ]);
  });
});

const farm = {
  places: [
    { id: "a", name: "Knoll", east_m: 0, north_m: 0, ground_m: 100 },
    { id: "b", name: "Fold", east_m: 50, north_m: 0, ground_m: 90 },
  ],
  outlets: [
    { id: "v", name: "Fold valve", place: "b", fills: "t" },
    { id: "w", name: "Drip", place: "b" },
  ],
  vessels: [{ id: "t", name: "Ewe trough" }],
  bench: "b",
} as unknown as Design;
const reading = (part: string, outlet: string, turns: boolean, settles: boolean, kind = "height") =>
  ({ kind, part, outlet, turns, settles }) as unknown as NextReading;

describe("what to measure next", () => {
  it("names the reading an answer turns on, then the best for each other outlet, and what is good enough", () => {
    expect(nextSentence(farm, [reading("a", "v", false, false)])).toMatch(/measurements are good enough/);
    const told = nextSentence(farm, [
      reading("b", "v", true, true),
      reading("a", "v", true, false),
      reading("w", "w", true, false, "valve"),
      reading("a", "w", true, false),
    ]);
    expect(told).toBe(
      "Level Fold: the answer at Ewe trough depends on it, and this would settle it. Then time a pail at Drip, with a gauge before its valve (for Drip). The rest is good enough.",
    );
    expect(nextSentence(farm, [reading("b", "v", true, false)])).toMatch(/this alone would not settle it/);
  });
});

describe("readings in words", () => {
  it("say over and under, and heights on a datum of their own", () => {
    const rise = { from_place: "a", to_place: "b", rise_m: -3.2, error_m: 0.014 };
    expect(riseTold(farm, rise, "metric")).toBe("Fold 3.20 m under Knoll, ± 0.01 m");
    expect(riseTold(farm, { ...rise, from_place: null, rise_m: 318.9 }, "us")).toBe(
      "Fold at 1\u202f046.3 ft, ± 0.0 ft",
    );
  });

  it("say of a timed flow whether it agrees, and how far off the height would be", () => {
    const check = {
      outlet: "v",
      measured_lpm: 9,
      error_lpm: 0.2,
      likely_lpm: 12,
      worst_lpm: 11,
      best_lpm: 14,
      agrees: false,
      higher_m: 1.5,
      least_m: -0.5,
      most_m: 3,
    } as FlowCheck;
    expect(flowTold(farm, check, "metric")).toMatch(
      /1\.50 m higher than planned, between 0\.50 m lower and 3\.00 m higher/,
    );
    expect(flowTold(farm, { ...check, agrees: true }, "metric")).toMatch(/They agree\.$/);
    expect(flowTold(farm, { ...check, higher_m: null }, "metric")).toMatch(/clogged filter/);
  });
});

describe("heights taken over", () => {
  it("set a place to what all ways say of it", () => {
    const found = { place: "b", height_m: 90.12345, error_m: 0.0004, way: "hose level" } as PlaceHeight;
    expect(heightTaken(found)).toMatchObject({
      place: "b",
      ground_m: 90.123,
      height_error_m: 0.001,
      height_from: "hose level",
    });
    const points = bookPoints(
      farm,
      {
        id: "k",
        readings: [{ place: "a", back_m: 1 }, { name: "peg", mid_m: 2 }, { fore_m: 3 }],
      },
      { points: [{ level_m: 100 }, { level_m: 99 }, { level_m: 98 }] } as unknown as BookReport,
    );
    expect(points.map((one) => one.name)).toEqual(["Knoll", "peg", "3"]);
    expect(points.map((one) => one.spot)).toEqual([[0, 0], null, null]);
  });
});
