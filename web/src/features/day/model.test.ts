import { describe, expect, it } from "vitest";

import type { DayRun, Design } from "../../api/types";
import { clockText, endOf, happeningFrom, stripsOf, tableRows, toldAt, valueAt } from "./model";

const run: DayRun = {
  times_s: [0, 600, 1200],
  levels_m: { tank: [1, 0.5, 0], trough: [0.2, 0.3, 0.3] },
  flows_lpm: { main: [-4, -2, 0], leg: [4, 2, 0], valve: [4, 2, 0] },
  heads_m: {},
  beside_lpm: { ewes: [0, 3, 3], lambs: [0, 1, 0], spring: [2, 2, 2] },
  events: [],
  happenings: [],
  looks_s: [28_800, 72_000],
  over_l: {},
  escaped_l: {},
  lacking_l: {},
  summary: {
    sentence: ["Yes"],
    weight: "told",
    lost_l: 0,
    store: "tank",
    least_store_l: 0,
    least_at_s: 0,
    most_store_l: 0,
    animal_hours: 0,
    waiting: [],
  },
  mass_error: 0,
};
const box = { kind: "box", length_m: 1, width_m: 1, height_m: 1.2 } as const;
const document = {
  places: [],
  vessels: [
    { id: "trough", place: "p", shape: box, level_m: 0.2, role: "trough", overflow_m: 0.4 },
    { id: "tank", name: "Hill tank", place: "p", shape: box, level_m: 1 },
  ],
  outlets: [{ id: "valve", kind: "float_valve", place: "p", fills: "trough" }],
  lines: [
    { id: "main", from: "joint", to: "tank" },
    { id: "leg", from: "joint", to: "valve" },
  ],
  herds: [
    { id: "ewes", outlet: "valve" },
    { id: "lambs", outlet: "valve" },
  ],
  inflows: [{ id: "spring", kind: "spring", fills: "tank" }],
} as unknown as Design;

describe("a run as strips", () => {
  it("tells stores first, then troughs, drinking of all herds together, sources and mains", () => {
    expect(stripsOf(document, run, null).map(({ key, most }) => [key, most])).toEqual([
      ["tank", 1.2],
      ["trough", 0.4],
      ["drinking", 4],
      ["spring", 2],
      ["main", 4],
    ]);
  });

  it("shows a flow that runs against its line as it is, and holds it against another run at the same times", () => {
    const other = toldAt({ ...run, times_s: [0, 1200], flows_lpm: { main: [-4, -8] } }, run.times_s);
    const main = stripsOf(document, run, other).find(({ key }) => key === "main");
    expect(main?.values).toEqual([4, 2, 0]);
    expect(main?.other).toEqual([4, 6, 8]);
    expect(main?.most).toBe(8);
  });

  it.each([
    [-5, 1],
    [300, 0.75],
    [600, 0.5],
    [1199, 0.5 * (1 / 600)],
    [5000, 0],
  ])("reads a level at %d s between its points", (time, wanted) => {
    expect(valueAt(run.times_s, run.levels_m.tank ?? [], time)).toBeCloseTo(wanted, 9);
  });

  it("writes a row for each time, in the unit that is shown", () => {
    const rows = tableRows(stripsOf(document, run, null).slice(0, 1), run.times_s, (value) => value * 100);
    expect(rows).toEqual([
      ["day 1, 00:00", 100],
      ["day 1, 00:10", 50],
      ["day 1, 00:20", 0],
    ]);
  });
});

describe("times", () => {
  it.each([
    [0, "00:00"],
    [47_399, "13:09"],
    [86_400, "24:00"],
    [90_000, "day 2, 01:00"],
  ])("%d s reads %s", (time, wanted) => {
    expect(clockText(time)).toBe(wanted);
  });

  it("goes to what happens next and before, not to what is there already", () => {
    const times = [100, 100, 700, 900];
    expect(happeningFrom(times, 100, 1)).toBe(700);
    expect(happeningFrom(times, 800, -1)).toBe(700);
    expect(happeningFrom(times, 900, 1)).toBeNull();
  });

  it.each([
    [{ until_look: true }, 28_800],
    [{ until_s: 20_000 }, 20_000],
    [{}, 86_400],
    [{ at_s: 80_000, until_look: true }, 86_400],
  ])("an event with %o ends at %d s", (given, wanted) => {
    const event = { id: "e", kind: "freeze", at_s: 7200, ...given } as const;
    expect(endOf(event, run.looks_s, 86_400)).toBe(wanted);
  });
});
