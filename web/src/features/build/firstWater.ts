/** How first water stands, by the log: which steps have ended and how, when the source was opened. */
import type { FieldStep, LogEntry } from "../../api/types";

export interface StepEnd {
  how: "done" | "skipped" | "failed";
  why: string;
}

const HOWS = ["done", "skipped", "failed"] as const;

/** How each step ended, by its newest entry; entries come newest first. */
export function ended(entries: readonly LogEntry[]): Map<string, StepEnd> {
  const found = new Map<string, StepEnd>();
  for (const entry of entries) {
    const step = entry.figures?.step;
    const how = HOWS.find((one) => one === entry.figures?.ended);
    if (entry.kind === "step" && typeof step === "string" && how && !found.has(step))
      found.set(step, { how, why: entry.said ?? "" });
  }
  return found;
}

/** The first step that has no end yet; null where all have one. */
export const firstOpen = (
  steps: readonly FieldStep[],
  ends: ReadonlyMap<string, StepEnd>,
): FieldStep | null => steps.find(({ id }) => !ends.has(id)) ?? null;

/** When the source was opened [ms since 1970]: the newest end of that step; null where it is not open yet. */
export function sourceOpenedAt(entries: readonly LogEntry[]): number | null {
  const opened = entries.find(
    (entry) => entry.kind === "step" && entry.figures?.step === "fill" && entry.figures.ended === "done",
  );
  return opened ? Date.parse(opened.happened_at) : null;
}

/** What a pail says: its flows [L/min], their mean, and whether two differ by more than a tenth. */
export function flowsOf(timings: readonly LogEntry[]): {
  flows: number[];
  mean: number | null;
  apart: boolean;
} {
  const flows = timings.flatMap(({ figures }) => {
    const { volume_l: litres, seconds } = figures ?? {};
    return typeof litres === "number" && typeof seconds === "number" && seconds > 0
      ? [(60 * litres) / seconds]
      : [];
  });
  if (!flows.length) return { flows, mean: null, apart: false };
  const mean = flows.reduce((sum, one) => sum + one, 0) / flows.length;
  return { flows, mean, apart: Math.max(...flows) - Math.min(...flows) > 0.1 * mean };
}

/** Minutes and seconds as a clock shows them. */
export function clockText(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** Where a failed step is looked into, with what that mostly looks like. */
export function troubleOf(designId: string, step: FieldStep): string {
  const symptom = {
    arrives: "nothing",
    pail: "slow",
    gauge: "low",
    float: "overflow",
    joints: "wet",
    night: "wet",
  }[step.kind as string];
  const asked = new URLSearchParams({ page: "trouble" });
  if (step.part) asked.set("part", step.part);
  if (symptom && step.part) asked.set("symptom", symptom);
  return `/designs/${designId}/log?${asked.toString()}`;
}
