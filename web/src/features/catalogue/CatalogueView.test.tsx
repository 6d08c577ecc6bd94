/** Rows of one's own in the catalogue, typed or from a table, and taken into a plan. */
import { afterEach, expect, test } from "vitest";

import { dropProduct } from "../../api/client";
import { openBench } from "../../testing/bench";
import { named } from "../../testing/farm";

const ROWS = "[aria-label=Catalogue] tbody";

afterEach(async () => {
  await dropProduct("pipe", "own-shop-pipe-50");
  await dropProduct("fitting", "own-t");
});

test("a row of one's own is kept and goes into the plan", async () => {
  const bench = await openBench("parts");
  await bench.press("Catalogue");
  await bench.press("Add own pipe");
  expect(bench.text("form")).toContain("Still needed: name, kind, outside, wall");
  for (const [label, text] of [
    ["Name", "Shop pipe 50"],
    ["Kind", "PE100 by outside diameter"],
    ["Outside", "50"],
    ["Wall", "30"],
    ["Roughness [mm]", "0.007"],
    ["Price per m", "2.2"],
  ] as const)
    await bench.fill(label, text, "form");
  await bench.press("Save");
  await bench.seen("form [role=alert]", "bore of 1 mm");
  await bench.fill("Wall", "3", "form");
  await bench.press("Save");
  await bench.seen(ROWS, "Shop pipe 50");
  const table = "product_id,name,times_ft,k,bore_mm,ends,price\nt,Tight elbow,30,,18,barb 26.64 @18,2.5\n";
  await bench.choose("Table", "fitting");
  await bench.give(new File([table], "more.csv", { type: "text/csv" }));
  await bench.seen("[aria-label=Catalogue]", "1 row added");
  await bench.seen(ROWS, "Tight elbow");
  await bench.open("lines");
  await bench.part("Head main");
  await bench.press("Compare pipes …");
  await bench.seen("[role=dialog] tbody", "Shop pipe 50");
  const row = bench.all("[role=dialog] tbody tr").find((found) => bench.told(found).includes("Shop pipe 50"));
  expect(bench.told(row)).toContain("370 USD");
  const button = row?.querySelector("button");
  if (button) await bench.user.click(button);
  await bench.press("Keep");
  await bench.until(() => bench.saved());
  expect(named(bench.document().lines, "head-main").product).toBe("own-shop-pipe-50");
  expect(bench.document().own_pipes?.map(({ product_id }) => product_id)).toEqual(["own-shop-pipe-50"]);
});
