/** The profile and the soundings: what the core answers for each way, together and each alone. */
import { expect, test } from "vitest";

import { type Bench, openBench } from "../../testing/bench";
import { expected, farm, figures, named } from "../../testing/farm";

const SECTION = "[aria-label='Profile']";
const WAY = "Route of the profile";
const grade = (bench: Bench) =>
  bench.find("[data-testid=section-grade]").then((path) => path.getAttribute("d"));

test("the section is zoomed and follows any two places", async () => {
  const bench = await openBench("lines");
  await bench.seen(SECTION, "414 m");
  await bench.click("[aria-label='Zoom in the profile']");
  await bench.until(() => expect(bench.text(SECTION)).not.toContain("414 m"));
  await bench.click("[aria-label='Fit the profile']");
  await bench.seen(SECTION, "414 m");
  await bench.choose(WAY, "between");
  await bench.choose("From", "pond-valve");
  await bench.choose("To", "low-valve");
  const { lines } = await farm();
  const length = ["pond-leg", "hop-leg", "low-leg"].reduce(
    (sum, id) => sum + (named(lines, id).length_m ?? NaN),
    0,
  );
  await bench.seen(SECTION, `${figures(length, 0)} m`);
});

test("each way has its section, and the grade and the margins change where each draws alone", async () => {
  const bench = await openBench("lines");
  const { routes } = await expected();
  const margins = (key: "together" | "alone") =>
    routes.flatMap((route) => {
      const margin = route[key].sounding?.margin_m;
      if (margin === undefined) return [];
      const said = `${figures(Math.abs(margin), 2)} m ${margin > 0 ? "to spare" : "short"}`;
      return [expect.stringContaining(said) as string];
    });
  const shown = () => bench.all("[data-testid=margin]").map((margin) => bench.told(margin));
  await bench.until(() => expect(shown()).toEqual(margins("together")));
  const together = await grade(bench);
  await bench.press("One at a time");
  await bench.until(() => expect(shown()).toEqual(margins("alone")));
  expect(await grade(bench)).not.toBe(together);
  expect((await bench.find("[data-testid=section-band]")).getAttribute("d")).toBeTruthy();
  for (const [way, line] of [
    ["goose-valve", "Goose hose"],
    ["weir-feed", "Weir feed"],
  ] as const) {
    await bench.choose(WAY, way);
    await bench.find(`${SECTION} [data-line='${line}']`);
  }
});

test("findings stand on plan and section", async () => {
  const bench = await openBench("lines");
  await bench.part("Low trough valve");
  for (const drawing of ["finding-marks", "section-findings"])
    await bench.find(`[data-testid=${drawing}] [aria-label*='The low point 110 m along Low leg']`);
});
