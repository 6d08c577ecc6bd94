/**
 * Answers that are kept on the device, so that what was looked at before is there without a connection: the plan, its
 * analysis, the sheets and steps of the field. Each by its address and what was asked; only where no answer comes is a
 * kept one given, and the page says of when it is.
 */
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { v5 as hashed } from "uuid";
import { create } from "zustand";

interface Kept extends DBSchema {
  answers: {
    key: string;
    value: { key: string; at: number; body: string };
    indexes: { at: number };
  };
}

const MOST = 300;
const PRUNED_EVERY = 50;
const NAMESPACE = "6f1f4d52-7f0b-5a0e-9a55-3a1d5d0c6e0b"; // ours, for hashes of what was asked
const KEPT_GET = /^\/api\/(designs|catalogue|designs\/[^/]+(\/(analysis|log|looks|reach|revisions))?)$/;
const KEPT_POST =
  /^\/api\/(analyses(\/(rest|first-water|parts(\/(settings|laying))?))?|designs\/[^/]+\/(upkeep|calibration|trouble|ledger))$/;

/** Since when no answer comes from the server [ms]: what is shown is kept from before; null while it answers. */
export const useUnreached = create<{ since: number | null }>()(() => ({ since: null }));

let opened: Promise<IDBPDatabase<Kept>> | null = null;
let written = 0;

const store = () =>
  (opened ??= openDB<Kept>("leadsman-kept", 1, {
    upgrade: (database) => {
      database.createObjectStore("answers", { keyPath: "key" }).createIndex("at", "at");
    },
  }));

/** A page that is left may stay in the browser's memory: it must hold up no other page's store. */
if (typeof window !== "undefined")
  window.addEventListener("pagehide", () => {
    void opened?.then((database) => database.close()).catch(() => undefined);
    opened = null;
  });

/** Whether the answer to a request is kept at all. */
export function isKept(request: Request): boolean {
  const { pathname } = new URL(request.url);
  return (
    (request.method === "GET" ? KEPT_GET : KEPT_POST).test(pathname) &&
    ["GET", "POST"].includes(request.method)
  );
}

/** What an answer is kept under. Asked before the request is sent, which uses up its body. */
export async function keyOf(request: Request): Promise<string> {
  const { pathname, search } = new URL(request.url);
  if (request.method === "GET") return `GET ${pathname}${search}`;
  return `POST ${pathname} ${hashed(await request.clone().text(), NAMESPACE)}`;
}

/** Keep an answer; a device that keeps nothing, or is full, goes on without. */
export async function keep(key: string, body: string): Promise<void> {
  try {
    const database = await store();
    await database.put("answers", { key, at: Date.now(), body });
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
export async function keptAnswer(key: string): Promise<Response | null> {
  try {
    const kept = await (await store()).get("answers", key);
    return kept
      ? new Response(kept.body, { status: 200, headers: { "content-type": "application/json" } })
      : null;
  } catch {
    return null;
  }
}
