/** Options: what is required and may be chosen is kept in the plan; another plan is laid beside it. */
import { expect, test } from "vitest";

import { createDesign } from "../../api/client";
import { openBench } from "../../testing/bench";
import { farm, named } from "../../testing/farm";

test("what is required, chosen and left as it is stands in the plan", async () => {
  const bench = await openBench("options");
  const pond = "[role=group][aria-label='Pond valve']";
  await bench.choose("When", "alone", pond);
  await bench.until(() =>
    expect(named(bench.document().requirements, "pond-valve", "outlet").alone).toBe(true),
  );
  await bench.tick("surely", pond);
  await bench.until(() =>
    expect(named(bench.document().requirements, "pond-valve", "outlet").surely).toBe(true),
  );
  await bench.tick("What is laid costs nothing: the cheapest change");
  await bench.tick("Filters, air vents and reducers too");
  await bench.until(() => expect(bench.document().sizing).toMatchObject({ laid: true, parts: true }));
  await bench.tick("Float valves too");
  await bench.until(() => expect(bench.document().sizing?.valves).toBe(true));
  await bench.choose("A tank that may stand higher", "chambers");
  await bench.until(() => expect(bench.document().sizing?.stands).toHaveLength(1));
  await bench.seen("[aria-label='May be chosen']", "weighs over a tonne");
  await bench.press("Remove", "[aria-label='Stand of West chamber']");
  await bench.until(() => expect(bench.document().sizing?.stands).toEqual([]));
});

test("another plan is laid beside this one, only with what differs", async () => {
  const other = await farm((draft) => {
    draft.name = "Wider to the geese";
    named(draft.lines, "goose-hose").product = "hose-0.75";
  });
  await createDesign(other);
  const bench = await openBench("options");
  await bench.choose("Lay beside this plan", "Wider to the geese");
  await bench.seen("[data-testid=compared]", "Goose pan valve, all open");
  expect(bench.text("[data-testid=compared]")).not.toContain("Hop drip, all open");
  await bench.seen("[data-testid=compared]", "Wider to the geese");
});

test("what may stand elsewhere, and where, is chosen; a tank within some metres", async () => {
  const bench = await openBench("options");
  await bench.press("Where it stands");
  const where = "[aria-label='Where it could stand']";
  await bench.choose("What", "low-valve", where);
  await bench.seen(where, "in Low field");
  expect((await bench.field("Where", where)).textContent).toContain("along Low leg");
  await bench.choose("What", "chambers", where);
  await bench.fill("Within", "25", where);
  await bench.tick("also for who lacks water now", where);
  expect(bench.text(where)).not.toContain("in Low field");
});
