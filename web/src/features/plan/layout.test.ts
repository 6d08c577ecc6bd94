import { describe, expect, it } from "vitest";

import type { Design, Sounding } from "../../api/types";
import text from "../../../../src/leadsman/demo/tamsel-ridge.json?raw";
import type { ShownRoute } from "../../shared/route";
import { alongWay } from "../../shared/way";
import { alongStroke, shared } from "./labels";
import { placeSpot, planLabels, planMarks, planScale, SMALL_PLAN } from "./model";

const demonstration = JSON.parse(text) as Design;

const layout = (width: number, height: number, short = "") => {
  const routes = (demonstration.outlets ?? []).map(({ id }) => {
    const sounding = {
      margin_m: id === short ? -1 : 1,
      wanted: {},
      least_over_pipe_m: null,
    } as unknown as Sounding;
    return { key: id, outlet: id, lines: [], sounding } as unknown as ShownRoute;
  });
  const frame = { width, height };
  const scale = planScale(demonstration, frame);
  const drawn = planMarks(demonstration, routes, scale, frame);
  const { names, sizes } = planLabels(drawn, () => "32 mm", frame);
  const own = new Map(
    [...drawn.marks, ...drawn.junctions.map((one) => ({ ...one, id: one.place.id }))].map((one) => [
      one.id,
      one.area,
    ]),
  );
  const placed = new Map(
    [...names].map(([id, label]) => {
      const area = own.get(id) ?? { x: 0, y: 0 };
      return [id, { ...label, x: label.x + area.x, y: label.y + area.y }];
    }),
  );
  return { scale, ...drawn, placed, sizes };
};

describe("the demonstration's plan", () => {
  it.each([
    [574, 340],
    [900, 420],
    [1200, 500],
  ])("has every vessel and outlet named at %i by %i, none over another", (width, height) => {
    const { marks, placed, junctions } = layout(width, height);
    const names = marks.map((mark) => placed.get(mark.id));
    expect(names.every(Boolean)).toBe(true);
    const areas = [...placed.values()];
    areas.forEach((area, index) => {
      expect(area.x).toBeGreaterThanOrEqual(0);
      expect(area.x + area.width).toBeLessThanOrEqual(width);
      const others = [...areas.slice(index + 1), ...marks.map((mark) => mark.area)];
      const covered = others.reduce((sum, other) => sum + shared(area, other), 0);
      expect(covered / (area.width * area.height)).toBeLessThan(0.15);
    });
    expect(junctions.map(({ place }) => place.id).sort()).toEqual(["gate", "pit"]);
  });

  it("keeps the sizes of pipes off what is drawn over the lines", () => {
    const { ways, ...drawn } = layout(900, 420);
    const [x, y] = alongWay(ways.get("fold-leg") ?? [], 0.5);
    const over = { x: x - 8, y: y - 8, width: 16, height: 16, weight: 3 };
    const { sizes } = planLabels({ ways, ...drawn }, () => "32 mm", { width: 900, height: 420 }, [over]);
    const moved = sizes.get("fold-leg");
    if (!moved) throw new Error("the fold leg has no size");
    expect(moved.share).not.toBe(0.5);
    const [tagX, tagY] = alongWay(ways.get("fold-leg") ?? [], moved.share);
    const tag = { x: tagX - moved.width / 2, y: tagY - 9, width: moved.width, height: 18 };
    expect(shared(tag, over)).toBeLessThan(0.1 * 16 * 16); // it had all of it at 0.5
  });

  it("names on a phone what falls short, and others where they cover nothing", () => {
    const { marks, placed } = layout(SMALL_PLAN - 130, 330, "goose-valve");
    const short = marks.filter((one) => one.route?.sounding && one.route.sounding.margin_m < 0);
    expect(short.map((one) => placed.has(one.id))).toEqual([true]);
    expect(placed.size).toBeGreaterThan(marks.length / 2);
    const areas = [...placed.values()];
    areas.forEach((area, index) => {
      const others = [...areas.slice(index + 1), ...marks.map((mark) => mark.area)];
      const covered = others.reduce((sum, other) => sum + shared(area, other), 0);
      expect(covered / (area.width * area.height)).toBeLessThan(0.15);
    });
  });

  it("draws each line between the marks of its ends", () => {
    const { scale, marks } = layout(900, 420);
    const line = demonstration.lines?.find((one) => one.id === "weir-feed");
    const [from, to] = [line?.from ?? "", line?.to ?? ""].map((end) => placeSpot(demonstration, scale, end));
    if (!from || !to) throw new Error("the demonstration has no weir feed");
    const ends = alongStroke(from, to, 2);
    const box = marks.find((mark) => mark.id === "weir-box")?.area;
    const chamber = marks.find((mark) => mark.id === "chambers")?.area;
    const [first, last] = [ends[0], ends.at(-1)];
    if (!box || !chamber || !first || !last) throw new Error("a mark is missing");
    expect(shared(first, box)).toBeGreaterThan(0);
    expect(shared(last, chamber)).toBeGreaterThan(0);
  });
});
