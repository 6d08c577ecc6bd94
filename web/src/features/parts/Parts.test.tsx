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

test("a measured stem gives the bit, for all pieces of its kind", async () => {
  const bench = await openBench("parts");
  await bench.press("Holes");
  await bench.seen("[data-testid=bits]", "No stem is measured yet");
  const hole = "[data-testid='hole-bench-link:0-on:hole']";
  await bench.seen(hole, "measure the stem");
  const stem =
    "Stem of 3/4 in bulkhead fitting through a wall, tapered pipe thread female both sides in mat-tank";
  await bench.fill(stem, "31.2");
  await bench.seen("[data-testid=bits]", "32.0 mm for");
  await bench.until(() => expect(bench.text(hole)).not.toContain("measure the stem"));
  await bench.fill(stem.replace("Stem", "Thread length"), "14");
  await bench.fill(
    "Wall of mat-tank at 3/4 in bulkhead fitting through a wall, tapered pipe thread female both sides",
    "8",
  );
  await bench.seen(hole, "does not reach through a wall of 8.0 mm");
  await bench.until(() => bench.saved());
  expect(bench.document().stems).toEqual([{ product: "bulkhead-npt-0.75", across_mm: 31.2, long_mm: 14 }]);
  await bench.fill(stem, "");
  await bench.seen("[data-testid=bits]", "No stem is measured yet");
});

test("a float is set out in its vessel, and what is measured is drawn and judged at once", async () => {
  const bench = await openBench("parts");
  await bench.press("Floats");
  const tank = "[data-testid=setting-mat-tank]";
  await bench.seen(tank, "closes 130 mm");
  await bench.seen(tank, "least for Mat pump 70 mm");
  expect(bench.text("[data-testid=setting-low-trough]")).toContain("Drawn as 3/4 in low-pressure arm valve");
  await bench.fill("Hole from the wall on its left of Mat valve", "20");
  await bench.seen("[data-testid=float-mat-valve]", "it meets the wall beside it, by 10 mm");
  await bench.fill("Hole from the wall on its left of Mat valve", "");
  await bench.until(() => expect(bench.text(tank)).not.toContain("it meets"));
  await bench.fill("Lowest cable or hand hole of Mat tank", "0.12");
  await bench.seen(tank, "cable hole 120 mm");
  await bench.fill("Lowest cable or hand hole of Mat tank", "5");
  await bench.seen(tank, "0.35");
  await bench.fill("Lowest cable or hand hole of Mat tank", "");
  await bench.press("Delete Mat pump in Mat tank");
  await bench.until(() => expect(bench.text(tank)).not.toContain("least for Mat pump"));
  await bench.until(() => bench.saved());
  const vessel = named(bench.document().vessels, "mat-tank");
  expect(vessel.inside).toEqual([]);
  expect(vessel.cable_m).toBeUndefined();
});

test("a crossing gets its sleeve and its stop, and the order of work its digging", async () => {
  const bench = await openBench("parts");
  await bench.press("Laying");
  await bench.choose("Line", "low-leg");
  await bench.press("Add a crossing under a track");
  await bench.fill("Crossing 1 of Low leg, from its start", "40");
  await bench.fill("Crossing 1 of Low leg, wide", "6");
  const sheet = "[aria-label='Laying sheet'] tbody";
  await bench.seen(sheet, "into the ground in a sleeve for 6.0 m");
  await bench.seen("[aria-label='Order of work']", "11 m of trench");
  await bench.fill("Crossing 1 of Low leg, from its start", "4000");
  await bench.seen("[aria-label='Crossings of Low leg']", "crossings that begin within");
  await bench.fill("Crossing 1 of Low leg, from its start", "40");
  await bench.press("Shopping list");
  await bench.seen("[data-testid='needed-sleeve-low-leg-1']", "6 m");
  await bench.until(() => bench.saved());
  expect(named(bench.document().lines, "low-leg").crossings).toEqual([{ at_m: 40, wide_m: 6 }]);
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

test("spaces between posts are counted, and taps set, once it is said how far apart these are", async () => {
  const bench = await openBench("parts");
  await bench.press("Laying");
  await bench.choose("Line", "head-main");
  const sheet = "[aria-label='Laying sheet'] tbody";
  await bench.seen(sheet, "150.0 m –");
  await bench.fill("Between fence posts", "4");
  await bench.seen(sheet, "150.0 m 37 and 2.0 m");
  await bench.until(() => bench.saved());
  expect(bench.document().site.post_m).toBe(4);
  await bench.fill("A tap every", "60");
  await bench.seen(sheet, "60.0 m 15");
  expect(bench.text(sheet)).toContain("150.0 m 37 and 2.0 m 201 tap");
  await bench.press("Shopping list");
  await bench.seen("[data-testid=needed-saddle-50]", "Head main");
  await bench.press("Laying");
  await bench.choose("Line", "head-main");
  await bench.fill("Between fence posts", "0.1");
  await bench.seen("[aria-label=Laying]", "allowed: 0.5 or more");
  await bench.fill("Between fence posts", "");
  await bench.seen(sheet, "150.0 m –");
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
