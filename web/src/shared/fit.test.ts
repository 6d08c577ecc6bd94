import { describe, expect, it } from "vitest";

import { fitScale } from "./fit";

const EDGE = { left: 10, right: 30, top: 20, bottom: 40 };
const FRAME = { width: 240, height: 160 };

describe("points put into a frame", () => {
  it("keep one scale for both ways, north up, inside the edges", () => {
    const scale = fitScale(
      [
        [100, 50],
        [300, 150],
      ],
      FRAME,
      EDGE,
    );
    expect(scale.perMetre).toBe(1);
    expect(scale.x(100)).toBe(10);
    expect(scale.x(300)).toBe(210);
    expect(scale.y(150)).toBe(20);
    expect(scale.y(50)).toBe(120);
  });

  it("stand in the middle of the way that has room to spare", () => {
    const scale = fitScale(
      [
        [0, 0],
        [50, 100],
      ],
      FRAME,
      EDGE,
    );
    expect(scale.perMetre).toBe(1);
    expect(scale.x(0)).toBe(85);
    expect(scale.x(50)).toBe(135);
  });

  it.each([
    [[[7, 9]] as const],
    [
      [
        [7, 9],
        [7, 9],
      ] as const,
    ],
  ])("that are one point have a scale all the same", (points) => {
    const scale = fitScale(points, FRAME, EDGE);
    expect(Number.isFinite(scale.perMetre)).toBe(true);
    expect(Number.isFinite(scale.x(7))).toBe(true);
  });

  it("in a frame that is too small for its edges keep a scale above nought", () => {
    const scale = fitScale(
      [
        [0, 0],
        [1000, 1000],
      ],
      { width: 20, height: 20 },
      EDGE,
    );
    expect(scale.perMetre).toBeGreaterThan(0);
  });
});
