/** How first water stands by the log; what a pail says. */
import { expect, test } from "vitest";

import type { FieldStep, LogEntry } from "../../api/types";
import { clockText, ended, firstOpen, flowsOf, sourceOpenedAt } from "./firstWater";

const entry = (
  figures: Record<string, string | number>,
  kind: LogEntry["kind"] = "step",
  said = "",
): LogEntry => ({
  id: crypto.randomUUID(),
  kind,
  happened_at: "2026-05-02T06:40:00Z",
  part: null,
  part_name: null,
  who: "",
  said,
  figures,
  corrects: null,
});
const step = (id: string): FieldStep => ({
  id,
  kind: "open",
  told: [],
  seen: [],
  part: null,
  soonest_s: null,
  latest_s: null,
  flow_lpm: null,
  shut_kpa: null,
});

test("the newest end of a step counts, and the first without one is in hand", () => {
  const entries = [
    entry({ step: "fill", ended: "done" }),
    entry({ step: "open", ended: "skipped" }, "step", "the vent is rusted"),
    entry({ step: "open", ended: "done" }),
    entry({ step: "never", ended: "maybe" }),
    entry({ step: "shut", ended: "done" }, "note"),
  ];
  const ends = ended(entries);
  expect([...ends]).toEqual([
    ["fill", { how: "done", why: "" }],
    ["open", { how: "skipped", why: "the vent is rusted" }],
  ]);
  expect(firstOpen(["open", "fill", "shut"].map(step), ends)?.id).toBe("shut");
  expect(firstOpen(["open", "fill"].map(step), ends)).toBeNull();
  expect(sourceOpenedAt(entries)).toBe(Date.parse("2026-05-02T06:40:00Z"));
  expect(sourceOpenedAt(entries.slice(1))).toBeNull();
});

test.each([
  [[30, 31], 39.35, false],
  [[30, 34], 37.65, true], // 40 and 35.3 L/min: more than a tenth of their mean apart
  [[30], 40, false],
])("a pail of 20 L in %j s gives %f L/min", (seconds, mean, apart) => {
  const told = flowsOf(seconds.map((one) => entry({ volume_l: 20, seconds: one }, "timing")));
  expect(told.mean).toBeCloseTo(mean, 1);
  expect(told.apart).toBe(apart);
});

test("a timing that says nothing is left out", () => {
  expect(flowsOf([entry({ volume_l: 20, seconds: 0 }, "timing"), entry({}, "timing")]).mean).toBeNull();
});

test.each([
  [0, "0:00"],
  [59.6, "1:00"],
  [252, "4:12"],
  [-3, "0:00"],
])("%f s is %s on the clock", (seconds, text) => {
  expect(clockText(seconds)).toBe(text);
});
