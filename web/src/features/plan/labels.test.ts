import { describe, expect, it } from "vitest";

import type { Area } from "../../shared/area";
import { alongStroke, around, LABEL_COUNTS, placeLabels, shared } from "./labels";

const frame: Area = { x: 0, y: 0, width: 400, height: 300 };
const mark = (x: number, y: number): Area => ({ x, y, width: 40, height: 16 });
const labelAt = (key: string, at: Area, needed = true) => ({
  key,
  width: 80,
  height: 30,
  spots: around(at, 80, 30),
  needed,
});

describe("labels give way", () => {
  it("to the right of a mark where nothing is in the way", () => {
    const placed = placeLabels([labelAt("a", mark(100, 100))], [mark(100, 100)], frame);
    expect(placed.get("a")).toMatchObject({ x: 147, y: 98 });
  });

  it("to each other, to marks, to strokes and to the edge", () => {
    const marks = [mark(60, 60), mark(200, 60), mark(350, 150), mark(350, 110)];
    const stroke = alongStroke([100, 68], [200, 68], 8);
    const labels = marks.map((one, index) => labelAt(String(index), one));
    const areas = [...placeLabels(labels, [...marks, ...stroke], frame).values()];
    areas.forEach((area, index) => {
      expect(shared(area, frame)).toBe(80 * 30);
      for (const other of [...marks, ...stroke, ...areas.slice(index + 1)])
        expect(shared(area, other)).toBe(0);
    });
  });

  it("to another label before they give way to a stroke", () => {
    const [first, second] = [mark(100, 100), mark(160, 100)];
    const cut = (at: Area, spots: [number, number][]) => ({ ...labelAt(String(at.x), at), spots });
    const stroke = { x: 130, y: 140, width: 20, height: 40 };
    const placed = placeLabels(
      [cut(first, [[120, 60]]), cut(second, [[180, 80], [100, 150]])], // prettier-ignore
      [stroke],
      frame,
    );
    expect(placed.get("160")).toMatchObject({ x: 100, y: 150 });
  });

  it("are left out where there is no room, unless they are needed", () => {
    const full = [{ ...frame }];
    const placed = placeLabels(
      [labelAt("must", mark(100, 100)), labelAt("may", mark(200, 100), false)],
      full,
      frame,
    );
    expect([...placed.keys()]).toEqual(["must"]);
  });
});

describe("many labels", () => {
  it("lie as they would if each were held against every other one", () => {
    let seed = 7;
    const random = (below: number) => {
      seed = (seed * 16807) % 2147483647;
      return (seed / 2147483647) * below;
    };
    const frame = { x: 0, y: 0, width: 600, height: 400 };
    const taken = Array.from({ length: 60 }, () => ({
      x: random(580),
      y: random(380),
      width: 20,
      height: 14,
    }));
    const labels = Array.from({ length: 40 }, (_, index) => {
      const mark = { x: random(580), y: random(380), width: 18, height: 12 };
      const needed = index % 2 === 0;
      return { key: `l${index}`, width: 70, height: 30, spots: around(mark, 70, 30), needed };
    });
    const placed = placeLabels(labels, taken, frame);
    const before: Area[] = [...taken];
    for (const { key, width, height, spots, needed } of labels) {
      const costs = spots.map(([x, y]) => {
        const area = { x, y, width, height };
        const covered = before.reduce((sum, other) => sum + shared(area, other) * (other.weight ?? 1), 0);
        return covered + 4 * (width * height - shared(area, frame));
      });
      const least = Math.min(...costs);
      const found = placed.get(key);
      expect(found !== undefined).toBe(needed || least < 0.12 * width * height);
      if (!found) continue;
      const chosen = spots.findIndex(([x, y]) => x === found.x && y === found.y);
      expect(costs[chosen]).toBeCloseTo(least, 6);
      before.push({ ...found, weight: LABEL_COUNTS });
    }
    expect(placed.size).toBeGreaterThan(19);
  });
});
