import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import { layLine, startNode } from "./lay";
import { movePlaces, nudge, setCorners } from "./move";
import { removeParts } from "./remove";
import { newSite } from "./site";
import { placeAt, type End } from "./stand";
import type { Spot } from "../../shared/way";

const movePlace = (design: Design, id: string, spot: Spot) => movePlaces(design, new Map([[id, spot]]));

const start = () => newSite("Ridge", "tank", "High tank", 120);
const way = [
  [0, 0],
  [30, 0],
  [30, 40],
] as const;

function laid(end: End = "trough", design: Design = start()) {
  const id = layLine(design, { way: [...way], end, name: "Low", groundM: 108 });
  return { design, id };
}

describe("a site from nothing", () => {
  it("has one place with what gives the water, and nothing else", () => {
    const design = start();
    expect(design.places).toEqual([{ id: "start", name: "High tank", east_m: 0, north_m: 0, ground_m: 120 }]);
    expect(design.vessels?.[0]?.assumed).toEqual(["shape", "level_m"]); // ours until somebody says so
    expect(design.vessels).toMatchObject([{ id: "source", role: "tank", place: "start", level_m: 1.5 }]);
    expect(newSite("x", "pond", "Pond", 5).vessels).toMatchObject([{ role: "pond", shape: { kind: "box" } }]);
    expect(newSite("x", "spring box", "Box", 5).vessels).toMatchObject([{ role: "chamber" }]);
    expect(startNode(design, "start")).toBe("source");
  });
});

describe("a line that is drawn", () => {
  it("begins at the tank, follows its corners, and is as long as the slope", () => {
    const { design, id } = laid();
    expect(id).toBe("line-1");
    expect(design.lines).toMatchObject([
      {
        id: "line-1",
        from: "source",
        to: "outlet-1",
        way: [[30, 0]],
        length_m: Number(Math.hypot(70, 12).toFixed(1)),
      },
    ]);
    expect(design.places[1]).toMatchObject({ name: "Low", east_m: 30, north_m: 40, ground_m: 108 });
  });

  it.each([
    ["trough", "outlet-1", "trough"],
    ["tap", "outlet-1", undefined],
    ["tank", "vessel-2", "tank"],
    ["junction", "place-2", undefined],
  ] as const)("ends in a %s", (end, to, role) => {
    const { design } = laid(end);
    expect(design.lines?.[0]?.to).toBe(to);
    expect(design.vessels?.[1]?.role).toBe(role);
    if (end === "trough") expect(design.outlets).toMatchObject([{ kind: "float_valve", fills: "vessel-2" }]);
    if (end === "tap") expect(design.outlets).toMatchObject([{ kind: "open_end" }]);
  });

  it("ends in the place that is there already, and begins nowhere else than on one", () => {
    const { design } = laid("junction");
    const back = layLine(design, {
      way: [
        [30, 40],
        [0, 0.02],
      ],
      end: "trough",
      name: "x",
      groundM: 1,
    });
    expect(back).toBe("line-2");
    expect(design.lines?.[1]).toMatchObject({ from: "place-2", to: "source" });
    expect(design.places).toHaveLength(2);
    const astray = layLine(design, {
      way: [
        [500, 500],
        [600, 600],
      ],
      end: "tap",
      name: "x",
      groundM: 1,
    });
    expect(astray).toBeNull();
    expect(design.lines).toHaveLength(2);
  });

  it("ends in the float of a trough that has lost its line", () => {
    const { design } = laid();
    removeParts(design, ["line-1"]);
    const again = layLine(design, { way: [...way], end: "junction", name: "", groundM: 0 });
    expect(design.lines).toMatchObject([{ id: again, from: "source", to: "outlet-1" }]);
  });

  it("goes when it is taken away", () => {
    const { design } = laid();
    removeParts(design, ["line-1"]);
    expect(design.lines).toEqual([]);
  });
});

describe("a place that is moved", () => {
  it("takes the lengths of its lines along, with their points and parts", () => {
    const { design } = laid("junction");
    const line = design.lines?.[0];
    if (!line) throw new Error("a line");
    line.length_m = 80;
    line.points = [
      [0, 120],
      [40, 118],
      [80, 108],
    ];
    line.inline = [{ kind: "drain", at_m: 60 }];
    movePlace(design, "place-2", [30, 110]); // the way grows from 70 to 140
    expect(placeAt(design, [30, 110])?.id).toBe("place-2");
    expect(line.length_m).toBe(160);
    expect(line.points).toEqual([
      [0, 120],
      [80, 118],
      [160, 108],
    ]);
    expect(line.inline[0]?.at_m).toBe(120);
    movePlace(design, "gone", [1, 1]);
    expect(design.places).toHaveLength(2);
  });

  it("keeps the length where the ends come to lie on one another", () => {
    const design = start();
    layLine(design, {
      way: [
        [0, 0],
        [30, 0],
      ],
      end: "junction",
      name: "Low",
      groundM: 120,
    });
    movePlace(design, "place-2", [0, 0]);
    expect(design.lines?.[0]?.length_m).toBe(30);
  });
});

describe("corners of a line", () => {
  it("are given and taken, and the pipe grows and shrinks with the way", () => {
    const { design } = laid("junction");
    const line = design.lines?.[0];
    if (!line) throw new Error("a line");
    line.length_m = 77;
    setCorners(design, "line-1", []);
    expect(line.way).toBeUndefined();
    expect(line.length_m).toBe(55); // 70 m of way became 50 m
    setCorners(design, "line-1", [
      [0, 40.004],
      [15, 40],
    ]);
    expect(line.way).toEqual([
      [0, 40],
      [15, 40],
    ]);
    expect(line.length_m).toBe(77);
    setCorners(design, "gone", []);
    expect(design.lines).toHaveLength(1);
  });

  it("stay where they are when a part is nudged", () => {
    const { design } = laid();
    nudge(design, ["vessel-2"], [1, -10]);
    expect(placeAt(design, [31, 30])?.name).toBe("Low");
    expect(design.lines?.[0]?.way).toEqual([[30, 0]]);
    nudge(design, ["nobody"], [1, 1]);
    expect(design.places).toHaveLength(2);
  });
});
