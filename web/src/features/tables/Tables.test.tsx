/** The tables of a plan: sorted, and typed in. */
import { expect, test } from "vitest";

import { openBench } from "../../testing/bench";
import { farm, named } from "../../testing/farm";

test("tables sort and are typed in", async () => {
  const rows = () =>
    bench.all("tbody tr[data-testid^=row-]").map((row) => row.dataset.testid?.replace("row-", ""));
  const leg = () => named(bench.document().lines, "low-leg");
  const bench = await openBench("lines");
  await bench.press("Tables");
  await bench.press("Lines (12)");
  await bench.press("Length");
  const { lines = [] } = await farm();
  const sorted = lines.toSorted((a, b) => (a.length_m ?? 0) - (b.length_m ?? 0)).map(({ id }) => id);
  await bench.until(() => expect(rows()).toEqual(sorted));
  await bench.press("Length");
  expect(bench.told(await bench.find("th[aria-sort=descending]"))).toMatch(/^Length/);
  await bench.fill("Length of Low leg", "2e");
  await bench.user.tab();
  await bench.until(() => expect(bench.document().lines).toEqual(lines));
  await bench.fill("Length of Low leg", "150");
  await bench.user.keyboard("{Enter}");
  await bench.until(() => expect(leg().length_m).toBe(150));
  expect(leg().points?.at(-1)?.[0]).toBe(150);
  for (const kind of ["Outlets", "Vessels", "Places", "Paddocks"]) {
    await bench.press(`${kind} (`);
    await bench.find("tbody tr[data-testid^=row-]");
  }
});
