import { describe, expect, it } from "vitest";

import type { Design } from "../api/types";
import { figureOf, keyInWords } from "./figure";

const byId = (design: Design) => ({
  lines: Object.fromEntries((design.lines ?? []).map((line) => [line.id, line])),
  site: design.site,
});
const design = (name: string | null) =>
  ({
    site: { name: "Tamsel Ridge" },
    lines: [{ id: "main", name, from: "a", to: "b" }],
  }) as unknown as Design;

describe("a figure in words", () => {
  it.each([
    ["length_m", "length"],
    ["kv_m3h", "kv"],
    ["min_pressure_kpa", "min pressure"],
    ["flow_lpm", "flow"],
    ["farthest_m", "farthest"],
    ["shut", "shut"],
    ["name", "name"],
  ])("%s is %s", (key, words) => expect(keyInWords(key)).toBe(words));

  it.each([
    ["/lines/main/length_m", "Head main, length"],
    ["/lines/main/points/3/1", "Head main, points"],
    ["/lines/gone/length_m", "lines, length"],
    ["/site/altitude_m", "site, altitude"],
    ["/name", "name"],
  ])("at %s it is %s", (path, words) => {
    expect(figureOf(byId, path, design("Head main"))).toBe(words);
  });

  it("is called by the version that has the part, and by its id where it has no name", () => {
    const without = { ...design(null), lines: [] } as unknown as Design;
    expect(figureOf(byId, "/lines/main/cover_m", without, design("Head main"))).toBe("Head main, cover");
    expect(figureOf(byId, "/lines/main/cover_m", design(null))).toBe("main, cover");
  });
});
