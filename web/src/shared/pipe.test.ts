import { describe, expect, it } from "vitest";

import type { Catalogue, Design, PipeProduct } from "../api/types";
import { boreOf, layIn, sizeLabel } from "./pipe";

it("a line is as wide as its own bore, else its product's", () => {
  const catalogue = { animals: [], pipes: [{ id: "p", bore_mm: 34 }] } as unknown as Parameters<
    typeof boreOf
  >[1];
  expect(boreOf({ id: "l", from: "a", to: "b", bore_mm: 20, product: "p" }, catalogue)).toBe(20);
  expect(boreOf({ id: "l", from: "a", to: "b", product: "p" }, catalogue)).toBe(34);
  expect(boreOf({ id: "l", from: "a", to: "b", runs: [{ product: "p", length_m: 1 }] }, catalogue)).toBe(34);
});

it.each([
  ["pe100-sdr13.6-50", "metric", "50 mm"],
  ["pe100-sdr13.6-50", "us", "50 mm"],
  ["hose-0.625", "metric", "16 mm bore"],
  ["hose-0.625", "us", "0.63 in bore"],
] as const)("%s is called in %s units %s", (product, system, label) => {
  const catalogue = { animals: [], pipes: [{ id: "hose-0.625", bore_mm: 15.9 }] } as unknown as Catalogue;
  expect(sizeLabel({ id: "l", from: "a", to: "b", product }, catalogue, system)).toBe(label);
});

describe("a line laid in a pipe of the catalogue", () => {
  const plan = (line: object): Design =>
    ({ lines: [{ id: "l", from: "a", to: "b", ...line }] }) as unknown as Design;
  const shipped = { product_id: "p", name: "P", source_id: "iso-4427" } as unknown as PipeProduct;
  const own = { product_id: "own-p", name: "Mine", source_id: "own" } as unknown as PipeProduct;

  it("loses figures of its own, and keeps its length", () => {
    const design = plan({ bore_mm: 20, roughness_mm: 0.01, length_m: 80, cover_m: 0.3 });
    layIn(design, "l", shipped);
    expect(design.lines).toEqual([{ id: "l", from: "a", to: "b", length_m: 80, cover_m: 0.3, product: "p" }]);
    expect(design.own_pipes).toBeUndefined();
  });

  it("of several runs is one, as long as they were together", () => {
    const design = plan({
      runs: [
        { product: "x", length_m: 30 },
        { product: "y", length_m: 12 },
      ],
    });
    layIn(design, "l", shipped);
    expect(design.lines?.[0]).toEqual({ id: "l", from: "a", to: "b", length_m: 42, product: "p" });
  });

  it("takes a row of one's own with it, once, as it is now", () => {
    const design = plan({ length_m: 80 });
    layIn(design, "l", own);
    layIn(design, "l", { ...own, name: "Mine, cheaper" });
    expect(design.own_pipes?.map((pipe) => pipe.name)).toEqual(["Mine, cheaper"]);
    expect(design.lines?.[0]?.product).toBe("own-p");
  });

  it("that is not there changes nothing", () => {
    const design = plan({ length_m: 80 });
    layIn(design, "gone", own);
    expect(design).toEqual(plan({ length_m: 80 }));
  });
});
