/**
 * Asks what is seen in passing, one question at a time, always the newest next. It runs beside the page, so that no
 * question and no answer has to wait while the page draws.
 */
import { glimpse } from "../../api/client";
import type { Design, Glimpse } from "../../api/types";
import { changed, type Change } from "../../shared/change";

/** What changed in the document since the last one of these, and the outlet whose way is shown. */
export interface Passing {
  change: Change;
  outlet: string | null;
}

export type Seen = Glimpse;

let newest: Design | null = null;
let asked: Design | null = null;
let outlet: string | null = null;
let asking = false;

async function look() {
  if (asking) return;
  asking = true;
  while (newest && newest !== asked) {
    asked = newest;
    try {
      postMessage((await glimpse(asked, outlet)) satisfies Seen);
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
