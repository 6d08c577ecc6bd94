import { expect, test } from "vitest";

import type { WinterReport } from "../../api/types";
import { between, iceText, range } from "./frost";

const litres = (value: number) => `${value.toFixed(0)} L`;

test("a range says its unit once, and nothing where both ends read alike", () => {
  expect(range(litres, [12, 20, 31])).toBe("12 to 31 L");
  expect(range(litres, [12.1, 12.2, 12.4])).toBe("");
  expect(between("3 to 5 days")).toBe(", 3 to 5 days");
  expect(between("")).toBe("");
});

const OPEN: WinterReport["vessels"][number] = {
  vessel: "tank",
  top_m: [0, 0.1, 0.2],
  core_l: [800, 900, 1000],
  left_d: null,
  solid_s: null,
  closed_s: null,
  empty_s: null,
  drawn_lpd: 0,
  open_lpd: null,
  kept_open: false,
};

test.each([
  [{}, "its outlet stays open"],
  [{ kept_open: true }, "kept free of ice by what is drawn"],
  [{ closed_s: 3 * 86_400 }, "its outlet closes after 3.0 days"],
  [{ closed_s: 3 * 86_400, solid_s: 5 * 86_400 }, "ice all through after 5.0 days"],
  [{ empty_s: 36_000, closed_s: 86_400, solid_s: 90_000 }, "drawn empty after 10.0 h: nothing comes in"],
])("of %o the first thing that ends it is said", (changes, text) => {
  expect(iceText({ ...OPEN, ...changes })).toBe(text);
});
