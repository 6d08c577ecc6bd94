import { expect, test } from "vitest";

import { pathOf, spanOf } from "./levels";

const FRAME = { width: 120, height: 60, left: 10, right: 10, top: 5, bottom: 5 };
const at = (hour: number) => new Date(2031, 5, 20, hour).toISOString();

test("a series goes from edge to edge, full near the top", () => {
  const readings: [string, number][] = [
    [at(0), 0],
    [at(24), 2],
  ];
  const span = spanOf({ readings, stick: [], expected: [], full_m: 2 });
  expect(span.most_m).toBeCloseTo(2.2);
  expect(pathOf(readings, span, FRAME)).toBe("M10.0 55.0L110.0 9.5");
  expect(span.midnights).toEqual([]);
});

test("dipsticks alone make a picture too, and one of them no empty span", () => {
  const span = spanOf({ readings: [], stick: [[at(6), 1]], expected: [], full_m: 2 });
  expect(span.to).toBeGreaterThan(span.from);
});
