/** First water and the log, as people use them: steps end, pails are timed, entries wait and are corrected. */
import { expect, test } from "vitest";

import { readLog, sendLog } from "../../api/field";
import { newEntry } from "../../shared/newEntry";
import { openBench } from "../../testing/bench";

test("a step is done, another failed for a reason, and both stand in the log", async () => {
  const bench = await openBench("build");
  await bench.press("First water");
  await bench.seen("[aria-label='The step in hand']", "Shut the drain of Head main");
  await bench.press("Done");
  await bench.seen("[aria-label='The step in hand']", "Open all ends");
  await bench.fill("Why, if it is skipped or failed", "vent rusted");
  await bench.press("Failed");
  await bench.seen("[aria-label='All steps']", "failed: vent rusted");
  await bench.until(() => expect(bench.text("[data-testid=queue]")).toContain("All entries are sent"));
  const { entries } = await readLog(bench.designId, null);
  expect(entries.map(({ figures, said }) => [figures?.step, figures?.ended, said])).toEqual([
    ["open-ends", "failed", "vent rusted"],
    ["drain-1", "done", ""],
  ]);
  await bench.click("nav a[href$='/log']");
  await bench.seen(
    "[aria-label=Entries]",
    "Open all ends and vents; floats and filters not yet fitted, or held down, failed",
  );
});

test("what is noted is corrected beside it, never over it", async () => {
  const bench = await openBench("log");
  await bench.seen("main", "Nothing is noted yet.");
  await bench.choose("About", "goose-pan");
  await bench.fill("What you see", "wet ground below the pan");
  await bench.press("Note it");
  await bench.seen("[aria-label=Entries]", "wet ground below the pan");
  await bench.press("Correct it");
  await bench.fill("Corrects: Note: wet ground below the pan", "it was the overflow");
  await bench.press("Note it");
  await bench.seen("[aria-label=Entries]", "corrected later");
  await bench.until(() => expect(bench.text("[data-testid=queue]")).toContain("All entries are sent"));
  const { entries } = await readLog(bench.designId, "goose-pan");
  expect(entries.map(({ said }) => said)).toEqual(["it was the overflow", "wet ground below the pan"]);
  expect(entries[0]?.corrects).toBe(entries[1]?.id);
});

test("a round notes what is pressed, and three looks at a running valve say that it passes", async () => {
  const bench = await openBench("log");
  for (let round = 0; round < 3; round += 1) {
    await bench.press("Daily look");
    await bench.seen("[aria-label='The trough in hand']", "Low trough");
    await bench.press("Running");
    await bench.press("Full");
    await bench.press("Note it, next");
    await bench.until(() => expect(bench.text("[data-testid=queue]")).toContain("All entries are sent"));
    await bench.press("Log", "[aria-label='Which page']");
    await bench.seen("[aria-label=Entries]", "Look: Full, Running");
  }
  await bench.seen("[aria-label='What the looks say']", "Low trough: Running at the last 3 looks");
  await bench.press("Daily look");
  await bench.seen("[aria-label='The trough in hand']", "Running at the last 3 looks: the valve passes");
  const { entries } = await readLog(bench.designId, "low-trough");
  expect(entries.map(({ figures }) => figures)).toEqual(Array(3).fill({ level: "full", running: true }));
  await bench.press("Skip");
  await bench.until(() =>
    expect(bench.text("[aria-label='The trough in hand']")).not.toContain("Low trough"),
  );
});

test("a pail that takes too long names what is off, and a copy of the plan is made of it", async () => {
  const bench = await openBench("log");
  await bench.press("Measured");
  await bench.seen("main", "Nothing is read yet.");
  await bench.choose("At", "ewe-valve");
  await bench.fill("Full in", "200");
  await bench.press("Note the reading");
  await bench.seen("[aria-label=Readings]", "Ewe trough valve, the others shut");
  await bench.seen("[data-testid=next-reading]", "if Ewe trough valve is off");
  await bench.press("Gauge");
  await bench.choose("At", "ewe-valve");
  await bench.choose("Meanwhile", "alone");
  await bench.fill("It reads", "85");
  await bench.press("Note the reading");
  await bench.seen("[data-testid=suspects]", "Ewe trough valve passes");
  await bench.press("Make a copy of the plan like this");
  await bench.seen("header", "(as measured)");
});

test("in trouble one is sent from look to look until it is found, mended and noted", async () => {
  const bench = await openBench("log");
  await bench.press("Daily look");
  await bench.seen("[aria-label='The trough in hand']", "Low trough");
  await bench.click("main a[href*='page=trouble']");
  await bench.seen("main", "What is wrong?");
  await bench.press("Trough low");
  await bench.seen("[aria-label='Look at this']", "Press the float of Low trough valve down");
  await bench.seen("[data-testid=until]", "Standby");
  await bench.press("It does not");
  for (let looks = 0; looks < 12 && !bench.all("[data-testid=mend]").length; looks += 1) {
    await bench.find("[aria-label='Look at this']");
    const asked = bench.all("[aria-label='Look at this']")[0]?.dataset.testid ?? "";
    await bench.press(asked === "look:tap_shut:west-draw:1" ? "Not fully open" : "Can't tell");
    await bench.until(() =>
      expect(bench.all("[aria-label='Look at this']")[0]?.dataset.testid).not.toBe(asked),
    );
  }
  await bench.seen("[data-testid=mend]", "The tap of West draw-off at 1 m is shut or half shut");
  await bench.seen("[data-testid=until]", "a full trough lasts them");
  await bench.press("Mended: note it");
  await bench.until(async () => {
    const { entries } = await readLog(bench.designId, "west-draw");
    expect(entries.map(({ kind, figures }) => [kind, figures?.cause])).toEqual([
      ["mend", "tap_shut:west-draw:1"],
    ]);
  });
});

test("a task is done at its own interval, and the calendar has an address", async () => {
  const bench = await openBench("log");
  await bench.press("Upkeep");
  const task = "[data-testid='task-float:goose-valve']";
  await bench.seen(task, "Check float and washer of Goose pan valve");
  await bench.seen(task, "never noted");
  await bench.press("Done", task);
  await bench.until(() => expect(bench.text(task)).toContain("last on"));
  await bench.press("Make an address");
  await bench.seen("[data-testid=feed]", "calendar.ics?key=");
});

test("trips before the line and what it cost say when it is paid back", async () => {
  const bench = await openBench("log");
  await bench.press("Ledger");
  await bench.seen("[data-testid=payback]", "Note each trip with water");
  await bench.fill("Hauled", "600");
  await bench.fill("On the way", "40");
  await bench.fill("Fuel, USD", "6");
  await bench.press("Note the trip");
  await bench.seen("[aria-label=Sums]", "600 L");
  await bench.seen("[data-testid=payback]", "Before the line");
  await bench.set("The line runs since", "2026-01-01");
  await bench.seen("[data-testid=payback]", "No trip was noted before the line ran");
});

test("a dipstick after a night without drinking says the leak", async () => {
  const bench = await openBench("log");
  const at = (hours: number) => new Date(Date.now() - hours * 3_600_000).toISOString();
  const stick = (hours: number, level_m: number, quiet: boolean) => ({
    ...newEntry(
      { kind: "level", part: "chambers", figures: quiet ? { level_m, quiet } : { level_m } },
      "Ada",
    ),
    happened_at: at(hours),
  });
  await sendLog(bench.designId, [stick(10, 1.2, false), stick(1, 1.05, true)]);
  await bench.press("Levels");
  await bench.choose("Of", "chambers");
  await bench.seen("[data-testid='finding-stick-leak']", "an hour went in 9.0 hours though nobody drank");
  expect(bench.all("figure svg circle")).toHaveLength(2);
});

test("a recipe is scaled to the water that is there, and its strength is told", async () => {
  const bench = await openBench("log");
  await bench.press("Mixing");
  await bench.press("Add a recipe");
  await bench.choose("The water of", "mat-tank");
  await bench.fill("Amount", "2");
  await bench.fill("For so much water", "20");
  await bench.seen("[data-testid^=dose-]", "that are in Mat tank");
  await bench.seen("[aria-label='How to mix it']", "leave it shut until all is dissolved");
  await bench.choose("Goes into", "pot");
  await bench.seen("[aria-label='How to mix it']", "Let it spread before measuring");
  await bench.seen("[data-testid=school-reservoir]", "Glasshouse butt");
  await bench.seen("[data-testid=school-pot]", "every 7 days");
  await bench.fill("Amount", "0");
  await bench.until(async () => {
    const field = await bench.field("Amount");
    expect(bench.helpOf(field)).not.toBe("");
  });
  await bench.fill("Amount", "3");
  await bench.until(() => bench.saved());
  expect(bench.document().dosings).toMatchObject([{ vessel: "mat-tank", amount: 3, into: "pot" }]);
  await bench.fill("Strength now, % of the recipe’s", "40");
  await bench.seen("[data-testid^=mixed-]", "Mix in");
  await bench.fill("Strength now, % of the recipe’s", "900");
  await bench.seen("[data-testid^=mixed-]", "no weaker");
  await bench.press("Delete this recipe");
  await bench.seen("main", "No recipe yet");
});
