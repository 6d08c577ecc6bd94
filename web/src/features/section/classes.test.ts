import { describe, expect, it } from "vitest";

import type { ShownPoint } from "../../shared/route";
import { classLine } from "./classes";

const classes = new Map([["known", 1000]]);
const point = (line: string, at_m: number, pipe_m: number, shut_head_m: number | null) =>
  ({
    line,
    at_m,
    pipe_m,
    shut_head_m,
    shut_kpa: shut_head_m === null ? null : (shut_head_m - pipe_m) * 10,
  }) as unknown as ShownPoint;
const scales = { x: (m: number) => m, y: (m: number) => -m };

describe("what a pipe is good for", () => {
  it("lies as high over the pipe as its class would hold water", () => {
    const points = [point("known", 0, 100, 150), point("known", 10, 90, 150)];
    expect(classLine(points, classes, scales)).toBe("M0.0,-200.0L10.0,-190.0");
  });

  it("is not drawn where nothing is known, no water stands or nothing presses", () => {
    const points = [point("own", 0, 100, 150), point("known", 5, 100, null), point("known", 10, 100, 100)];
    expect(classLine(points, classes, scales)).toBe("");
  });

  it("begins anew with each line", () => {
    const points = [point("known", 0, 100, 150), point("own", 5, 90, 150), point("known", 9, 80, 150)];
    expect(classLine(points, classes, scales).match(/M/g)).toHaveLength(2);
  });
});
