/** Supply as people use it: sources, weather, the season and what a lost source leaves. */
import { fireEvent } from "@testing-library/dom";
import { expect, test } from "vitest";

import { compareYears, runSeason } from "../../api/client";
import { tellStandbys } from "../../api/field";
import { usePreferences } from "../../shared/preferences";
import { openBench } from "../../testing/bench";
import { expected, farm, figures, named } from "../../testing/farm";

const TOLD = "[data-testid=season-told]";
const table = (text: string) => new File([text], "table.csv", { type: "text/csv" });

test("a table with a fault is refused and nothing changes", async () => {
  const bench = await openBench("supply");
  await bench.row("season");
  await bench.seen(TOLD, "All 365 days");
  const before = bench.document();
  await bench.give(table("date,rain_mm\n2026-05-01,1\n2026-05-03,0\n"), "Weather table");
  await bench.seen("[aria-label=Weather] [role=status]", "line 3");
  expect(bench.text(TOLD)).toContain("All 365 days");
  expect(bench.document()).toBe(before);
});

test("weather is taken from the service", async () => {
  const bench = await openBench("supply");
  await bench.row("season");
  await bench.choose("Made-up weather", "dry plains");
  await bench.fill("Years", "2");
  await bench.press("Use this weather");
  await bench.seen("[aria-label=Weather]", "dry plains, 2 years, seed 1");
  await bench.seen(TOLD, "730 days");
  expect(bench.document().season?.weather.rain_mm).toHaveLength(730);
});

test("a source is added, judged and deleted", async () => {
  const bench = await openBench("supply");
  const before = bench.number("spare");
  await bench.choose("Add source", "mains");
  const card = "section[aria-label='Source 3']";
  await bench.until(() => expect(bench.number("spare")).not.toBe(before));
  expect(bench.text(card)).toContain("600 L/day");
  await bench.tick("Air gap", card);
  await bench.find("[data-testid=finding-no-air-gap]");
  await bench.press("Delete", card);
  await bench.until(() => expect(bench.number("spare")).toBe(before));
  await bench.gone("[data-testid=finding-no-air-gap]");
  expect(named(bench.document().inflows, "weir-intake")).toBeDefined();
});

test("a pump that draws from a tank of the plan brings only what comes into that", async () => {
  const bench = await openBench("supply");
  await bench.choose("Add source", "pump");
  const card = "section[aria-label='Source 3']";
  await bench.seen(card, "400 L/day in this case");
  await bench.choose("Draws from", "butt", card);
  await bench.seen(card, "It could carry");
  const pump = bench.document().inflows?.at(-1);
  expect(pump).toMatchObject({ kind: "pump", draws_from: "butt" });
  await bench.choose("Draws from", "", card);
  await bench.seen(card, "400 L/day in this case");
  expect(bench.document().inflows?.at(-1)).not.toHaveProperty("draws_from");
});

test("a day of the season is told where it is pointed at", async () => {
  const bench = await openBench("supply");
  const picture = (await bench.find("[data-testid=season-store]")).closest("svg");
  if (!picture) throw new Error("the season has no picture");
  const before = bench.text("[data-testid=day-told]");
  fireEvent.mouseMove(picture, { clientX: 300, clientY: 10 });
  await bench.until(() => expect(bench.text("[data-testid=day-told]")).not.toBe(before));
  const { season } = await runSeason(await farm());
  const day = bench.text("[data-testid=day-told]").slice(0, 10);
  const stored = season?.series.store_l[season.series.days.indexOf(day)] ?? NaN;
  expect(bench.text("[data-testid=day-told]")).toContain(`${figures(stored, 0)} L in store`);
});

test("a lost source shows how long the store carries whom", async () => {
  const bench = await openBench("supply");
  await bench.row("weir-intake");
  await bench.tick("Lost in this case", "section[aria-label='Weir intake']");
  const { supply } = await expected((draft) => {
    named(draft.scenarios, "hot-spell").lost = ["weir-intake"];
  });
  await bench.seen(
    "[data-testid=carries]",
    `for ${figures(24 * (supply.days_in_hand ?? 0), 0)} hours; as it is`,
  );
  expect(bench.text("[data-testid=carries]")).toContain("34 dairy heifers");
  expect(bench.text("[data-testid=bars]")).toContain("■");
});

test("a year is held against another plan", async () => {
  const bench = await openBench("supply");
  await bench.choose("Add source", "haul");
  await bench.until(() => expect(bench.document().inflows).toHaveLength(3));
  await bench.until(() => bench.saved());
  await bench.row("compare");
  await bench.find(`option[value='${bench.designId}']`);
  await bench.choose("Compare a year with", bench.designId);
  const { own } = await compareYears(bench.document(), bench.document());
  await bench.seen("[data-testid=years-told]", `${figures(own.haul_h, 0)} hours of hauling, 0 hours less`);
});

test("what is typed in gallons is kept in litres", async () => {
  const US_GALLON_L = 3.785411784;
  const bench = await openBench("supply");
  usePreferences.setState({ system: "us" });
  await bench.numbered("spare", "gal/day");
  await bench.row("glasshouse-roof");
  await bench.fill("First-flush diverter", "20");
  await bench.until(() =>
    expect(named(bench.document().inflows, "glasshouse-roof")).toMatchObject({
      first_flush_l: expect.closeTo(20 * US_GALLON_L, 6) as number,
    }),
  );
  const { season } = await runSeason(await farm());
  const gallons = figures((season?.capacity_l ?? NaN) / US_GALLON_L, 0);
  await bench.seen("svg:has([data-testid=season-store])", `${gallons} gal`);
});

test("a standby is added, says for whom it is good, and when its hose is too short", async () => {
  const bench = await openBench("supply", { rest: true });
  await bench.choose("Add source", "standby");
  const card = "section[aria-label='Standby tote']";
  const told = "[data-testid=standby-standby-1]";
  await bench.seen(told, "It supplies Dairy heifers");
  expect(bench.text(told)).toContain("It stands at what it fills");
  const litres = await tellStandbys(bench.document());
  const lasts = (litres.standbys.at(-1)?.lasts_s ?? 0) / 3600;
  expect(bench.text(told)).toContain(`for ${lasts.toFixed(1)} h`);
  await bench.choose("Stands at", "gate", card);
  await bench.fill("Hose length", "60", card);
  await bench.seen(told, "its hose does not reach");
  await bench.find("[data-testid=finding-standby-out-of-reach]");
  await bench.fill("Hose length", "180", card);
  await bench.gone("[data-testid=finding-standby-out-of-reach]");
  await bench.press("Delete this standby", card);
  await bench.gone(told);
  expect(bench.document().standbys).toHaveLength(1);
});
