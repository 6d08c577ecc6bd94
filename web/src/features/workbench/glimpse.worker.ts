/**
 * Asks what is seen in passing, one question at a time, always the newest next. It runs beside the page, so that no
 * question and no answer has to wait while the page draws; and it tells the server only what changed.
 */
import { glimpse, glimpseAgain } from "../../api/client";
import type { Design, Glimpse } from "../../api/types";
import { changeBetween, changed, type Change } from "../../shared/change";

/** What changed in the document since the last one of these, and the outlet whose way is shown. */
export interface Passing {
  change: Change;
  outlet: string | null;
}

export type Seen = Glimpse;

/** A name that nobody else holds a document under; `crypto.randomUUID` is not there without TLS. */
function freshName(): string {
  const bytes = [...crypto.getRandomValues(new Uint8Array(16))];
  const hex = bytes.map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
}

const name = freshName();
let newest: Design | null = null;
let outlet: string | null = null;
let asking = false;
/** what the server holds, and the number of its last change */
let held: Design | null = null;
let step = 0;

async function seen(document: Design): Promise<Seen> {
  if (held) {
    const found = await glimpseAgain(name, step + 1, changeBetween(held, document), outlet);
    if (found) {
      step += 1;
      held = document;
      return found;
    }
  }
  const found = await glimpse(name, document, outlet);
  step = 0;
  held = document;
  return found;
}

async function look() {
  if (asking) return;
  asking = true;
  let asked: Design | null = null;
  while (newest && newest !== asked) {
    asked = newest;
    try {
      postMessage(await seen(asked));
    } catch {
      // the whole answer that follows says what is wrong
    }
  }
  asking = false;
}

addEventListener("message", ({ data }: MessageEvent<Passing>) => {
  newest = changed(newest, data.change);
  outlet = data.outlet;
  void look();
});
