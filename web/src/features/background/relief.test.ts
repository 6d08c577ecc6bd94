import { describe, expect, it } from "vitest";

import type { Design, Relief } from "../../api/types";
import { tapsOf } from "./Paddocks";
import { contoursOf, contourStep, ringsAbove, shadesOf } from "./relief";

/** A plane that rises a metre in ten to the north, two hundred metres square. */
const plane = (rise = 0.1, gap = false): Relief => ({
  east_m: -100,
  north_m: -100,
  step_m: 10,
  source: "a plane",
  shift_m: 0,
  heights_m: Array.from({ length: 21 }, (_, row) =>
    Array.from({ length: 21 }, (_, column) =>
      gap && row === 10 && column === 10 ? null : 260 + rise * row * 10,
    ),
  ),
});

describe("contours", () => {
  it.each([
    [0, 1, 0.1],
    [240, 262, 2],
    [250, 280, 5],
    [0, 1200, 100],
    [5, 5, 0.01],
  ])("from %f to %f lie %f apart", (low, high, step) => {
    expect(contourStep(low, high)).toBeCloseTo(step, 9);
  });

  it("of a plane run straight across at their own height", () => {
    const lines = contoursOf(plane());
    expect(lines.map((line) => line.height)).toEqual([260, 262, 264, 266, 268, 270, 272, 274, 276, 278]);
    const line = lines.find((one) => one.height === 266);
    for (const [, north] of line?.rings.flat() ?? []) expect(north).toBeCloseTo(-40, 6);
    expect(line?.rings.flat().length).toBeGreaterThan(15);
  });
});

describe("shaded hills", () => {
  it("are lighter where they face the light in the north-west, darker where they turn away", () => {
    const at = (rise: number) => shadesOf(plane(rise))[10]?.[10] ?? 0;
    expect(at(-0.3)).toBeGreaterThan(at(0)); // falls to the north: faces it
    expect(at(0.3)).toBeLessThan(at(0));
    expect(shadesOf(plane(0.1, true))[10]?.[10]).toBeNull();
  });
});

describe("ground that is served", () => {
  it("is ringed where there is head to spare", () => {
    const relief = plane();
    const spare = relief.heights_m.map((row) => row.map((height) => 270 - (height ?? 0)));
    const north = ringsAbove(relief, spare)
      .flat()
      .map(([, y]) => y);
    expect(Math.max(...north)).toBeLessThanOrEqual(0.5);
    expect(Math.min(...north)).toBeLessThan(-90);
    expect(
      ringsAbove(
        relief,
        spare.map((row) => row.map(() => null)),
      ),
    ).toEqual([]);
  });
});

describe("taps", () => {
  it("are open ends, and tap points along lines", () => {
    const design = {
      places: [
        { id: "a", east_m: 0, north_m: 0, ground_m: 0 },
        { id: "b", east_m: 100, north_m: 0, ground_m: 0 },
      ],
      outlets: [
        { id: "tap", place: "b", kind: "open_end" },
        { id: "valve", place: "b", kind: "float_valve", valve: { kv_m3h: 1, closes_at_m: 0.4, band_m: 0.1 } },
      ],
      lines: [
        {
          id: "l",
          from: "a",
          to: "b",
          length_m: 200,
          inline: [
            { kind: "tap_point", at_m: 50 },
            { kind: "drain", at_m: 60 },
          ],
        },
      ],
    } as unknown as Design;
    expect(tapsOf(design)).toEqual([
      [100, 0],
      [25, 0],
    ]);
  });
});
