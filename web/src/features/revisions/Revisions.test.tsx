/** Revisions: who saved what, what differs, and the way back. */
import { expect, test } from "vitest";

import { listRevisions } from "../../api/client";
import { openBench } from "../../testing/bench";
import { farm, named } from "../../testing/farm";

test("revisions tell who and what and come back", async () => {
  const heads = async () => (await listRevisions(bench.designId)).map(({ number }) => number);
  const bench = await openBench("lines");
  const change = async (part: string, label: string, text: string) => {
    await bench.part(part);
    await bench.fill(label, text);
    await bench.user.tab();
    await bench.until(() => bench.saved());
  };
  await bench.press("History");
  await bench.fill("Your name, saved with your changes", "Ash of the ridge");
  await bench.press("Close");
  await change("West chamber", "Water level now", "0.9");
  const second = Math.max(...(await heads()));
  await change("Low leg", "Burial depth", "0.5");
  await bench.press("History");
  await bench.seen("[role=dialog]", "Ash of the ridge");
  await bench.fill(`Name of revision ${second}`, "before the cover");
  await bench.user.keyboard("{Enter}");
  await bench.until(async () => {
    const called = named(await listRevisions(bench.designId), second, "number");
    expect(called.label).toBe("before the cover");
  });
  const looks = bench.all("[role=dialog] button").filter((button) => bench.told(button) === "Compare");
  const first = looks.at(-1);
  if (first) await bench.user.click(first);
  await bench.seen("[role=dialog] table", "West chamber, level");
  await bench.press("Restore revision 1");
  const demo = await farm();
  await bench.until(() => expect(bench.document()).toEqual(demo));
  await bench.press("Undo");
  await bench.until(() => expect(named(bench.document().vessels, "chambers").level_m).toBe(0.9));
});
