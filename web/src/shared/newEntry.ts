import type { LogEntry } from "../api/types";

type Told = Pick<LogEntry, "kind"> & Partial<LogEntry>;

/** A new entry of the log, of now, with an id of its own. */
export const newEntry = (told: Told, who: string): LogEntry => ({
  id: crypto.randomUUID(),
  happened_at: new Date().toISOString(),
  part: null,
  part_name: null,
  who,
  said: "",
  figures: {},
  corrects: null,
  ...told,
});
