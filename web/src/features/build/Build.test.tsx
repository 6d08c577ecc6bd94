/** How a plan is built, as people use it: laying sheets, holes, floats. */
import { expect, test } from "vitest";

import { readLog } from "../../api/field";
import { openBench } from "../../testing/bench";
import { named } from "../../testing/farm";

test("a measured stem gives the bit, for all pieces of its kind", async () => {
  const bench = await openBench("build");
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
  const bench = await openBench("build");
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
  const bench = await openBench("build");
  await bench.press("Laying");
  await bench.choose("Line", "low-leg");
  await bench.press("Add a crossing under a track");
  await bench.fill("Crossing 1 of Low leg, from its start", "40");
  await bench.fill("Crossing 1 of Low leg, wide", "6");
  const sheet = "[aria-label='Laying sheet'] tbody";
  await bench.seen(sheet, "into the ground in a sleeve for 6.0 m");
  await bench.fill("Crossing 1 of Low leg, from its start", "4000");
  await bench.seen("[aria-label='Crossings of Low leg']", "crossings that begin within");
  await bench.fill("Crossing 1 of Low leg, from its start", "40");
  await bench.press("Work");
  await bench.seen("[aria-label='Order of work']", "11 m of trench");
  await bench.click("nav a[href$='/parts']");
  await bench.seen("[data-testid='needed-sleeve-low-leg-1']", "6 m");
  await bench.until(() => bench.saved());
  expect(named(bench.document().lines, "low-leg").crossings).toEqual([{ at_m: 40, wide_m: 6 }]);
});

test("spaces between posts are counted, and taps set, once it is said how far apart these are", async () => {
  const bench = await openBench("build");
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
  await bench.click("nav a[href$='/parts']");
  await bench.seen("[data-testid=needed-saddle-50]", "Head main");
  await bench.click("nav a[href$='/build']");
  await bench.press("Laying");
  await bench.choose("Line", "head-main");
  await bench.fill("Between fence posts", "0.1");
  await bench.seen("[aria-label=Laying]", "allowed: 0.5 or more");
  await bench.fill("Between fence posts", "");
  await bench.seen(sheet, "150.0 m –");
});

test("a frost is set, what freezes first is told, water is left running, and the walk is ticked off", async () => {
  const bench = await openBench("build");
  await bench.press("Winter");
  await bench.seen("main", "No frost is stated yet");
  await bench.press("Add a frost");
  await bench.seen("[data-testid=frost-told]", "32 days, 160 degree-days");
  await bench.seen("[aria-label='Lines in the frost'] tbody tr", "Mat tube");
  await bench.seen("[data-testid=way-drain]", "stay in low points");
  await bench.seen("[data-testid=way-bury]", "USD");
  await bench.seen("[data-testid=way-bleed]", "passes");
  await bench.seen("[data-testid=bleed-mat-valve]", "at most");
  await bench.fill("Air, day and night", "-20");
  await bench.seen("[data-testid=frost-told]", "640 degree-days");
  await bench.fill("Air, day and night", "3");
  await bench.until(async () => {
    const field = await bench.field("Air, day and night");
    expect(bench.helpOf(field)).toMatch(/less than 0|below 0|under 0/);
  });
  await bench.fill("Air, day and night", "-2");
  await bench.seen("[data-testid=frost-told]", "64 degree-days");
  await bench.fill("Left running at Low trough valve", "200");
  await bench.seen("[data-testid=bleed-low-valve]", "°C");
  await bench.fill("Left running at Low trough valve", "0.1");
  await bench.seen("[data-testid=bleed-low-valve]", "freezes on the way");
  await bench.press("The walk: drain, start again");
  await bench.seen("[data-testid=walk-source-west-draw]", "Shut the tap of West draw-off at West chamber");
  await bench.press("Done", "[data-testid=walk-source-west-draw]");
  await bench.seen("[data-testid=walk-source-west-draw]", "✓ done");
  await bench.press("Start in spring");
  await bench.seen("[aria-label='Steps of the walk']", "Shut the drain of Head main");
  await bench.seen("[data-testid=walk-look]", "Look at every outlet again next day");
  await bench.until(() => expect(bench.text("[data-testid=queue]")).toContain("All entries are sent"));
  const { entries } = await readLog(bench.designId, null);
  expect(entries.map(({ figures, part }) => [figures?.step, part])).toEqual([
    ["drain:source-west-draw", "west-draw"],
  ]);
});
