import { expect, it } from "vitest";

import type { Catalogue } from "../api/types";
import { boreOf, sizeLabel } from "./pipe";

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
  const catalogue = {
    animals: [],
    pipes: [
      { id: "hose-0.625", bore_mm: 15.9, outside_mm: null },
      { id: "pe100-sdr13.6-50", bore_mm: 42.6, outside_mm: 50 },
    ],
  } as unknown as Catalogue;
  expect(sizeLabel({ id: "l", from: "a", to: "b", product }, catalogue, system)).toBe(label);
});
