import { describe, expect, it } from "vitest";

import type { Design, Finding } from "../../api/types";
import type { ShownRoute } from "../../shared/route";
import { markAreas, onPlan, onRoute, spotted } from "./spots";

const design = {
  places: [
    { id: "a", east_m: 0, north_m: 0 },
    { id: "b", east_m: 100, north_m: 0 },
    { id: "c", east_m: 100, north_m: 60 },
  ],
  lines: [
    { id: "one", from: "a", to: "b", length_m: 110 },
    { id: "two", from: "c", to: "b", runs: [{ length_m: 40 }, { length_m: 20 }] },
  ],
} as unknown as Design;
const finding = (code: string, severity: string, spot: { line: string; at_m: number } | null) =>
  ({ code, severity, spot }) as unknown as Finding;

describe("where findings are", () => {
  it("of those at one place the worst is shown, and those of no place are not", () => {
    const found = spotted([
      finding("watched", "watch", { line: "one", at_m: 55.2 }),
      finding("stopped", "stop", { line: "one", at_m: 54.9 }),
      finding("nowhere", "stop", null),
      finding("other", "fix", { line: "one", at_m: 80 }),
    ]);
    expect(found.map((one) => one.finding.code)).toEqual(["stopped", "other"]);
  });

  it("every one that is on a line which is there covers something", () => {
    const on = (line: string) => finding(line, "fix", { line, at_m: 30 });
    const scale = { perMetre: 1, x: (east: number) => east, y: (north: number) => -north };
    const areas = markAreas([on("two"), on("gone"), finding("nowhere", "stop", null)], design, scale);
    expect(areas).toEqual([{ x: 92, y: -38, width: 16, height: 16, weight: 3 }]);
  });

  it.each([
    [{ line: "one", atM: 55 }, [50, 0]],
    [{ line: "one", atM: 200 }, [100, 0]],
    [{ line: "two", atM: 30 }, [100, 30]],
    [{ line: "gone", atM: 1 }, null],
  ])("%o lies on the plan at %o", (at, spot) => {
    expect(onPlan({ ...at, finding: finding("x", "fix", null) }, design)).toEqual(spot);
  });

  it("lies on a way as the way takes the line, and not on ways without it", () => {
    const route = {
      vessel: "a",
      lines: ["one", "two"],
      section: [
        { line: "one", at_m: 0 },
        { line: "one", at_m: 110 },
        { line: "two", at_m: 110 },
        { line: "two", at_m: 170 },
      ],
    } as unknown as ShownRoute;
    const at = (line: string, atM: number) =>
      onRoute({ line, atM, finding: finding("x", "fix", null) }, route, design);
    expect([at("one", 30), at("two", 10), at("gone", 10)]).toEqual([30, 160, null]);
  });
});
