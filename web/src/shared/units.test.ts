import { describe, expect, it } from "vitest";

import { figure, fromShown, quantityText, toShown, type Family } from "./units";

describe("US units", () => {
  // NIST SP 811 factors, recomputed with Pint 0.25.3; Kv to Cv 1/0.86498 (IEC 60534)
  it.each<[number, Family, number]>([
    [3.785411784, "L/min", 1],
    [3.785411784, "L", 1],
    [0.3048, "m", 1],
    [25.4, "mm", 1],
    [6.894757293, "kPa", 1],
    [0.45359237, "kg", 1],
    [37, "°C", 98.6],
    [-40, "°C", -40],
    [0.86498, "m³/h", 1],
  ])("%f %s", (document, family, us) => {
    expect(toShown(document, family, "us")).toBeCloseTo(us, 4);
    expect(fromShown(us, family, "us")).toBeCloseTo(document, 4);
  });

  it("give back the document's figure after a round trip", () => {
    const families: Family[] = ["m", "mm", "L/min", "L", "L/d", "kPa", "°C", "kg", "m³/h"];
    for (const family of families)
      for (const value of [0, 0.007, 1.8, 34, 266.4, 10000])
        expect(fromShown(toShown(value, family, "us"), family, "us")).toBe(value);
  });
});

describe("figures", () => {
  it("show thousands, a true minus and no minus zero", () => {
    expect(figure(12345.678, 1)).toBe("12\u202f345.7");
    expect(figure(-0.4, 1)).toBe("−0.4");
    expect(figure(-0.001, 1)).toBe("0.0");
    expect(quantityText({ value: 7400, unit: "L" }, "metric")).toBe("7\u202f400 L");
  });
});

describe("a trickle", () => {
  it.each([
    [0.084, "metric", "0.08 L/min"],
    [0.99, "metric", "0.99 L/min"],
    [1, "metric", "1.0 L/min"],
    [0.5, "us", "0.132 gal/min"],
  ] as const)("of %f in %s is %s", (value, system, text) => {
    expect(quantityText({ value, unit: "L/min" }, system)).toBe(text);
  });
});

describe("gallons", () => {
  it("are not all one: an imperial gallon is a fifth more than a US one", () => {
    expect(toShown(3.785411784, "L", "us")).toBeCloseTo(1, 12);
    expect(toShown(4.54609, "L", "imperial")).toBeCloseTo(1, 12);
    expect(fromShown(1, "L", "imperial") / fromShown(1, "L", "us")).toBeCloseTo(1.20095, 5);
    expect(quantityText({ value: 1000, unit: "L" }, "imperial")).toBe("220 imp gal");
    expect(quantityText({ value: 1000, unit: "L" }, "us")).toBe("264 gal");
    expect(quantityText({ value: 20, unit: "°C" }, "imperial")).toBe("20 °C");
  });
});
