/** Which steps of a walk were done this season, by the log. */
import type { LogEntry } from "../../api/types";

const SEASON_MS = 90 * 86_400_000; // an older tick is of another winter

export function walked(entries: readonly LogEntry[], walk: string, now: number): ReadonlySet<string> {
  const corrected = new Set(entries.map(({ corrects }) => corrects));
  const done = new Set<string>();
  for (const { id, kind, figures, happened_at: when } of entries) {
    const step = figures?.step;
    if (kind !== "step" || typeof step !== "string" || corrected.has(id)) continue;
    if (step.startsWith(`${walk}:`) && now - Date.parse(when) < SEASON_MS)
      done.add(step.slice(walk.length + 1));
  }
  return done;
}
