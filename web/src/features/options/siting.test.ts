/** Positions in their order, their quarter of a range, and what is amiss with them. */
import { expect, test } from "vitest";

import { costText, inOrder, measuresOf, quarterOf, troubleOf, type Position, type Siting } from "./siting";
import { directionOf } from "./SitingTable";

const position = (some: Partial<Position>): Position => ({
  east_m: 0,
  north_m: 0,
  ground_m: 100,
  off_m: 0,
  more_m: 0,
  cost: 0,
  flow_lpm: 10,
  short: [],
  walk_m: 100,
  outside: [],
  stand_m: null,
  works: true,
  patch: [],
  ...some,
});

const siting = (some: Partial<Siting>): Siting => ({
  part: "valve",
  name: "Valve",
  kind: "outlet",
  currency: "USD",
  wanted_lpm: null,
  walk_limit_m: null,
  at: [0, 0],
  now: null,
  positions: [],
  left_out: 0,
  stands: [],
  document: {},
  ...some,
});

test("each order has its own first: the least cost, the most flow, the shortest walk; unknown ones come last", () => {
  const [a, b, c] = [
    position({ cost: 5, flow_lpm: 9, walk_m: 50 }),
    position({ cost: null, flow_lpm: 12, walk_m: 70 }),
    position({ cost: -3, flow_lpm: 7, walk_m: 60 }),
  ];
  const all = [a, b, c];
  expect(inOrder(all, "best")).toEqual(all);
  expect(inOrder(all, "cost")).toEqual([c, a, b]);
  expect(inOrder(all, "flow")).toEqual([b, a, c]);
  expect(inOrder(all, "walk")).toEqual([a, c, b]);
  expect(all.map((one) => quarterOf(one, all, "flow"))).toEqual([2, 0, 3]);
  expect(quarterOf(b, all, "cost")).toBeNull();
});

test.each([
  [{ outside: ["Top field"] }, {}, "outside Top field"],
  [{ short: ["Tap"] }, {}, "too little at Tap"],
  [{ flow_lpm: 3 }, { wanted_lpm: 4 }, "4.0 L/min wanted"],
  [{ flow_lpm: 4 }, { wanted_lpm: 4 }, ""],
  [{ walk_m: 401 }, { walk_limit_m: 400 }, "farther than 400 m"],
  [{ stand_m: null, flow_lpm: null }, { kind: "vessel" as const }, "no stand is high enough"],
  [{ stand_m: 1, works: false }, { kind: "vessel" as const }, "its feed brings less"],
])("what is amiss is said in words: %j", (one, all, told) => {
  expect(troubleOf(position(one), siting(all), "metric")).toBe(told);
});

test("where a position lies is said from where the part stands, and what it costs with its sign", () => {
  const at = (east_m: number, north_m: number) =>
    directionOf(position({ east_m, north_m }), siting({}), "metric");
  expect([at(0, 0), at(10, 0), at(0, 20), at(-7, -7), at(0, -5)]).toEqual([
    "here",
    "10 m east",
    "20 m north",
    "10 m south-west",
    "5 m south",
  ]);
  expect([costText(null, "USD"), costText(0.2, "USD"), costText(120, "USD"), costText(-12, "USD")]).toEqual([
    "not known",
    "as much",
    "+120 USD",
    "−12.00 USD",
  ]);
  expect(measuresOf(siting({ kind: "vessel" }))).toEqual(["cost", "stand"]);
  expect(measuresOf(siting({ positions: [position({ walk_m: null })] }))).toEqual(["cost", "flow"]);
});
