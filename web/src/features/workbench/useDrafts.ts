import { useEffect } from "react";

import { dropOldDrafts, keepDraft } from "./drafts";
import { useBench, type Bench } from "./store";

const QUIET_MS = 150;

/** Keep in the browser what the server does not hold yet, and the steps of undo: a reload finds them again. */
export function useDrafts() {
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    const keep = () => {
      if (timer !== null) clearTimeout(timer);
      timer = null;
      void keepNow(useBench.getState());
    };
    const stop = useBench.subscribe((now, before) => {
      const changed = (["document", "past", "future", "pending", "saving", "trial"] as const).some(
        (key) => now[key] !== before[key],
      );
      if (changed && timer === null) timer = setTimeout(keep, QUIET_MS);
    });
    window.addEventListener("pagehide", keep);
    void dropOldDrafts();
    return () => {
      stop();
      window.removeEventListener("pagehide", keep);
      if (timer !== null) keep();
    };
  }, []);
}

async function keepNow({ designId, baseNumber, document, past, future, pending, trial, saving }: Bench) {
  if (!designId || !document) return;
  await keepDraft(designId, {
    baseNumber,
    document: trial?.before ?? document, // what is only tried is not kept
    past,
    future,
    pending: pending && {
      base: pending.base,
      edits: pending.edits,
      key: pending.key,
      merged: pending.merged,
    },
    saved: saving.state === "saved" && !pending,
  });
}
