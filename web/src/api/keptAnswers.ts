/**
 * Answers that are kept on the device, so that what was looked at before is there without a connection: the plan, its
 * analysis, the sheets and steps of the field. Each by its address and what was asked; only where no answer comes is a
 * kept one given, and the page says since when.
 */
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { v5 as hashed } from "uuid";

interface Kept extends DBSchema {
  answers: { key: string; value: { key: string; at: number; body: string }; indexes: { at: number } };
}

/** A request that was made: its address, and what it said. */
export interface Asked {
  url: string;
  said: string;
}

const MOST = 300;
const PRUNED_EVERY = 50;
const NAMESPACE = "6f1f4d52-7f0b-5a0e-9a55-3a1d5d0c6e0b"; // ours, for hashes of what was asked

let opened: Promise<IDBPDatabase<Kept>> | null = null;
let written = 0;

const store = () =>
  (opened ??= openDB<Kept>("leadsman-kept", 1, {
    upgrade: (database) => {
      database.createObjectStore("answers", { keyPath: "key" }).createIndex("at", "at");
    },
  }));

/** A page that is left may stay in the browser's memory: it must hold up no other page's store. */
window.addEventListener("pagehide", () => {
  void opened?.then((database) => database.close()).catch(() => undefined);
  opened = null;
});

function keyOf({ url, said }: Asked): string {
  const { pathname, search } = new URL(url);
  return said ? `POST ${pathname} ${hashed(said, NAMESPACE)}` : `GET ${pathname}${search}`;
}

/** Keep an answer; a device that keeps nothing, or is full, goes on without. */
export async function keep(asked: Asked, body: string): Promise<void> {
  try {
    const database = await store();
    await database.put("answers", { key: keyOf(asked), at: Date.now(), body });
    written += 1;
    if (written % PRUNED_EVERY === 0) await prune(database);
  } catch {
    return;
  }
}

async function prune(database: IDBPDatabase<Kept>): Promise<void> {
  const keys = await database.getAllKeysFromIndex("answers", "at");
  for (const key of keys.slice(0, Math.max(0, keys.length - MOST))) await database.delete("answers", key);
}

/** The answer that came last time; null where none did. */
export async function keptAnswer(asked: Asked): Promise<Response | null> {
  try {
    const kept = await (await store()).get("answers", keyOf(asked));
    return kept
      ? new Response(kept.body, { status: 200, headers: { "content-type": "application/json" } })
      : null;
  } catch {
    return null;
  }
}
