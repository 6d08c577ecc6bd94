import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import text from "../../../../src/leadsman/demo/tamsel-ridge.json?raw";
import { differences } from "./difference";

const demonstration = (change: (design: Design) => void = () => undefined): Design => {
  const design = JSON.parse(text) as Design;
  change(design);
  return design;
};
const line = (design: Design, id: string) => {
  const found = design.lines?.find((one) => one.id === id);
  if (!found) throw new Error(id);
  return found;
};

describe("what differs between two versions", () => {
  it("is nothing between a document and itself", () => {
    expect(differences(demonstration(), demonstration())).toEqual([]);
  });

  it("is told by the name of the part and the figure", () => {
    const other = demonstration((design) => {
      line(design, "low-leg").length_m = 190;
      design.site.altitude_m = 300;
      const valve = design.outlets?.find((one) => one.id === "goose-valve");
      if (valve?.kind === "float_valve") valve.valve.kv_m3h = 1.5;
    });
    const told = new Map(
      differences(demonstration(), other).map((one) => [one.where, [one.before, one.after]]),
    );
    expect(told.get("Low leg, length")).toEqual(["182", "190"]);
    expect(told.get("site, altitude")).toEqual(["255", "300"]);
    expect(told.get("Goose pan valve, kv")?.[1]).toBe("1.5");
    expect(told.size).toBe(3);
  });

  it("tells parts that came or went in one line each, whatever stood after them", () => {
    const other = demonstration((design) => {
      design.lines = design.lines?.filter((one) => one.id !== "weir-feed");
      design.places.push({ id: "new", name: "New corner", east_m: 0, north_m: 0, ground_m: 250 });
    });
    expect(differences(demonstration(), other)).toEqual(
      expect.arrayContaining([
        { where: "Weir feed, line", before: "there", after: "deleted" },
        { where: "New corner, place", before: "–", after: "new" },
      ]),
    );
    expect(differences(demonstration(), other)).toHaveLength(2);
  });
});
