import { expect, it } from "vitest";

import { sizeLabel } from "./pipe";

it.each([
  [{ bore_mm: 42.6, outside_mm: 50 }, "metric", "50 mm"],
  [{ bore_mm: 42.6, outside_mm: 50 }, "us", "50 mm"],
  [{ bore_mm: 15.9, outside_mm: null }, "metric", "16 mm bore"],
  [{ bore_mm: 15.9, outside_mm: null }, "us", "0.63 in bore"],
  [undefined, "metric", ""],
] as const)("%j is called in %s units %s", (pipe, system, label) => {
  expect(sizeLabel(pipe, system)).toBe(label);
});
