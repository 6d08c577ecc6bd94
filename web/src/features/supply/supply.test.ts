import { describe, expect, it } from "vitest";

import type { Design, Inflow, SeasonRun } from "../../api/types";
import { withFigure } from "./inflow";
import { levelStrip } from "./levelStrip";
import { curveGeometry, handGeometry, seasonRows, yearGeometry } from "./season";

const document = {
  inflows: [{ id: "source-1", name: "Spring, old" }],
  vessels: [
    { id: "trough", role: "trough" },
    { id: "tank", role: "tank" },
  ],
} as unknown as Design;

describe("sources", () => {
  it("tells a roof by its area or by its lengths, never by both", () => {
    const roof: Inflow = { id: "roof", fills: "tank", kind: "rain", area_m2: 50 };
    const byLength = withFigure(roof, "length_m", 9);
    expect(byLength).toMatchObject({ length_m: 9, width_m: 9 });
    expect(byLength).not.toHaveProperty("area_m2");
    const wide = withFigure(byLength, "width_m", 4);
    expect(wide).toMatchObject({ length_m: 9, width_m: 4 });
    expect(withFigure(wide, "area_m2", 36)).toMatchObject({ area_m2: 36 });
    expect(withFigure(wide, "area_m2", 36)).not.toHaveProperty("length_m");
  });

  it("gives float switches together and takes them back together", () => {
    const pump: Inflow = { id: "pump", fills: "tank", kind: "pump", flow_lpm: 20 };
    const low = withFigure(pump, "cut_in_m", 0.5);
    expect(low).toMatchObject({ cut_in_m: 0.5, cut_out_m: 0.8 });
    expect(withFigure(pump, "cut_out_m", 0.2)).toMatchObject({ cut_in_m: 0, cut_out_m: 0.2 });
    const neither = withFigure(low, "cut_out_m", null) as Extract<Inflow, { kind: "pump" }>;
    expect([neither.cut_in_m, neither.cut_out_m]).toEqual([null, null]);
  });
});

const season = {
  days: 4,
  capacity_l: 1000,
  cautious: { days_share: 0.75 },
  curve: { store_l: [100, 1000, 10000], days_share: [0.25, 0.75, 1] },
  series: {
    days_each: 1,
    days: ["2026-05-30", "2026-05-31", "2026-06-01", "2026-06-02"],
    in_l: { "source-1": [10, 0, 0, 400], roof: [0, 0, 5, 0] },
    out_l: [200, 200, 50, 200],
    unmet_l: [0, 0, 150, 0],
    spilled_l: [0, 0, 0, 0],
    store_l: [500, 300, 0, 200],
    days_in_hand: [2.5, 1.5, 0, 1],
    most_c: [18, 19, 20, 21],
    rain_mm: [1, 0, 0, 9],
  },
} as unknown as SeasonRun;

describe("the season's pictures", () => {
  const frame = { width: 480, height: 210 };

  it("adds up the sources, marks the day without enough, and starts each month", () => {
    const year = yearGeometry(season, frame);
    expect(year.inflow).toEqual([10, 0, 5, 400]);
    expect(year.demand).toEqual([200, 200, 200, 200]);
    expect(year.bad).toEqual([2]);
    expect(year.months).toEqual([{ day: "2026-06-01", index: 2 }]);
    expect(year.indexAt(year.x(2.6))).toBe(2);
    expect(year.indexAt(-50)).toBe(0);
    expect(year.store(1000)).toBeLessThan(year.store(0));
  });

  it("keeps the wanted days inside the band's frame", () => {
    const hand = handGeometry(season, 4, { width: 480, height: 64 });
    expect(hand.y(4)).toBeGreaterThan(0);
    expect(hand.y(0)).toBe(hand.foot);
  });

  it("puts the present store on the curve", () => {
    const curve = curveGeometry(season, frame);
    expect(curve.own.x).toBeCloseTo(curve.x(1000));
    expect(curve.own.y).toBeCloseTo(curve.y(0.75));
    expect(curve.sizeTicks).toEqual([100, 300, 1000, 3000, 10000]);
  });

  it("is a table with a column for each source", () => {
    const rows = seasonRows(document, season, "metric");
    expect(rows[0]).toEqual([
      "from_day",
      "rain_mm",
      "most_c",
      "Spring, old l",
      "roof l",
      "supplied_l",
      "unmet_l",
      "spilled_l",
      "store_l",
      "days_in_hand",
    ]);
    expect(rows[3]).toEqual(["2026-06-01", 0, 20, 0, 5, 50, 150, 0, 0, 0]);
  });
});

describe("the level strip", () => {
  const marks = [0, 0.1, 0.2].map((level) => ({ level, text: `${level} m`, litres: `${level * 1000} <L>` }));

  it("is at full size where it fits a sheet, and clean of what would break it", () => {
    const strip = levelStrip("Ridge & tank", marks);
    expect(strip).toContain("full size");
    expect(strip).toContain("Ridge &amp; tank");
    expect(strip).toContain("100 &lt;L&gt;");
    const heights = [...strip.matchAll(/d="M4 ([\d.]+)H22"/g)].map((match) => Number(match[1]));
    expect((heights[0] ?? 0) - (heights[2] ?? 0)).toBeCloseTo(200, 2);
  });

  it("is to scale, and says so, where the tank is higher than a sheet", () => {
    const tall = levelStrip("Tank", [...marks, { level: 2, text: "2 m", litres: "9 L" }]);
    expect(tall).toContain("scale 1 : 8.00");
  });
});
