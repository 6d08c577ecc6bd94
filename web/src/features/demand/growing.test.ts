import { describe, expect, it } from "vitest";

import { CROP_WAYS, wayOf } from "./growing";

describe("the ways of watering", () => {
  it.each(CROP_WAYS.map(({ way, figures }) => [way, figures] as const))(
    "%s is known by its figures",
    (way, figures) => {
      const told = Object.fromEntries(figures.map(({ key }) => [key, 1]));
      expect(wayOf({ id: "beds", outlet: "drip", ...told })).toBe(way);
    },
  );
});
