import { describe, expect, it } from "vitest";

import { roundMetres, tickDigits } from "./ticks";
import { figure, toShown, type System } from "./units";

describe("ticks of an axis", () => {
  it.each<[number, number, number, System]>([
    [254, 268, 6, "metric"],
    [254, 255.2, 6, "metric"],
    [99.98, 100.04, 4, "metric"],
    [0, 414, 5, "us"],
    [254, 254.9, 6, "imperial"],
  ])("from %s to %s repeat no number: %s in %s", (low, high, count, system) => {
    const marks = roundMetres(low, high, count, system);
    const texts = marks.map((mark) => figure(toShown(mark, "m", system), tickDigits(marks, system)));
    expect(marks.length).toBeGreaterThan(1);
    expect(new Set(texts).size).toBe(texts.length);
  });

  it("have no decimals where whole numbers tell them apart", () => {
    expect(tickDigits(roundMetres(250, 270, 5, "metric"), "metric")).toBe(0);
    expect(tickDigits([100], "metric")).toBe(0);
  });
});
