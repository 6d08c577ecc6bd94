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

test("there is room for the day that is expected before it is known", () => {
  const readings: [string, number][] = [
    [at(-4), 1],
    [at(6), 1.2],
  ];
  const since: [string, number] = [at(0), 1.1];
  const before = spanOf({ readings, stick: [], expected: [], full_m: 2, since });
  const expected: [string, number][] = [since, [at(24), 1.9]];
  expect(spanOf({ readings, stick: [], expected, full_m: 2, since })).toEqual(before);
});

test("dipsticks alone make a picture too, and one of them no empty span", () => {
  const span = spanOf({ readings: [], stick: [[at(6), 1]], expected: [], full_m: 2 });
  expect(span.to).toBeGreaterThan(span.from);
});
