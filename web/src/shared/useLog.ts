import { useQuery } from "@tanstack/react-query";

import { readLog } from "../api/field";
import type { LogEntry } from "../api/types";
import { useQueue } from "./logQueue";

export interface Logged {
  entries: LogEntry[];
  /** ids of those that wait on this device */
  waiting: ReadonlySet<string>;
  /** whether what the server has could be read */
  reached: boolean;
}

/** The log of a plan, newest first: what the server has, and what waits on this device. */
export function useLog(designId: string): Logged {
  const taken = useQueue((queue) => queue.taken);
  const queued = useQueue((queue) => queue.waiting).filter((one) => one.designId === designId);
  const read = useQuery({
    queryKey: ["log", designId, taken],
    queryFn: ({ signal }) => readLog(designId, null, signal),
    networkMode: "always",
    retry: false,
    placeholderData: (before) => before,
  });
  const known = read.data?.entries ?? [];
  const there = new Set(known.map((entry) => entry.id));
  const own = queued.map((one) => one.entry).filter((entry) => !there.has(entry.id));
  const entries = [...own, ...known].sort((a, b) => b.happened_at.localeCompare(a.happened_at));
  return {
    entries,
    waiting: new Set(queued.map((one) => one.id)),
    reached: read.error === null,
  };
}
