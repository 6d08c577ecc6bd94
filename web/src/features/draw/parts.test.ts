import { produce } from "immer";
import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import text from "../../../../src/leadsman/demo/tamsel-ridge.json?raw";
import { copyParts } from "./copy";
import { layLine, standsOn } from "./lay";
import { movePlaces, nudge } from "./move";
import { addPaddock, farthestFrom, setFence } from "./paddock";
import { removeParts, whatHolds } from "./remove";
import { groundAlong, joinLines, lineAt, nearestOn, pipeLength, splitLine } from "./split";
import { addThing } from "./stand";

const demonstration = (): Design => JSON.parse(text) as Design;
const lineOf = (design: Design, id: string) => {
  const line = design.lines?.find((one) => one.id === id);
  if (!line) throw new Error(`no line ${id}`);
  return line;
};
const cut = (design: Design, id: string, share: number) => {
  const line = lineOf(design, id);
  const place = design.places.find((one) => one.id === "gate");
  if (!place) throw new Error("no gate");
  const on = nearestOn(design, line, [place.east_m, place.north_m]);
  const low = design.places.find((one) => one.id === "low") ?? place;
  const spot = [
    place.east_m + (low.east_m - place.east_m) * share,
    place.north_m + (low.north_m - place.north_m) * share,
  ] as const;
  return splitLine(design, { ...on, share, spot }, "Tee");
};

describe("a line cut in two", () => {
  it.each([0.1, 0.3, 0.5, 0.77])("keeps its length, points, parts and ground at %f of its way", (share) => {
    const design = demonstration();
    const whole = structuredClone(lineOf(design, "low-leg"));
    const place = cut(design, "low-leg", share);
    const [first, second] = [lineOf(design, "low-leg"), design.lines?.at(-1) ?? whole];
    expect([first.from, first.to, second.from, second.to]).toEqual([whole.from, place, place, whole.to]);
    expect(pipeLength(first) + pipeLength(second)).toBeCloseTo(pipeLength(whole), 6);
    expect(first.points?.at(-1)?.[0]).toBe(first.length_m);
    expect(second.points?.at(-1)?.[0]).toBeCloseTo(second.length_m ?? 0, 6);
    expect(first.fittings).toEqual(whole.fittings);
    for (const at of [20, 60, 130]) {
      const before = groundAlong(design, whole, at);
      const cutAt = first.length_m ?? 0;
      const now = at <= cutAt ? groundAlong(design, first, at) : groundAlong(design, second, at - cutAt);
      expect(now).toBeCloseTo(before, 1);
    }
  });

  it("is one again when what joins the parts is taken away", () => {
    const design = demonstration();
    const whole = structuredClone(lineOf(design, "low-leg"));
    const place = cut(design, "low-leg", 0.5) ?? "";
    expect(whatHolds(design, [place])).toEqual([]);
    expect(removeParts(design, [place])).toBe(true);
    const again = lineOf(design, "low-leg");
    expect(again).toMatchObject({ from: whole.from, to: whole.to, length_m: whole.length_m });
    expect(again.fittings).toEqual(whole.fittings);
    expect(again.points?.length).toBe((whole.points?.length ?? 0) + 1);
    expect(design.lines).toHaveLength(demonstration().lines?.length ?? 0);
    expect(joinLines(design, "gate")).toBe(false); // four lines meet there
  });

  it("keeps runs of several sizes, a case's shut lines, and forgets what was counted of the whole", () => {
    const design = demonstration();
    const line = lineOf(design, "low-leg");
    const [product] = [line.product ?? ""];
    delete line.product;
    line.runs = [
      { product, length_m: 100 },
      { product: "pe100-sdr17-40", length_m: 82 },
    ];
    design.scenarios?.[0]?.shut?.push("low-leg");
    if (design.scenarios?.[0]) design.scenarios[0].shut = ["low-leg"];
    design.distances = [{ id: "d", line: "low-leg", by: "posts", count: 20, step_m: 9 }] as never;
    cut(design, "low-leg", 0.25);
    expect(line.runs).toEqual([{ product, length_m: 45.5 }]);
    expect(design.lines?.at(-1)?.runs).toEqual([
      { product, length_m: 54.5 },
      { product: "pe100-sdr17-40", length_m: 82 },
    ]);
    expect(design.scenarios?.[0]?.shut).toEqual(["low-leg", design.lines?.at(-1)?.id]);
    expect(design.distances).toBeUndefined();
  });

  it("is found by a spot near it, and not by its ends", () => {
    const design = demonstration();
    const gate = design.places.find((one) => one.id === "gate");
    const low = design.places.find((one) => one.id === "low");
    if (!gate || !low) throw new Error("places");
    const middle = [(gate.east_m + low.east_m) / 2, (gate.north_m + low.north_m) / 2] as const;
    expect(lineAt(design, [middle[0] + 1, middle[1]], 2)?.line).toBe("low-leg");
    expect(lineAt(design, [middle[0] + 9, middle[1] + 9], 2)).toBeNull();
    expect(lineAt(design, [gate.east_m, gate.north_m], 0.1)).toBeNull();
    expect(standsOn(design, middle)).toBe(true);
  });
});

describe("an outlet dropped on a line", () => {
  it("draws from the tee there; a later line to it does not take its water away", () => {
    const design = demonstration();
    const place = cut(design, "low-leg", 0.5) ?? "";
    const outlet = addThing(design, place, "trough", "Calf trough");
    expect(design.outlets?.at(-1)).toMatchObject({ id: outlet, place, kind: "float_valve" });
    expect(design.lines?.some((line) => line.to === outlet)).toBe(false);
    const tee = design.places.find((one) => one.id === place);
    const line = layLine(design, {
      way: [
        [tee?.east_m ?? 0, tee?.north_m ?? 0],
        [500, 0],
      ],
      end: "tap",
      name: "Far tap",
      groundM: 250,
    });
    expect(lineOf(design, line ?? "").from).toBe(place);
  });

  it("lets a line begin on another one, at a tee of its own", () => {
    const design = demonstration();
    const spot = nearestOn(design, lineOf(design, "low-leg"), [200, -205]).spot;
    const line = layLine(design, { way: [spot, [200, -100]], end: "trough", name: "New", groundM: 255 });
    const tee = design.places.find((one) => one.name === "Tee");
    expect(lineOf(design, line ?? "").from).toBe(tee?.id);
    expect(lineOf(design, "low-leg").to).toBe(tee?.id);
  });
});

describe("parts taken away", () => {
  it.each([
    [["low-valve"], "heifers"],
    [["gate"], "take those lines away first"],
    [["low"], "measured"],
  ])("%s are held by what needs them: %s", (ids, why) => {
    const design = demonstration();
    expect(whatHolds(design, ids).join()).toContain(why);
    expect(removeParts(design, ids)).toBe(false);
    expect(design).toEqual(demonstration());
  });

  it("take what means nothing without them along, and leave the pipe", () => {
    const design = demonstration();
    const pan = design.outlets?.find((one) => one.id === "goose-valve");
    design.herds = design.herds?.filter((one) => one.outlet !== "goose-valve");
    design.paddocks = design.paddocks?.filter((one) => one.outlet !== "goose-valve");
    design.calendar = [];
    expect(removeParts(design, [pan?.fills ?? ""])).toBe(true);
    expect(design.outlets?.some((one) => one.id === "goose-valve")).toBe(false);
    expect(design.requirements?.some((one) => one.outlet === "goose-valve")).toBe(false);
    expect(lineOf(design, "goose-hose").to).toBe("yard");
  });

  it("take a store's inflow along, and a place on which nothing is left", () => {
    const design = demonstration();
    expect(removeParts(design, ["weir-feed", "weir-box"])).toBe(true);
    expect(design.inflows?.some((one) => one.fills === "weir-box")).toBe(false);
    expect(design.lines?.some((one) => one.id === "weir-feed")).toBe(false);
  });

  it("leave at least one place", () => {
    const design = demonstration();
    const one = {
      ...design,
      places: design.places.slice(0, 1),
      vessels: [],
      lines: [],
      outlets: [],
      herds: [],
      paddocks: [],
      calendar: [],
      crops: [],
      books: [],
      sights: [],
    };
    delete one.bench;
    expect(whatHolds(one, [one.places[0]?.id ?? ""]).join()).toContain("at least one place");
  });
});

describe("parts copied", () => {
  it("come with their places, floats, wishes and the lines between them", () => {
    const design = demonstration();
    const made = copyParts(design, ["pond-leg", "hop-drip"], [20, -30]);
    expect(made).toHaveLength(2);
    const line = lineOf(design, made[0] ?? "");
    const from = design.places.find((one) => one.id === line.from);
    const hops = design.places.find((one) => one.id === "hops");
    expect([from?.east_m, from?.north_m]).toEqual([(hops?.east_m ?? 0) + 20, (hops?.north_m ?? 0) - 30]);
    const valve = design.outlets?.find((one) => one.id === line.to);
    expect(design.vessels?.some((one) => one.id === valve?.fills && one.place === valve.place)).toBe(true);
    expect(design.requirements?.some((one) => one.outlet === valve?.id)).toBe(true);
    const ids = [design.places, design.vessels, design.lines, design.outlets].flatMap((list) =>
      (list ?? []).map((one) => one.id),
    );
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe("several parts moved at once", () => {
  it("keep the pipe between them as long as it was, corners and all", () => {
    const before = demonstration();
    lineOf(before, "low-leg").way = [[200, -220]];
    const after = produce(before, (draft) => nudge(draft, ["gate", "low-trough", "pit"], [5, -7]));
    expect(lineOf(after, "low-leg").way).toEqual([[205, -227]]);
    for (const id of ["low-leg", "head-main"])
      expect(lineOf(after, id).length_m).toBeCloseTo(lineOf(before, id).length_m ?? 0, 1);
    expect(lineOf(after, "hop-leg").length_m).not.toBe(lineOf(before, "hop-leg").length_m);
  });

  it("give the same in a draft as outside one", () => {
    const moves = new Map([
      ["gate", [100, -150]],
      ["low", [300, -250]],
    ] as const);
    const plain = demonstration();
    movePlaces(plain, moves);
    expect(produce(demonstration(), (draft) => movePlaces(draft, moves))).toEqual(plain);
  });
});

describe("a paddock", () => {
  it("is fenced in by its corners, and its farthest grass follows from them", () => {
    const design = demonstration();
    const corners = [
      [282, -238],
      [382, -238],
      [382, -338],
    ] as const;
    const id = addPaddock(design, corners, "Low end", "low-valve");
    expect(design.paddocks?.at(-1)).toMatchObject({ id, outlet: "low-valve", corners });
    expect(farthestFrom(design, "low-valve", corners)).toBeCloseTo(Math.hypot(100, 100), 6);
    setFence(design, id, corners.slice(0, 2));
    expect(design.paddocks?.at(-1)?.corners).toEqual([]);
  });
});
