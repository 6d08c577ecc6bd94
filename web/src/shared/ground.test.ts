import { describe, expect, it } from "vitest";

import type { Design } from "../api/types";
import { setLineLength, setPlaceGround, setPointGround } from "./ground";

const design = (): Design => ({
  format: "leadsman-design",
  version: 1,
  name: "Plan",
  site: { name: "Tamsel Ridge" },
  places: [
    { id: "top", east_m: 0, north_m: 0, ground_m: 20 },
    { id: "gate", east_m: 0, north_m: 90, ground_m: 12 },
  ],
  vessels: [
    { id: "tank", place: "top", shape: { kind: "box", length_m: 1, width_m: 1, height_m: 1 }, level_m: 0.5 },
  ],
  lines: [
    {
      id: "a",
      from: "tank",
      to: "gate",
      product: "p",
      length_m: 100,
      points: [
        [0, 20],
        [50, 14],
        [100, 12],
      ],
      inline: [{ kind: "drain", at_m: 50 }],
    },
    {
      id: "b",
      from: "gate",
      to: "end",
      product: "p",
      length_m: 40,
      points: [
        [0, 12],
        [40, 10],
      ],
    },
  ],
  outlets: [],
});

describe("heights", () => {
  it("move a place with the ends of all lines that stand there", () => {
    const draft = design();
    setPlaceGround(draft, "gate", 13);
    expect(draft.places[1]?.ground_m).toBe(13);
    expect(draft.lines?.[0]?.points?.[2]).toEqual([100, 13]);
    expect(draft.lines?.[1]?.points?.[0]).toEqual([0, 13]);
  });

  it("move a vessel's place when the end of its line is moved", () => {
    const draft = design();
    setPointGround(draft, "a", 0, 21);
    expect(draft.places[0]?.ground_m).toBe(21);
  });

  it("move only the point in between", () => {
    const draft = design();
    setPointGround(draft, "a", 1, 15);
    expect(draft.lines?.[0]?.points?.[1]).toEqual([50, 15]);
    expect(draft.places.map((place) => place.ground_m)).toEqual([20, 12]);
  });
});

it("a new length keeps points and parts at their share of it", () => {
  const draft = design();
  setLineLength(draft, "a", 150);
  expect(draft.lines?.[0]?.points?.map(([at]) => at)).toEqual([0, 75, 150]);
  expect(draft.lines?.[0]?.inline?.[0]?.at_m).toBe(75);
});
