import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import type { Scale } from "../../shared/fit";
import { fenceNameAreas, fencesOf } from "./fenceNames";

const scale: Scale = { perMetre: 2, x: (east) => 2 * east, y: (north) => 400 - 2 * north };
const design = {
  paddocks: [
    { id: "low", name: "Low field", corners: [[10, 20], [110, 30], [60, 90]] }, // prettier-ignore
    { id: "two", corners: [[0, 0], [10, 0]] }, // prettier-ignore
    { id: "none" },
  ],
} as unknown as Design;

describe("the names of paddocks", () => {
  it("stand in the middle over the southern end of what is fenced", () => {
    const [low, ...others] = fencesOf(design, scale);
    expect(others).toEqual([]);
    expect(low?.name).toEqual({ text: "Low field", x: 120, y: 350 });
    expect(low?.corners[0]).toEqual([20, 360]);
  });

  it("are left out where the fence is too narrow for them", () => {
    const far: Scale = { perMetre: 0.5, x: (east) => east / 2, y: (north) => 100 - north / 2 };
    expect(fencesOf(design, far).map(({ name }) => name)).toEqual([null]);
    expect(fenceNameAreas(design, far)).toEqual([]);
  });

  it("cover what other labels keep off", () => {
    const [area] = fenceNameAreas(design, scale);
    if (!area) throw new Error("no area");
    expect(area.x + area.width / 2).toBeCloseTo(120);
    expect(area.y).toBeLessThan(350);
    expect(area.y + area.height).toBeGreaterThan(350);
  });
});
