/** Sources under pressure as people use them: gauge and pail of a well, fall and trials of a ram, what they give. */
import { produce } from "immer";
import { expect, test } from "vitest";

import { analyse } from "../../api/client";
import type { Design } from "../../api/types";
import { openBench } from "../../testing/bench";
import { farm, figures, named } from "../../testing/farm";

const GIVEN = "[data-testid=source-beck]";

/** The demonstration design with a ram below the Low trough that lifts into a butt of its own. */
const withRam = () =>
  farm((draft) => {
    const low = named(draft.places, named(draft.outlets, "low-valve").place);
    const at = { east_m: low.east_m + 60, north_m: low.north_m - 40 };
    draft.places.push(
      { id: "beck-foot", name: "Beck", ...at, ground_m: low.ground_m - 12 },
      {
        id: "beck-top",
        name: "Beck top",
        east_m: at.east_m + 50,
        north_m: at.north_m,
        ground_m: low.ground_m,
      },
    );
    draft.pressure_sources = [
      {
        id: "beck",
        name: "Beck ram",
        kind: "ram",
        place: "beck-foot",
        fall_m: 2,
        drive_lpm: 60,
        efficiency: 0.6,
      },
    ];
    draft.vessels?.push({
      id: "butt-2",
      name: "Beck butt",
      place: "beck-top",
      shape: { kind: "upright_cylinder", diameter_m: 1, height_m: 1 },
      overflow_m: 0.9,
      level_m: 0.5,
    });
    draft.outlets?.push({
      id: "beck-fill",
      name: "Beck fill",
      kind: "open_end",
      place: "beck-top",
      fills: "butt-2",
      height_m: 1,
      bore_mm: 26,
    });
    draft.lines?.push({
      id: "beck-line",
      name: "Beck line",
      from: "beck",
      to: "beck-fill",
      bore_mm: 26,
      roughness_mm: 0.01,
      length_m: 60,
    });
  });

const sourceOf = async (document: Design) => {
  const { supply } = await analyse(document);
  return named(supply.pressure_sources, "beck");
};

test("a ram tells what it gives, its climb and its waste, and follows its fall", async () => {
  const document = await withRam();
  const bench = await openBench("lines", { document });
  await bench.part("Beck ram");
  const before = await sourceOf(document);
  await bench.seen(GIVEN, `${figures(before.given_lpm, 1)} L/min with all running`);
  expect(bench.text(GIVEN)).toContain("60.0 L/min once every float is shut");
  expect(bench.text("[data-testid=climb-beck-fill]")).toContain("13.00 m over it");
  await bench.fill("Fall to the ram", "3");
  const after = await sourceOf(
    produce(document, (draft) => {
      const [ram] = draft.pressure_sources ?? [];
      if (ram?.kind === "ram") ram.fall_m = 3;
    }),
  );
  expect(after.given_lpm).toBeGreaterThan(1.3 * before.given_lpm);
  await bench.seen(GIVEN, `${figures(after.given_lpm, 1)} L/min with all running`);
});

test("the last timed trial of a ram counts", async () => {
  const bench = await openBench("lines", { document: await withRam() });
  await bench.part("Beck ram");
  await bench.press("Add a trial");
  await bench.fill("Waste", "18.8");
  await bench.until(() => {
    const [ram] = bench.document().pressure_sources ?? [];
    expect(ram?.kind === "ram" && ram.trials?.[0]?.waste.volume_l).toBe(18.8);
  });
  const told = await sourceOf(bench.document());
  expect(told.ram?.trials).toHaveLength(1);
  await bench.seen(GIVEN, `${figures(told.given_lpm, 1)} L/min with all running`);
  await bench.press("Delete trial 1");
  await bench.until(() => expect(bench.document().pressure_sources?.[0]).toMatchObject({ trials: [] }));
});

test("mains say so until something keeps stock water out of them", async () => {
  const document = produce(await withRam(), (draft) => {
    draft.pressure_sources = [
      {
        id: "beck",
        name: "Lane mains",
        kind: "mains",
        place: "beck-foot",
        static_kpa: 300,
        timings: [{ volume_l: 15, time_s: 30 }],
      },
    ];
  });
  const bench = await openBench("lines", { document });
  await bench.find("[data-testid=finding-backflow]");
  await bench.part("Lane mains");
  await bench.choose("Against backflow", "preventer");
  await bench.until(() =>
    expect(bench.document().pressure_sources?.[0]).toMatchObject({ backflow: "preventer" }),
  );
  await bench.open("supply");
  await bench.row("beck");
  await bench.gone("[data-testid=finding-backflow]");
});
