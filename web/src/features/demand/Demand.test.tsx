/** Demand as people use it: herds, moves, mobs, plants; what is shown is what the core answers. */
import { expect, test } from "vitest";

import { compareSchools } from "../../api/client";
import { tellRows } from "../../api/field";
import type { Design } from "../../api/types";
import { openBench } from "../../testing/bench";
import { atRest, expected, farm, figures, named, numberText, wording } from "../../testing/farm";

const HEIFERS = "section[aria-label='Dairy heifers']";
const TABLE = "[data-testid=demand-heifers]";

test("a herd is added, set to arrive together and deleted", async () => {
  const bench = await openBench("demand", { rest: true });
  const before = bench.number("spare");
  await bench.press("Add herd");
  const herd = "section[aria-label='Herd 4']";
  await bench.until(() => expect(bench.number("spare")).not.toBe(before));
  expect(bench.text(herd)).toContain("not judged");
  await bench.chooseIn(`${herd} select:has(option[value=mob])`, "mob");
  await bench.seen(herd, "All watered after");
  expect(bench.text(herd)).toContain("assumed, please check");
  await bench.press("Delete", herd);
  await bench.until(() => expect(bench.number("spare")).toBe(before));
});

test("a mob that finds no room is seen and helped by more rim", async () => {
  const served = async (rim?: number) => {
    const { watering } = await atRest((draft) => {
      if (rim !== undefined) named(draft.vessels, "ewe-trough").rim_m = rim;
    });
    const visit = named(watering, "ewe-valve", "outlet").visits[0];
    return `watered after ${figures(visit?.served_min ?? NaN, 0)} min`;
  };
  const bench = await openBench("demand", { rest: true });
  await bench.row("ewes");
  await bench.seen("[data-testid=trough-ewes]", await served());
  expect(
    (await bench.find("[data-testid=trough-ewes] [data-testid=mob-waiting]")).getAttribute("d"),
  ).toBeTruthy();
  await bench.seen("[data-testid=finding-rim-too-short]", "wait too long");
  await bench.click("[data-testid=trough-ewes] button[aria-expanded]");
  const { lost_l } = (await compareSchools(await farm(), "ewe-valve")).schools[0] ?? {};
  await bench.seen("[data-testid=schools]", `${figures(lost_l ?? NaN, 0)} L`);
  await bench.open("lines");
  await bench.part("Ewe trough");
  await bench.fill("Usable trough edge", "6.9");
  await bench.gone("[data-testid=finding-rim-too-short]");
  await bench.open("demand");
  await bench.row("ewes");
  await bench.seen("[data-testid=trough-ewes]", await served(6.9));
});

test("a rotation and a hot spell show the trough that fails", async () => {
  const change = (draft: Design) => {
    draft.shown_for = "ordinary-day";
    Object.assign(named(draft.scenarios, "ordinary-day"), { date: "2026-07-24", air_c: 36 });
    const season = { from: "2026-05-01", to: "2026-09-30" };
    draft.calendar?.push({ id: "moves-4", herd: "heifers", ...season, paddocks: ["fold-field"] });
  };
  const bench = await openBench("demand", { rest: true });
  await bench.row("heifers");
  await bench.click(`${HEIFERS} button[data-testid=add-moves]`);
  await bench.until(() => expect(bench.document().calendar).toHaveLength(4));
  for (const paddock of ["Fold field", "1. Low field"]) await bench.tick(paddock, HEIFERS);
  await bench.showCase("Ordinary day");
  await bench.seen("main", "Ordinary day");
  await bench.set("Day of the case", "2026-07-24");
  await bench.seen(HEIFERS, "on this day at Ewe trough");
  await bench.menu("Case:", "Add or edit cases");
  await bench.fill("Air, highest of the day", "36", "[role=dialog]");
  await bench.press("Close", "[role=dialog]");
  const { findings, watering } = await atRest(change);
  const found = findings.find(
    ({ code, where }) => /rim-too-short|trough-runs-empty/.test(code) && where === "ewe-valve",
  );
  await bench.seen("[aria-label=Findings]", wording(found?.headline_words ?? ["nothing found"]));
  const { visits } = named(watering, "ewe-valve", "outlet");
  const left = named(visits, "heifers", "herd").left_waiting_share;
  await bench.seen("[data-testid=trough-heifers]", `${figures(100 * left, 0)} %`);
});

test("plants by the weather are counted", async () => {
  const bench = await openBench("demand");
  await bench.row("hop-rows");
  const group = "section[aria-label='Hop rows']";
  const told = `${group} [data-testid=other-hop-rows]`;
  await bench.seen(told, "630 L/day");
  await bench.chooseIn(`${group} select:has(option[value=area])`, "area");
  await bench.fill("Area", "120", group);
  const byArea = await expected((draft) => {
    draft.crops?.splice(0, 1, {
      id: "hop-rows",
      name: "Hop rows",
      outlet: "hop-drip",
      area_m2: 120,
      crop_factor: 1,
    });
  });
  await bench.seen(told, `${figures(named(byArea.demand.others, "hop-rows").daily_l, 0)} L/day`);
  expect(bench.text(group)).toContain("reference evapotranspiration");
  await bench.numbered("spare", numberText(byArea, "spare"));
});

test("an optional figure can be given and taken back", async () => {
  const bench = await openBench("demand");
  await bench.row("heifers");
  const table = bench.text(TABLE);
  await bench.fill("Own figure per animal", "80", HEIFERS);
  await bench.seen(TABLE, "2 720 L/day"); // for 34
  await bench.fill("Own figure per animal", "", HEIFERS);
  await bench.until(() => expect(bench.text(TABLE)).toBe(table));
});

test("the case shown changes the demand and is named", async () => {
  const bench = await openBench("demand");
  const ordinary = await expected((draft) => void (draft.shown_for = "ordinary-day"));
  await bench.showCase("Ordinary day");
  await bench.numbered("spare", numberText(ordinary, "spare"));
  await bench.row("heifers");
  expect(bench.text(TABLE)).toContain(figures(named(ordinary.demand.herds, "heifers").daily_l, 0));
  expect(bench.text("main")).toContain("Ordinary day");
});

test("a timer that starves a trough is moved to where nothing goes short", async () => {
  const change = (draft: Design) => void (named(draft.requirements, "low-valve", "outlet").flow_lpm = 28);
  const bench = await openBench("demand", { rest: true, document: await farm(change) });
  const [clash] = (await atRest(change)).clashes;
  const gets = `Low trough gets ${figures(clash?.gets_lpm ?? NaN, 1)} L/min of 28.0 L/min`;
  await bench.row("timers");
  await bench.seen("[data-testid=timers-told]", gets);
  await bench.find("[data-testid=clash]");
  expect((await bench.button("Fix", "[data-testid=finding-timers-clash]")).title).toContain(
    "Hop timer at 17:00",
  );
  await bench.press("Fix", "[data-testid=finding-timers-clash]");
  await bench.seen("[data-testid=timers-told]", "All get enough");
  expect((await bench.field("Starts")).value).toBe("17:00");
  await bench.set("Starts", "16:30");
  await bench.seen("[data-testid=timers-told]", gets);
  await bench.until(() => expect(named(bench.document().timers, "hop-timer").starts).toBe("16:30"));
});

test("a trough that goes with the herd throws water away and follows it from field to field", async () => {
  const bench = await openBench("lines");
  await bench.part("Ewe trough");
  await bench.tick("Moves with the herd");
  await bench.fill("Emptied at each move", "75");
  await bench.until(() =>
    expect(named(bench.document().vessels, "ewe-trough")).toMatchObject({ portable: { thrown_l: 75 } }),
  );
  await bench.open("demand");
  await bench.row("ewes");
  for (const [day, field] of [
    ["2026-06-28", "Fold"],
    ["2026-06-29", "Low"],
  ] as const) {
    await bench.set("Day of the case", day);
    await bench.seen("section[aria-label='Milking ewes']", `grazing ${field} field`);
  }
});

test("one float sets what a row of benches holds", async () => {
  const row = "[data-testid=row-mat-valve]";
  const told = async (level?: number) => {
    const { demand } = await expected((draft) => {
      const valve = named(draft.outlets, "mat-valve");
      if (level !== undefined && valve.kind === "float_valve") valve.valve.closes_at_m = level;
    });
    return named(demand.rows, "mat-valve", "outlet");
  };
  const bench = await openBench("demand");
  const now = await told();
  await bench.row("row-mat-valve");
  await bench.seen(row, `hold ${figures(now.holds_l, 0)} L`);
  await bench.fill("Float closes at", "0.11");
  const lower = await told(0.11);
  expect(lower.holds_l).toBeLessThan(now.holds_l);
  await bench.seen(row, `hold ${figures(lower.holds_l, 0)} L`);
  await bench.row("pond");
  expect(bench.text("[data-testid=unattended-pond-valve]")).toContain("Pond valve stuck open");
});

test("each picture can be read as a table", async () => {
  const bench = await openBench("demand", { rest: true });
  const { hours_l } = (await expected()).demand;
  const day = hours_l["hot-spell"] ?? [];
  const table = (title: string) =>
    bench.until(() => {
      const found = bench
        .all("main details")
        .find((one) => one.querySelector("summary")?.textContent === title);
      if (!found) throw new Error(`there is no ${title}`);
      return found;
    });
  await table("The season as a table");
  await bench.row("ewes");
  await table("The visit as a table");
  await bench.row("timers");
  await table("Timers as a table");
  const most = Math.max(...day);
  const busiest = day.indexOf(most);
  expect(bench.told(await table("The day as a table"))).toContain(
    `${busiest} to ${busiest + 1} h ${figures(most, 0)} L`,
  );
});

test("the number of a herd changes over the season", async () => {
  const bench = await openBench("demand");
  await bench.row("heifers");
  const before = bench.text(TABLE);
  await bench.press("Their number changes over the season", HEIFERS);
  await bench.fill("Number, 1", "20", HEIFERS);
  const fewer = await expected((draft) => {
    named(draft.herds, "heifers").counts = [{ from: "2026-06-01", head: 20 }];
  });
  await bench.seen(TABLE, figures(named(fewer.demand.herds, "heifers").daily_l, 0));
  expect(bench.text(TABLE)).not.toBe(before);
});

test("a row of containers tells which one lags, its season, and lags less behind wider tubes", async () => {
  const bench = await openBench("demand");
  await bench.row("row-mat-valve");
  const lags = "[data-testid=lags-mat-valve]";
  await bench.seen(lags, "Container 12 of Propagation benches lags");
  const before = (await tellRows(bench.document())).rows[0]?.levelling;
  expect(bench.text(lags)).toContain(`lags ${((before?.lag_s ?? 0) / 3600).toFixed(1)} h`);
  await bench.seen("[data-testid=season-mat-valve]", "lasts to 2026-06-23");
  await bench.fill("Link pipe bore", "6", "[data-testid=row-mat-valve]");
  await bench.seen(lags, "by the links between containers");
  expect((await tellRows(bench.document())).rows[0]?.levelling?.lag_s).toBeGreaterThan(before?.lag_s ?? 0);
});

test("a pond's top-up that is too large is a leak, and a filter chamber gives it levels", async () => {
  const bench = await openBench("demand", { rest: true });
  await bench.row("pond");
  const told = "[data-testid=pond-pond]";
  await bench.seen(told, "A float hides a leak");
  await bench.fill("Top-up as measured, dry day", "900");
  await bench.seen(told, "measured: 900 L/day");
  await bench.find("[data-testid=finding-top-up-hides-leak]");
  await bench.choose("Filter chamber", "weir-box");
  await bench.seen("[aria-label='Levels with the pump on and off']", "Weir box");
  await bench.seen("[aria-label='Where the float may be']", "in the filter chamber");
  await bench.choose("Filter chamber", "");
  await bench.gone("[aria-label='Levels with the pump on and off']");
  expect(bench.document().ponds?.[0]?.circulation).toBeUndefined();
});
