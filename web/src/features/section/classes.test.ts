import { describe, expect, it } from "vitest";

import type { Catalogue, Design } from "../../api/types";
import type { ShownPoint } from "../../shared/route";
import { classLine, classOf } from "./classes";

const design = {
  lines: [
    { id: "known", from: "a", to: "b", product: "good-pipe" },
    { id: "own", from: "b", to: "c", bore_mm: 20, roughness_mm: 0.01 },
    { id: "strange", from: "c", to: "d", product: "no-such-pipe" },
  ],
} as unknown as Design;
const catalogue = { pipes: [{ id: "good-pipe", class_kpa: 1000 }] } as unknown as Catalogue;
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
  it("is known where the catalogue has it, and not of a pipe by its own bore", () => {
    expect([...classOf(design, catalogue)]).toEqual([["known", 1000]]);
    expect(classOf(design, undefined).size).toBe(0);
  });

  it("lies as high over the pipe as its class would hold water", () => {
    const points = [point("known", 0, 100, 150), point("known", 10, 90, 150)];
    expect(classLine(points, classOf(design, catalogue), scales)).toBe("M0.0,-200.0L10.0,-190.0");
  });

  it("is not drawn where nothing is known, no water stands or nothing presses", () => {
    const classes = classOf(design, catalogue);
    const points = [point("own", 0, 100, 150), point("known", 5, 100, null), point("known", 10, 100, 100)];
    expect(classLine(points, classes, scales)).toBe("");
  });

  it("begins anew with each line", () => {
    const points = [point("known", 0, 100, 150), point("own", 5, 90, 150), point("known", 9, 80, 150)];
    expect(classLine(points, classOf(design, catalogue), scales).match(/M/g)).toHaveLength(2);
  });
});
