import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import { troughName } from "../../shared/names";
import { clock, mobGeometry, overMidnight, seasonYear, spellsOf, stopsOf, duration } from "./model";

const trace = {
  times_min: [0, 5, 10, 30],
  levels_m: [0.4, 0.2, 0.1, 0.4],
  waiting: [0, 6, 2, 0],
  drinking: [0, 4, 4, 0],
  inflow_lpm: [0, 10, 10, 1],
};

describe("the mob's picture", () => {
  const geometry = mobGeometry(trace, 0.4, { width: 500, height: 210 });

  it("keeps level and heads apart and inside, one above the other", () => {
    for (const index of [0, 1, 2, 3]) {
      const level = geometry.level(trace.levels_m[index] ?? 0);
      const heads = geometry.heads((trace.waiting[index] ?? 0) + (trace.drinking[index] ?? 0));
      expect(level).toBeGreaterThan(0);
      expect(heads).toBeGreaterThan(geometry.level(0));
      expect(heads).toBeLessThanOrEqual(geometry.foot);
    }
    expect(geometry.mostHeads).toBe(10);
    expect(geometry.levelLine.match(/[ML]/g)).toHaveLength(4);
  });

  it("stacks those who wait on those who drink", () => {
    expect(geometry.waiting).toContain(String(geometry.heads(10)));
    expect(geometry.drinking).toContain(String(geometry.heads(4)));
  });
});

describe("the season", () => {
  it("is drawn in spells of the same need", () => {
    expect(spellsOf([0, 5, 5, 7, 0, 7])).toEqual([
      { from: 1, to: 3, value: 5 },
      { from: 3, to: 4, value: 7 },
      { from: 5, to: 6, value: 7 },
    ]);
    expect(spellsOf([])).toEqual([]);
  });

  it("calls an outlet by its trough", () => {
    const design = {
      outlets: [
        { id: "valve", fills: "pan" },
        { id: "tap", name: "Tap" },
      ],
      vessels: [{ id: "pan", name: "Goose pan" }],
    } as unknown as Design;
    expect(troughName(design, "valve")).toBe("Goose pan");
    expect(troughName(design, "tap")).toBe("Tap");
    expect(troughName(design, "gone")).toBe("gone");
  });
});

describe("times of a day", () => {
  it.each([
    [0, "00:00"],
    [605, "10:05"],
    [1439.6, "24:00"],
    [1440, "24:00"],
    [1500, "01:00"],
  ])("%d minutes are %s", (minutes, text) => {
    expect(clock(minutes)).toBe(text);
  });

  it("cuts a spell over midnight in two", () => {
    expect(overMidnight(600, 660)).toEqual([[600, 660]]);
    expect(overMidnight(1410, 1470)).toEqual([
      [1410, 1440],
      [0, 30],
    ]);
  });

  it("takes the year of the day shown, else of the first moves", () => {
    const document = {
      shown_for: "hot",
      scenarios: [{ id: "hot", date: "2025-07-01" }],
      calendar: [{ from: "2024-05-01" }],
    } as unknown as Design;
    expect(seasonYear(document)).toBe("2025");
    expect(seasonYear({ ...document, scenarios: [] })).toBe("2024");
  });
});

describe("where a herd may go", () => {
  const document = {
    paddocks: [
      { id: "a", name: "Upper", outlet: "one" },
      { id: "b", outlet: "two" },
    ],
    outlets: [
      { id: "one", fills: "pan" },
      { id: "two", name: "Tap two" },
    ],
    vessels: [{ id: "pan", name: "Pan" }],
  } as unknown as Design;
  const moves = { id: "m", herd: "h", from: "2026-05-01" };

  it("is told by paddock, in the order of the moves", () => {
    expect(stopsOf(document, { ...moves, paddocks: ["b", "a"] })).toEqual([
      { id: "a", text: "2. Upper", chosen: true },
      { id: "b", text: "1. b", chosen: true },
    ]);
  });

  it("is told by trough where no paddock is named, without a number where there is but one", () => {
    expect(stopsOf(document, { ...moves, outlets: ["two"] })).toEqual([
      { id: "one", text: "Pan", chosen: false },
      { id: "two", text: "Tap two", chosen: true },
    ]);
  });
});

describe("minutes as people say them", () => {
  it.each([
    [0.4, "0 minutes"],
    [179, "179 minutes"],
    [180, "3.0 hours"],
    [900, "15.0 hours"],
  ])("%f is %s", (minutes, text) => {
    expect(duration(minutes)).toBe(text);
  });
});
