/** What the plan costs as a whole, as people use it: the price book, the site's own figures, the lease. */
import { expect, test } from "vitest";

import { createDesign } from "../../api/client";
import { openBench } from "../../testing/bench";
import { farm } from "../../testing/farm";

const BOOK = "[aria-label='Price book']";
const HOSE = "[data-testid='price-hose-0\\.5']";

test("a price that was asked for counts, says where it is from, and can be taken out again", async () => {
  const bench = await openBench("parts");
  await bench.press("Costs");
  await bench.seen("[data-testid=cost-parts]", "typical prices are in it");
  const before = bench.text("[data-testid=whole-price]");
  await bench.choose("Add a price of", "hose-0.5", BOOK);
  await bench.seen(HOSE, "1/2 in garden hose");
  await bench.fill("Price of 1/2 in garden hose", "9.5");
  await bench.fill("Shop", "Gate Store", HOSE);
  await bench.until(() => expect(bench.text("[data-testid=whole-price]")).not.toBe(before));
  await bench.until(() =>
    expect(bench.document().prices).toMatchObject([{ product: "hose-0.5", price: 9.5, shop: "Gate Store" }]),
  );
  await bench.press("Shopping list");
  await bench.seen("[data-testid=needed-hose-0\\.5]", "Gate Store, 20");
  await bench.press("Costs");
  await bench.press("Remove", HOSE);
  await bench.until(() => expect(bench.text("[data-testid=whole-price]")).toBe(before));
});

test("what the site pays counts instead of what is typical, and a lease is told by the year", async () => {
  const bench = await openBench("parts");
  await bench.press("Costs");
  await bench.fill("A metre of trench, laid and closed", "2");
  await bench.until(() =>
    expect(bench.text("[data-testid=cost-digging]")).not.toContain("typical prices are in it"),
  );
  await bench.choose("Trenches are dug", "by hand");
  await bench.seen("[data-testid=cost-digging]", "nothing");
  await bench.fill("Years left of the lease", "5");
  await bench.seen("[data-testid=cost-lease]", "5 years");
  await bench.fill("Of its price, what is lifted again is worth [%]", "30");
  await bench.until(() =>
    expect(bench.document().costs).toMatchObject({
      digging: "by hand",
      digging_per_m: 2,
      lease_years: 5,
      kept_share: 0.3,
    }),
  );
});

test("the prices of another plan of the site are taken over", async () => {
  const other = await farm((draft) => {
    draft.name = "With prices";
    draft.prices = [{ product: "hose-0.5", price: 0.2, used: true, shop: "Ford Yard" }];
  });
  await createDesign(other);
  const bench = await openBench("parts");
  await bench.press("Costs");
  await bench.choose("Take over prices of another plan", "With prices", BOOK);
  await bench.seen(HOSE, "1/2 in garden hose");
  await bench.seen("[data-testid=used-instead]", "used");
  await bench.tick("Buy used where that is cheaper");
  await bench.seen("[data-testid=used-instead]", "counted used");
});
