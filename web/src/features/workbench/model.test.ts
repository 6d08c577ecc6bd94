import { describe, expect, it } from "vitest";

import type { Design, Finding } from "../../api/types";
import { placeOf, standingOf, VIEWS } from "./model";

const finding = (code: string, severity: Finding["severity"]) => ({ code, severity }) as Finding;

describe("how a view stands", () => {
  const lines = VIEWS.find(({ view }) => view === "lines")?.codes ?? [];

  it("is its worst finding, and fine with none of its own", () => {
    const found = [
      finding("days-in-hand", "stop"),
      finding("refill-too-long", "watch"),
      finding("dry-outlet", "fix"),
    ];
    expect(standingOf(found, lines)).toBe("fix");
    expect(standingOf([finding("days-in-hand", "stop")], lines)).toBe("fine");
  });
});

const design = {
  format: "leadsman-design",
  version: 1,
  name: "Plan",
  site: { name: "Tamsel Ridge" },
  places: [],
  vessels: [
    {
      id: "tank",
      name: "Chambers",
      place: "p",
      level_m: 1,
      shape: { kind: "box", length_m: 1, width_m: 1, height_m: 1 },
    },
  ],
  lines: [
    { id: "one", from: "tank", to: "gate", length_m: 10 },
    { id: "two", from: "valve", to: "gate", length_m: 20 },
  ],
} satisfies Design;

describe("the figure that a JSON pointer means", () => {
  it.each([
    ["/document/vessels/0/level_m", "Chambers, level"],
    ["/vessels/0/shape/length_m", "Chambers, length"],
    ["/document/lines/1/length_m", "two, length"],
    ["/document/site/water_c", "water"],
    ["/document/vessels/7/level_m", "level"],
  ])("%s is %s", (path, words) => {
    expect(placeOf(path, design)).toBe(words);
  });
});
