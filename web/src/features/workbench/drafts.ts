/** What a tab has of a plan beyond what the server holds: edits that are not saved yet, and the steps of undo. */
import { v4 } from "uuid";
import { del, delMany, entries, get, getMany, keys, set } from "idb-keyval";

import type { Design, DesignEdit } from "../../api/types";

export interface Draft {
  baseNumber: number;
  document: Design;
  past: Design[];
  future: Design[];
  /** edits that the server has not made yet, and in what */
  pending: { base: Design; edits: DesignEdit[]; key: string; merged: boolean } | null;
  /** the document is that of the revision `baseNumber` */
  saved: boolean;
  /** when it was kept, in milliseconds since 1970 */
  at: number;
}

const STEPS = 60;
const KEPT_MS = 14 * 24 * 3600 * 1000;
const TAB = "leadsman.tab";

/** This tab, also after a reload: two tabs with one plan never take each other's edits. */
function tab(): string {
  const known = sessionStorage.getItem(TAB);
  const own = known ?? v4();
  if (known === null) sessionStorage.setItem(TAB, own);
  return own;
}

const keyOf = (designId: string) => `draft ${tab()} ${designId}`;

/** Tabs ask each other here whether they are still open: `{ask: tab}`, answered by `{open: tab}`. */
const tabs = new BroadcastChannel("leadsman.tabs");
tabs.addEventListener("message", ({ data }: MessageEvent<{ ask?: string }>) => {
  if (data.ask === tab()) tabs.postMessage({ open: data.ask });
});
const ANSWER_MS = 400;

function isOpen(other: string): Promise<boolean> {
  return new Promise((resolve) => {
    const heard = ({ data }: MessageEvent<{ open?: string }>) => {
      if (data.open === other) tell(true);
    };
    const tell = (open: boolean) => {
      tabs.removeEventListener("message", heard);
      clearTimeout(late);
      resolve(open);
    };
    const late = setTimeout(() => tell(false), ANSWER_MS);
    tabs.addEventListener("message", heard);
    tabs.postMessage({ ask: other });
  });
}

/** Take over the newest edits of a plan that a tab which is closed by now could not save; null where there are none. */
async function takeLeft(designId: string): Promise<Draft | null> {
  const others = (await keys<string>()).filter(
    (key) => key.startsWith("draft ") && key.endsWith(` ${designId}`) && key !== keyOf(designId),
  );
  const left = (await getMany<Draft>(others))
    .flatMap((draft, index) => (draft && !draft.saved ? [{ key: others[index] ?? "", draft }] : []))
    .sort((a, b) => b.draft.at - a.draft.at);
  for (const { key, draft } of left) {
    const [, other = ""] = key.split(" ");
    if (await isOpen(other)) continue;
    await set(keyOf(designId), draft);
    await del(key);
    return draft;
  }
  return null;
}

/** What this tab kept of a plan, or a closed one could not save; null where the browser keeps nothing of it. */
export async function readDraft(designId: string): Promise<Draft | null> {
  try {
    const own = await get<Draft>(keyOf(designId));
    return own && !own.saved ? own : ((await takeLeft(designId)) ?? own ?? null);
  } catch {
    return null;
  }
}

/** Keep what is known of a plan; without effect where the browser keeps nothing. */
export async function keepDraft(designId: string, draft: Omit<Draft, "at">): Promise<void> {
  const { past, future } = draft;
  try {
    await set(keyOf(designId), {
      ...draft,
      past: past.slice(-STEPS),
      future: future.slice(0, STEPS),
      at: Date.now(),
    });
  } catch {
    // in a private window nothing is kept: then only the server holds it
  }
}

/** Forget what tabs that were closed long ago have left behind. */
export async function dropOldDrafts(): Promise<void> {
  try {
    const old = (await entries<string, Draft>()).filter(
      ([key, draft]) => key.startsWith("draft ") && Date.now() - draft.at > KEPT_MS,
    );
    await delMany(old.map(([key]) => key));
  } catch {
    // nothing is kept here
  }
}
