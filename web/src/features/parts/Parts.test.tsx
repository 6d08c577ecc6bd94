/** What a plan needs, as people use it: the list with the shed, joints, laying sheets. */
import { expect, test } from "vitest";

import { openBench } from "../../testing/bench";
import { farm, named } from "../../testing/farm";
import { byShop, countText, fewText, listCsv, type NeededRow } from "./list";
import { listParts } from "../../api/client";

const HOSE = "[data-testid=needed-hose-0\\.5]";
const PRICE = "[data-testid=parts-price]";

test("what is in the shed is not bought", async () => {
  const bench = await openBench("parts");
  await bench.seen(HOSE, "118 m");
  const before = bench.text(PRICE);
  await bench.fill("1/2 in garden hose in the shed", "100");
  await bench.until(() => expect(bench.text(`${HOSE} strong`)).toBe("18 m"));
  expect(bench.text(PRICE)).not.toBe(before);
  await bench.fill("1/2 in garden hose in the shed", "500");
  await bench.seen(HOSE, "nothing");
  await bench.until(() => bench.saved());
  expect(bench.document().shed).toEqual([{ product: "hose-0.5", count: 500 }]);
  await bench.fill("1/2 in garden hose in the shed", "");
  await bench.until(() => expect(bench.text(PRICE)).toBe(before));
  expect(bench.document().shed).toEqual([]);
  await bench.fill("1/2 in garden hose in the shed", "-3");
  await bench.seen(HOSE, "0");
  await bench.until(() => expect(bench.text(PRICE)).toBe(before));
});

test("a row leads to its place on the plan", async () => {
  const bench = await openBench("parts");
  await bench.press("Goose hose", HOSE);
  await bench.seen("[aria-label=Details]", "Goose hose");
});

test("joints without an answer come first, and say what is missing; others say what seals them and why", async () => {
  const bench = await openBench("parts");
  await bench.press("Joints");
  await bench.seen("[aria-label=Joints] article", "Not solved: no pipe is chosen for Mat tube");
  await bench.choose("At", "hop-leg");
  const joint = "[data-testid='joint-hop-leg:0-to']";
  await bench.seen(joint, "Why:");
  expect(bench.text(joint)).toMatch(/With .* · narrowest bore \d/);
  expect(bench.text("[aria-label=Joints]")).not.toContain("Not solved");
});

test("the flows get the bore of every joint when asked, and the list stays as it is", async () => {
  const bench = await openBench("parts");
  await bench.press("Joints");
  const told = "[data-testid=joints-in-lines]";
  await bench.press("Calculate with their bores", told);
  await bench.seen("[data-testid=trial]", "every joint with its own bore");
  await bench.seen(told, "The flows have the bore of every joint");
  await bench.press("Keep");
  await bench.until(() => bench.saved());
  const hose = named(bench.document().lines, "goose-hose");
  expect(hose.fittings?.some((one) => one.product === "hose-barb-npt-12-70-0.5")).toBe(true);
  await bench.press("Shopping list");
  await bench.seen("[data-testid='needed-hose-barb-npt-12-70-0.5']", "2");
});

test("parts and schools stand side by side at the outlet and with the bucket that are chosen", async () => {
  const bench = await openBench("parts");
  await bench.press("Compare");
  const taps = "[data-testid=compare-taps]";
  await bench.seen(taps, "Taps at Goose pan valve");
  const before = bench.text(taps);
  await bench.fill("Your bucket", "40");
  await bench.until(() => expect(bench.text(taps)).not.toBe(before));
  await bench.choose("At", "low-valve");
  await bench.seen(taps, "Taps at Low trough valve");
  await bench.choose("Compare", "surface-or-trench");
  await bench.seen("[data-testid=compare-surface-or-trench]", "All in a trench");
  await bench.choose("Compare", "substitutes");
  await bench.seen("[data-testid=compare-substitutes]", "40 mm PE100 SDR 13.6");
});

test("the table for a spreadsheet has every row, in the user's units", async () => {
  const document = await farm();
  const needed = await listParts(document);
  const lines = listCsv(document, needed, "us").trim().split("\n");
  expect(lines).toHaveLength(needed.rows.length + 1);
  const hose = lines.find((line) => line.includes("hose-0.5"))?.split(",") ?? [];
  const row = needed.rows.find((one) => one.product_id === "hose-0.5");
  expect(hose[3]).toBe("ft");
  expect(Number(hose[4])).toBeCloseTo(118 / 0.3048, 2);
  expect(Number(hose[4]) * Number(hose[7])).toBeCloseTo(row?.total ?? 0, 0);
});

test("rows are told in words, by shop", () => {
  const row = { unit: "roll", roll_m: 150, shop: "pipe" } as NeededRow;
  expect(countText(2, row, "metric")).toBe("2 rolls of 150 m");
  expect(countText(1, row, "us")).toBe("1 roll of 492 ft");
  expect(countText(3, { ...row, unit: "piece" }, "us")).toBe("3");
  expect(countText(118.4, { ...row, unit: "m" }, "metric")).toBe("118.4 m");
  expect(fewText(["a", "b", "c"])).toBe("a; b; and 1 more");
  expect(byShop([row, { ...row, shop: "fittings" }, row]).map((one) => one.rows.length)).toEqual([2, 1]);
});
