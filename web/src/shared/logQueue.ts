/**
 * Entries of the log that wait on this device until the server has them.
 *
 * An entry has its own id and time from the start, and is taken off here only when the server says that it is kept: so
 * a lost answer, a closed page or a phone that dies costs nothing, and sending twice does no harm. What the server
 * refuses stays here, with its reason.
 */
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { create } from "zustand";

import { Refused } from "../api/client";
import { putPhoto, sendLog } from "../api/field";
import type { LogEntry } from "../api/types";

export interface Waiting {
  id: string;
  designId: string;
  entry: LogEntry;
  /** why the server does not take it; null while it waits */
  refused: string | null;
  /** the photo of an entry of one: it follows its entry */
  photo?: Photo;
}

export interface Photo {
  file: Blob;
  /** whether the place where it was taken is kept beside it */
  keepPlace: boolean;
}

interface Field extends DBSchema {
  entries: { key: string; value: Waiting; indexes: { designId: string } };
}

interface Queue {
  waiting: Waiting[];
  /** why nothing can be kept on this device; null where all is well */
  trouble: string | null;
  /** counts what the server has taken: what it knows is read anew */
  taken: number;
}

const FINAL = [404, 413, 422]; // what the server will never take
const AT_ONCE = 200;
const AGAIN_MS = 20_000;

export const useQueue = create<Queue>()(() => ({ waiting: [], trouble: null, taken: 0 }));

let opened: Promise<IDBPDatabase<Field>> | null = null;
let sending: Promise<void> | null = null;
let again = false; // whether something was noted while the last of it was on its way

const field = () =>
  (opened ??= openDB<Field>("leadsman-field", 1, {
    upgrade: (database) => {
      database.createObjectStore("entries", { keyPath: "id" }).createIndex("designId", "designId");
    },
  }));

async function show(): Promise<void> {
  useQueue.setState({ waiting: await (await field()).getAll("entries") });
}

/** Keep an entry on this device, and send it as soon as there is a connection. */
export async function note(designId: string, entry: LogEntry, photo?: Photo): Promise<void> {
  try {
    await (
      await field()
    ).put("entries", {
      id: entry.id,
      designId,
      entry,
      refused: null,
      ...(photo && { photo }),
    });
    useQueue.setState({ trouble: null });
  } catch (error) {
    const full = error instanceof DOMException && error.name === "QuotaExceededError";
    useQueue.setState({
      trouble: full
        ? "The storage of this device is full: the entry was not kept. Send what waits, or make room, then note it again."
        : "This device keeps nothing for the page: the entry was not kept. Is it a private window?",
    });
    throw error;
  }
  await show();
  void send();
}

/** Take an entry that the server refuses off this device. */
export async function drop(id: string): Promise<void> {
  await (await field()).delete("entries", id);
  await show();
}

/** Send what waits; one sending at a time, and once more where something was noted meanwhile. */
export function send(): Promise<void> {
  if (sending) again = true;
  sending ??= sendAll()
    .catch(() => undefined) // there is no connection: it waits
    .finally(() => {
      sending = null;
      const more = again;
      again = false;
      if (more) void send();
    });
  return sending;
}

async function sendAll(): Promise<void> {
  await show();
  const waiting = useQueue.getState().waiting.filter((one) => one.refused === null);
  for (const designId of new Set(waiting.map((one) => one.designId))) {
    const own = waiting.filter((one) => one.designId === designId).slice(0, AT_ONCE);
    await sendOf(designId, own);
  }
  await show();
}

async function sendOf(designId: string, own: Waiting[]): Promise<void> {
  const database = await field();
  try {
    const told = await sendLog(
      designId,
      own.map((one) => one.entry),
    );
    const kept = new Set(told.kept);
    for (const one of own) if (kept.has(one.id) && !one.photo) await database.delete("entries", one.id);
    for (const { index, faults } of told.refused) {
      const one = own[index];
      if (one)
        await database.put("entries", { ...one, refused: faults.map((fault) => fault.message).join("; ") });
    }
    if (told.kept.length) useQueue.setState((queue) => ({ taken: queue.taken + told.kept.length }));
    for (const one of own) if (kept.has(one.id) && one.photo) await sendPhoto(database, one, one.photo);
  } catch (error) {
    if (!(error instanceof Refused) || !FINAL.includes(error.status)) throw error; // it waits
    const reason = error.problem.message; // the plan is gone, say: kept here, and told
    for (const one of own) await database.put("entries", { ...one, refused: reason });
  }
}

async function sendPhoto(
  database: IDBPDatabase<Field>,
  one: Waiting,
  { file, keepPlace }: Photo,
): Promise<void> {
  try {
    await putPhoto(one.designId, one.id, file, keepPlace);
    await database.delete("entries", one.id);
    useQueue.setState((queue) => ({ taken: queue.taken + 1 }));
  } catch (error) {
    if (!(error instanceof Refused) || !FINAL.includes(error.status)) throw error; // it waits
    const [fault] = error.problem.faults ?? [];
    await database.put("entries", { ...one, refused: fault?.message ?? error.problem.message });
  }
}

/** Send when a connection comes back, when the page is looked at again, and now and then. */
export function keepSending(): () => void {
  const now = () => void send();
  const seen = () => {
    if (document.visibilityState === "visible") now();
  };
  window.addEventListener("online", now);
  document.addEventListener("visibilitychange", seen);
  const timer = setInterval(now, AGAIN_MS);
  now();
  return () => {
    window.removeEventListener("online", now);
    document.removeEventListener("visibilitychange", seen);
    clearInterval(timer);
  };
}
