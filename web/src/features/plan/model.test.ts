import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import type { ShownRoute } from "../../shared/route";
import { planScale, scaleBar, sparesOf } from "./model";

const design = {
  format: "leadsman-design",
  version: 1,
  name: "Plan",
  site: { name: "Tamsel Ridge" },
  places: [
    { id: "a", east_m: 10, north_m: 200, ground_m: 0 },
    { id: "b", east_m: 410, north_m: 0, ground_m: 0 },
  ],
} satisfies Design;

describe("the plan's scale", () => {
  it("is the same along both axes, with north up and everything inside", () => {
    const scale = planScale(design, { width: 800, height: 500 });
    expect(scale.x(410) - scale.x(10)).toBeCloseTo(400 * scale.perMetre);
    expect(scale.y(0) - scale.y(200)).toBeCloseTo(200 * scale.perMetre);
    expect(scale.y(200)).toBeGreaterThan(0);
    expect(scale.x(410)).toBeLessThan(800);
    expect(scale.y(0)).toBeLessThan(500);
  });

  it("holds for a single place", () => {
    const scale = planScale({ ...design, places: design.places.slice(0, 1) }, { width: 300, height: 300 });
    expect(Number.isFinite(scale.x(10))).toBe(true);
  });

  it.each([
    [0.5, 1, 200],
    [2, 1, 50],
    [0.5, 1 / 0.3048, 500],
  ])("has a round bar at %f pixels a metre", (perMetre, unit, length) => {
    const bar = scaleBar(perMetre, (metres) => metres * unit);
    expect(bar.length).toBe(length);
    expect(bar.pixels).toBeLessThanOrEqual(101);
  });
});

describe("head to spare", () => {
  const withSpare = (spare: string | null, wanted = true) =>
    [{ lines: ["main"], sounding: { wanted, spare } }] as unknown as ShownRoute[];

  it("is told only where a flow is wanted", () => {
    expect(sparesOf(withSpare("little")).get("main")).toBe("little");
    expect(sparesOf(withSpare("short", false)).size).toBe(0);
    expect(sparesOf(withSpare(null)).size).toBe(0);
  });

  it("is that of the best served behind it: the trouble lies in the branch that falls short", () => {
    const routes = [...withSpare("short"), ...withSpare("some")];
    expect(sparesOf(routes).get("main")).toBe("some");
  });

  it("is not told where no flow is asked for", () => {
    const asked = [
      { lines: ["main"], sounding: { wanted: false, margin_m: -1e-9, least_over_pipe_m: 1 } },
    ] as unknown as ShownRoute[];
    expect(sparesOf(asked).get("main")).toBeUndefined();
  });

  it("is not known of a line on no route", () => {
    expect(sparesOf(withSpare("some")).get("other")).toBeUndefined();
    expect(sparesOf([]).size).toBe(0);
  });
});
