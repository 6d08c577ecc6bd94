import { describe, expect, it } from "vitest";

import type { Crop, Design } from "../../api/types";
import { CROP_WAYS, cropIn, newCrop, wayOf } from "./growing";

const beds: Crop = { id: "beds", name: "Beds", outlet: "drip", minutes_per_day: 20 };

describe("the ways of watering", () => {
  it.each(CROP_WAYS.map(({ way }) => way))("%s holds its own figures and no others", (way) => {
    const crop = cropIn(beds, way);
    expect(wayOf(crop)).toBe(way);
    const own = CROP_WAYS.find((one) => one.way === way)?.figures.map(({ key }) => key) ?? [];
    expect(Object.keys(crop).sort()).toEqual(["id", "name", "outlet", ...own].sort());
  });

  it("starts with a drip, under an id that is free", () => {
    const design = {
      outlets: [{ id: "valve", fills: "trough" }, { id: "drip" }],
      crops: [{ id: "plants-2" }],
    } as unknown as Design;
    expect(newCrop(design)).toMatchObject({ id: "plants-3", outlet: "drip", plants: 50 });
  });
});
