/** Ground as people use it: readings by every way, what they make of heights, files shown before they are taken in. */
import { expect, test } from "vitest";

import type { LevelBook } from "../../api/types";
import { openBench } from "../../testing/bench";
import { atRest, expected, farm, figures, named } from "../../testing/farm";

const BOOK = "[aria-label='Level book 2']";

test("a level book reduces itself, closes and gives its heights", async () => {
  const bench = await openBench("ground");
  await bench.tab("Readings");
  await bench.press("Add level book");
  await bench.choose("Point 1", "gate", BOOK);
  expect(bench.document().books?.at(-1)?.readings ?? []).toEqual([]); // nothing is made up
  await bench.fill("Backsight 1", "0.62", BOOK);
  await bench.press("Add reading", BOOK);
  await bench.press("Next point", BOOK);
  await bench.choose("Point 2", "low", BOOK);
  await bench.fill("Intermediate sight 2", "3.84", BOOK);
  await bench.press("Add reading", BOOK);
  await bench.choose("Sight 2", "moves", BOOK);
  expect(bench.document().books?.at(-1)?.readings?.[1]).toEqual({ place: "low", mid_m: 3.84 });
  await bench.fill("Backsight 2", "3.71", BOOK);
  await bench.press("Next point", BOOK);
  await bench.choose("Point 3", "gate", BOOK);
  await bench.choose("Sight 3", "last", BOOK);
  await bench.fill("Foresight 3", "0.496", BOOK);
  await bench.press("Add reading", BOOK);
  await bench.fill("Way walked, km", "0.4", BOOK);
  const readings = [
    { place: "gate", back_m: 0.62 },
    { place: "low", fore_m: 3.84, back_m: 3.71 },
    { place: "gate", fore_m: 0.496 },
  ];
  const book: LevelBook = { id: "book-2", readings, length_km: 0.4 };
  const { ground } = await expected((draft) => void draft.books?.push(book));
  const told = named(ground.books, "book-2");
  const [missed, allowed, height] = [
    told.misclosure_m ?? NaN,
    told.allowed_m ?? NaN,
    told.points[1]?.adjusted_m ?? NaN,
  ];
  expect(missed).toBeCloseTo(0.62 - 3.84 + 3.71 - 0.496, 9); // backs less fores
  expect(Math.abs(missed)).toBeLessThanOrEqual(allowed);
  await bench.seen("[data-testid=book-told-1]", `misses by ${figures(missed, 3)}`);
  expect(bench.text("[data-testid=level-1-1]")).toBe(figures(height, 3));
  await bench.seen(`${BOOK} [data-testid=book-misclosure]`, figures(Math.abs(missed), 3));
  expect(bench.all("[data-testid=finding-misclosure]")).toEqual([]);
  await bench.fill("Foresight 3", "0.596", BOOK);
  await bench.find("[data-testid=finding-misclosure]");
  expect(bench.text("[data-testid=book-told-1]")).toContain("graduation misread");
  await bench.fill("Foresight 3", "0.496", BOOK);
  await bench.seen("[data-testid=book-told-1]", `misses by ${figures(missed, 3)}`);
  await bench.press("Use these heights", BOOK);
  await bench.until(() =>
    expect(named(bench.document().places, "low")).toMatchObject({
      height_from: "level and staff",
      ground_m: Number(height.toFixed(3)),
    }),
  );
});

test("other ways say their rise, and two ways stand side by side", async () => {
  const bench = await openBench("ground", { rest: true });
  await bench.tab("Readings");
  await bench.press("Hose level");
  const hose = "[aria-label='Hose level 9']";
  await bench.choose("From", "gate", hose);
  await bench.choose("To", "low", hose);
  await bench.fill("Water above ground, near end", "0.2", hose);
  expect(bench.text("[data-testid=sight-told-8]")).toBe(""); // half a reading says nothing
  await bench.fill("Far end", "4.1", hose);
  await bench.seen("[data-testid=sight-told-8]", "3.90 m under Beech gate");
  await bench.find("[data-testid=finding-heights-disagree]");
  await bench.press("Timed flow");
  const timed = "[aria-label='Timed flow 10']";
  await bench.choose("Outlet", "low-valve", timed);
  await bench.fill("Seconds", "90", timed);
  await bench.seen("[data-testid=sight-told-9]", "L/min");
  const { sights } = bench.document();
  const { ground } = await expected((draft) => void Object.assign(draft, { sights }));
  const low = named(ground.places, "low", "place");
  await bench.tab("Heights");
  const row = "[role=group][aria-label='Low field']";
  await bench.seen(row, `${figures(low.height_m, 2)} ± ${figures(low.error_m, 2)}`);
  for (const way of low.ways)
    expect(bench.text(row)).toContain(`${figures(way.height_m, 2)} ± ${figures(way.error_m, 2)}`);
  expect(bench.text(row)).toContain("the readings disagree");
  await bench.press("Use the measured height of low", row);
  await bench.until(() =>
    expect(named(bench.document().places, "low").ground_m).toBeCloseTo(low.height_m, 3),
  );
});

test("what to measure next is said in one sentence", async () => {
  const bench = await openBench("ground", { rest: true });
  expect((await atRest()).measuring.next[0]).toMatchObject({ kind: "valve", outlet: "ewe-valve" });
  await bench.seen("[data-testid=next-reading]", "Time a pail at Ewe trough valve");
  await bench.fill("Ground of Sheepfold", "254.4"); // low enough that nothing uncertain decides the ewes' flow
  await bench.fill("Known to ±", "0.1", "[aria-label='Sheepfold']");
  const { measuring } = await atRest((draft) => {
    Object.assign(named(draft.places, "fold"), { ground_m: 254.4, height_error_m: 0.1 });
  });
  for (const { outlet, turns } of measuring.next) if (outlet === "ewe-valve") expect(turns).toBe(false);
  await bench.seen("[data-testid=next-reading]", "Low trough depends");
});

test("counted posts are held against the pipe and taken", async () => {
  const bench = await openBench("ground");
  await bench.tab("Lengths and profiles");
  await bench.choose("Count Fold leg by", "posts");
  const line = "[role=group][aria-label='Fold leg']";
  await bench.fill("Spaces between posts", "22", line);
  await bench.fill("From post to post", "6.5", line);
  await bench.seen(line, "143.0 m ± 2.9 m");
  await bench.press("Use", line);
  await bench.until(() => expect(named(bench.document().lines, "fold-leg").length_m).toBe(143));
});

/** A made-up walk past Beech gate to a new spring, its heights too high by so much. */
const walk = (offM: number, gate: [number, number], spring: [number, number]) =>
  `<gpx version="1.1" creator="made up">${[
    { at: gate, height: 257.8, name: "Beech gate" },
    { at: spring, height: 271.5, name: "Old spring" },
  ]
    .map(
      ({ at: [lat, lon], height, name }) =>
        `<wpt lat="${lat}" lon="${lon}"><ele>${height + offM}</ele><name>${name}</name></wpt>`,
    )
    .join("")}</gpx>`;

/** Degrees of metres east and north of the farm's origin. */
async function degrees() {
  const { site } = await farm();
  if (!site.anchor) throw new Error("the demonstration has no anchor");
  const { latitude_deg: latitude, longitude_deg: longitude } = site.anchor;
  return {
    east: (m: number) => longitude + m / (111_320 * Math.cos((latitude * Math.PI) / 180)),
    north: (m: number) => latitude + m / 111_320,
  };
}

test("a file is shown, taken in and undone in one step", async () => {
  const { east, north } = await degrees();
  const bench = await openBench("ground");
  const { places, sights } = bench.document();
  await bench.tab("Import and export");
  const gpx = walk(48, [north(-172), east(118)], [north(120), east(60)]);
  await bench.give(new File([gpx], "walk.gpx", { type: "application/gpx+xml" }));
  await bench.seen("[data-testid=import-question]", "What are these heights above?");
  expect((await bench.button("Import", "[data-testid=import-preview]")).disabled).toBe(true);
  await bench.choose("Heights are", "differences");
  await bench.seen("[data-testid=import-preview]", "new place Old spring");
  expect(bench.document().places).toBe(places);
  await bench.press("Import", "[data-testid=import-preview]");
  await bench.until(() => expect(bench.document().places).toHaveLength(places.length + 1));
  expect(named(bench.document().places, "old-spring").ground_m).toBeCloseTo(271.5, 0); // the gate takes the 48 m out
  await bench.press("Undo");
  await bench.until(() => expect(bench.document().places).toEqual(places));
  expect(bench.document().sights).toEqual(sights);
  await bench.press("Redo");
  await bench.until(() => expect(bench.document().places).toHaveLength(places.length + 1));
});

test("a track that no pipe follows becomes a pipe to a trough, by its own name", async () => {
  const { east, north } = await degrees();
  const bench = await openBench("ground");
  const { lines = [], outlets = [] } = bench.document();
  await bench.tab("Import and export");
  const points = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1]
    .map((part) => ({ lat: north(-238 - 94 * part), lon: east(282 + 188 * part), ele: 300.6 - 4 * part }))
    .map(({ lat, lon, ele }) => `<trkpt lat="${lat}" lon="${lon}"><ele>${ele}</ele></trkpt>`);
  const gpx = `<gpx version="1.1" creator="made up"><trk><name>Beck line</name><trkseg>${points.join("")}</trkseg></trk></gpx>`;
  await bench.give(new File([gpx], "beck.gpx", { type: "application/gpx+xml" }));
  await bench.choose("Heights are", "differences");
  await bench.choose("Beck line is", "new trough");
  await bench.until(() => {
    const titles = bench.all("[data-testid=import-preview] h2").map(({ textContent }) => textContent);
    expect(titles).toContain("Beck line");
  });
  await bench.seen("[data-testid=import-preview]", "new pipe Beck line");
  await bench.press("Import", "[data-testid=import-preview]");
  await bench.until(() => expect(bench.document().lines).toHaveLength(lines.length + 1));
  const pipe = (bench.document().lines ?? []).find(({ name }) => name === "Beck line");
  expect(pipe).toMatchObject({ points_from: "beck.gpx", to: expect.stringContaining("outlet") as string });
  expect(pipe?.points?.at(-1)?.[0]).toBeCloseTo(Math.hypot(188, 94), -1);
  expect(bench.document().outlets).toHaveLength(outlets.length + 1);
  await bench.press("Undo");
  await bench.until(() => expect(bench.document().lines).toEqual(lines));
});

test("a broken file is refused with the reason and changes nothing", async () => {
  const bench = await openBench("ground");
  const before = bench.document();
  await bench.tab("Import and export");
  for (const [name, text, why] of [
    ["bomb.kml", '<!DOCTYPE x [<!ENTITY a "b">]><kml>&a;</kml>', "without a DTD"],
    ["times.csv", "lat,lon,height\n46.5,-31.2,1764105600\n", "looks like a time"],
    ["far.csv", "lat,lon,height\n12.5,77.2,900\n", "from the plan"],
  ] as const) {
    await bench.give(new File([text], name));
    await bench.seen("[data-testid=import-trouble]", why);
  }
  expect(bench.document()).toBe(before);
});
