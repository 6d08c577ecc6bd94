import { describe, expect, it } from "vitest";

import type { Analysis, Design } from "../../api/types";
import { demandTable } from "./table";

const document = {
  herds: [{ id: "ewes", name: 'Ewes, "old"' }],
  outlets: [{ id: "valve", fills: "pan" }],
  vessels: [{ id: "pan", name: "Pan" }],
} as unknown as Design;

const demand = {
  herds: [{ id: "ewes", head: 9, per_head_lpd: 4.5, daily_l: 40.5, outlets: ["valve"], source: "a table" }],
  others: [{ name: "Beds", daily_l: 12, where: "valve", how: "30 plants" }],
  hours_l: { hot: Array.from({ length: 24 }, (_, hour) => (hour === 9 ? 52.5 : 0)) },
  season: { days: ["2026-05-01", "2026-05-02"], asked_lpd: { valve: [40.5, 0] } },
} as unknown as Analysis["demand"];

describe("the demand as a table", () => {
  it("has a row for each who, quotes what needs it, and the season day by day", () => {
    expect(demandTable(document, demand, "metric")).toBe(
      [
        "who,head,one_l_per_day,all_l_per_day,at,source",
        '"Ewes, ""old""",9,4.5,40.5,Pan,a table',
        "Beds,,,12,Pan,30 plants",
        "",
        "hour,hot l",
        ...Array.from({ length: 24 }, (_, hour) => `${hour},${hour === 9 ? 52.5 : 0}`),
        "",
        "day,Pan l_per_day",
        "2026-05-01,40.5",
        "2026-05-02,0",
        "",
      ].join("\n"),
    );
  });

  it("leaves the season out where nothing moves", () => {
    const still = { ...demand, season: { days: [], stops: {}, paddocks: {}, asked_lpd: {} } };
    expect(demandTable(document, still, "metric")).not.toContain("day,Pan");
  });

  it("is in the reader's units, named in the headings", () => {
    const table = demandTable(document, demand, "us").split("\n");
    expect(table[0]).toBe("who,head,one_us_gal_per_day,all_us_gal_per_day,at,source");
    expect(Number(table[1]?.split(",").at(-3))).toBeCloseTo(40.5 / 3.785411784, 3);
  });
});
