/** Remedies, pipes and valves tried before they are kept, and what goes into a line. */
import { expect, test } from "vitest";

import { compareValves } from "../../api/client";
import type { Design } from "../../api/types";
import { type Bench, openBench } from "../../testing/bench";
import { expected, farm, figures, named, numberText } from "../../testing/farm";

const TRIAL = "[data-testid=trial]";
const FINDING = "[data-testid=finding-flow-below-wanted]";
const ROWS = "[role=dialog] tbody tr";

const choice = (bench: Bench, name: string) =>
  bench.until(() => {
    const found = bench.all(ROWS).find((row) => bench.told(row).includes(name));
    if (!found) throw new Error(`there is no choice ${name}`);
    return found;
  });

const tried = async (bench: Bench, name: string) => {
  const button = (await choice(bench, name)).querySelector("button");
  if (!button) throw new Error(`${name} cannot be tried`);
  await bench.user.click(button);
};

test("a remedy is tried and put back or kept", async () => {
  const bench = await openBench("lines", { rest: true });
  const before = bench.verdict();
  const plan = bench.document();
  const fix = await bench.button("Fix", FINDING);
  expect(bench.told(fix)).toContain("USD");
  const said = fix.title;
  await bench.user.click(fix);
  await bench.seen(TRIAL, said.split(":")[0] ?? "");
  const [promised = ""] = (said.split("gives ")[1] ?? "").split(" ");
  await bench.click("aside [role=tab]");
  await bench.seen("[aria-label=Details]", promised);
  expect(bench.verdict()).not.toContain("Yes, but: Goose pan valve");
  expect(bench.text("[data-testid=saving]")).toMatch(/^saved/);
  await bench.press("Revert");
  await bench.until(() => expect(bench.verdict()).toBe(before));
  await bench.gone(TRIAL);
  expect(bench.document()).toBe(plan);
  await bench.finding("flow-below-wanted");
  await bench.press("Fix", FINDING);
  await bench.find(TRIAL);
  await bench.press("Keep");
  await bench.gone(TRIAL);
  await bench.until(() => bench.saved());
  expect(named(bench.document().lines, "goose-hose").product).toBe("hose-0.625");
  await bench.user.keyboard("{Control>}z{/Control}");
  await bench.until(() => expect(bench.verdict()).toBe(before));
});

test("pipes are compared before one is taken", async () => {
  const bench = await openBench("lines");
  const plan = bench.document();
  await bench.part("Head main");
  await bench.press("Compare pipes …");
  expect(bench.told(await choice(bench, "50 mm PE100 SDR 13.6"))).toContain("as now");
  const told = bench.told(await choice(bench, "63 mm PE100 SDR 13.6"));
  for (const part of ["622 USD", "250 kPa", "53.6 mm"]) expect(told).toContain(part);
  await tried(bench, "63 mm PE100 SDR 13.6");
  await bench.seen(TRIAL, "Head main in 63 mm PE100 SDR 13.6");
  const larger = await expected(
    (draft) => void (named(draft.lines, "head-main").product = "pe100-sdr13.6-63"),
  );
  await bench.numbered("flow", numberText(larger, "flow"));
  await bench.user.keyboard("{Control>}z{/Control}"); // undo puts back what is tried
  await bench.gone(TRIAL);
  expect(bench.document()).toBe(plan);
});

test("valves are laid side by side at this outlet", async () => {
  const bench = await openBench("lines");
  await bench.part("Low trough valve");
  await bench.press("Compare valves …");
  const { choices } = await compareValves(await farm(), "low-valve", []);
  for (const [id, name] of [
    ["full-flow-0.75", "3/4 in full-flow valve"],
    ["mini-0.375", "Mini valve, 3/8 in stem"],
  ] as const) {
    const found = choices.find(({ product }) => product.product_id === id);
    if (!found) throw new Error(`there is no ${id}`);
    const text = bench.told(await choice(bench, name));
    expect(text).toContain(`${figures(found.flow_lpm, 1)} L/min`);
    expect(text).toContain(`${figures(100 * (found.share ?? 0), 0)} %`);
    expect(text).toContain(`${figures(found.fills_min ?? NaN, 0)} min`);
  }
  expect(bench.text("[role=dialog]")).toContain("Animals die within days without water");
  await tried(bench, "3/4 in full-flow valve");
  await bench.seen(TRIAL, "3/4 in full-flow valve at Low trough valve");
  await bench.press("Keep");
  await bench.until(() =>
    expect(named(bench.document().outlets, "low-valve")).toMatchObject({
      valve: { product: "full-flow-0.75", kv_m3h: 7.4, closes_at_m: 0.48 },
    }),
  );
});

test("fittings and parts are put into a line from the catalogue", async () => {
  const leg = () => named(bench.document().lines, "low-leg");
  const bench = await openBench("lines");
  await bench.part("Low leg");
  const before = bench.text("[data-testid=told]");
  const fittings = leg().fittings?.length ?? 0;
  await bench.choose("Add a part", "spigot-0.5");
  await bench.seen("[aria-label=Details] fieldset:last-of-type", "1/2 in common garden spigot");
  await bench.until(() => expect(bench.text("[data-testid=told]")).not.toBe(before));
  await bench.choose("Add a fitting", "insert-elbow-1");
  await bench.until(() => expect(leg().fittings).toHaveLength(fittings + 1));
  expect(leg().inline).toEqual([{ kind: "tap_point", at_m: 0.5, product: "spigot-0.5", kv_m3h: 1.5 }]);
  expect(leg().fittings?.at(-1)).toEqual({ product: "insert-elbow-1" });
  await bench.click("[aria-label='Delete 1/2 in common garden spigot, hose thread']");
  await bench.until(() => expect(leg().inline).toEqual([]));
});

test("a line deep down is above the rating of its pipe until it is stronger", async () => {
  const deep = (draft: Design) => {
    const point = named(draft.lines, "low-leg").points?.[2];
    if (point) point[1] = 165;
  };
  const bench = await openBench("lines", { rest: true, document: await farm(deep) });
  const card = await bench.finding("class-exceeded");
  await bench.seen(card, "on pipe rated for 1 000");
  await bench.part("Low leg");
  await bench.fill("Pipe temperature", "30");
  await bench.finding("class-exceeded");
  await bench.seen(card, "while it is so warm");
  await bench.seen(card, "Suggested fixes");
  await bench.press("PE100 SDR 11", card);
  await bench.gone(card);
  await bench.press("Keep");
  await bench.until(() => expect(named(bench.document().lines, "low-leg").product).toBe("pe100-sdr11-32"));
});

test("a line declared a siphon says its highest point and what primes it", async () => {
  const withHighPoint = (draft: Design) => {
    const point = named(draft.lines, "head-main").points?.find(([at]) => at === 109);
    if (point) point[1] = 270;
  };
  const bench = await openBench("lines", { document: await farm(withHighPoint) });
  await bench.seen(await bench.finding("dry-outlet"), "only as an airtight, primed siphon");
  await bench.part("Head main");
  await bench.choose("Airtight and primed", "siphon");
  await bench.seen("[data-testid=told]", "Its highest point is");
  const { siphons } = await expected((draft) => {
    withHighPoint(draft);
    named(draft.lines, "head-main").siphon = true;
  });
  const [siphon] = siphons;
  if (!siphon) throw new Error("the core sees no siphon");
  const told = bench.text("[data-testid=told]");
  expect(told).toContain(`${figures(siphon.lift_m, 2)} m over the water it draws`);
  expect(told).toContain(`${figures(siphon.limit_m, 2)} m is the most`);
  expect(told).toContain("never by mouth");
});
