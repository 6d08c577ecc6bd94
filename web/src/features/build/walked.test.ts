import { expect, test } from "vitest";

import type { LogEntry } from "../../api/types";
import { walked } from "./walked";

const NOW = Date.parse("2031-12-01T08:00:00Z");
const entry = (id: string, step: string, when: string, corrects: string | null = null): LogEntry => ({
  id,
  kind: "step",
  happened_at: when,
  figures: { step, ended: "done" },
  corrects,
});

test("a tick counts for its own walk, this winter, until it is corrected", () => {
  const entries = [
    entry("a", "drain:source-main", "2031-11-20T08:00:00Z"),
    entry("b", "spring:source-main", "2031-11-20T08:00:00Z"),
    entry("c", "drain:end-x", "2030-11-20T08:00:00Z"),
    entry("d", "drain:leave", "2031-11-21T08:00:00Z"),
    entry("e", "drain-1", "2031-11-21T08:00:00Z"),
    { ...entry("f", "", "2031-11-22T08:00:00Z", "d"), kind: "note" as const, figures: {} },
  ];
  expect([...walked(entries, "drain", NOW)]).toEqual(["source-main"]);
  expect([...walked(entries, "spring", NOW)]).toEqual(["source-main"]);
});
