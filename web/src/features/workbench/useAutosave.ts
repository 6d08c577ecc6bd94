import { useEffect } from "react";

import { Refused, saveDesign, Stale } from "../../api/client";
import { usePreferences } from "../../shared/preferences";
import { useBench } from "./store";

/** How long a plan rests before it is saved: a setting of the server, written into the page. */
const QUIET_MS = Number(
  window.document.querySelector<HTMLMetaElement>("meta[name=autosave-ms]")?.content ?? 2000,
);
const AGAIN_MS = 5000;

/** Save after two quiet seconds, one save at a time; what fails stays here and is tried again. */
export function useAutosave() {
  const document = useBench((bench) => bench.document);
  const state = useBench((bench) => bench.saving.state);
  const trying = useBench((bench) => bench.trial !== null);

  useEffect(() => {
    if (trying || (state !== "waiting" && state !== "failed")) return;
    const timer = setTimeout(saveInTurn, state === "waiting" ? QUIET_MS : AGAIN_MS);
    return () => clearTimeout(timer);
  }, [document, state, trying]);

  useEffect(() => {
    if (state === "saved") return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [state]);
}

let turn: Promise<void> = Promise.resolve();

/** A save that is still on its way goes first, so that the next one builds on its number. */
function saveInTurn() {
  turn = turn.then(saveNow);
}

async function saveNow() {
  const { designId, baseNumber, document, saving, trial, pending, setSaving, savedAs } = useBench.getState();
  if (trial || pending || !designId || !document || (saving.state !== "waiting" && saving.state !== "failed"))
    return;
  setSaving({ state: "saving" });
  try {
    const { number } = await saveDesign(designId, baseNumber, document, usePreferences.getState().name);
    savedAs(number, document);
  } catch (error) {
    if (useBench.getState().document !== document) setSaving({ state: "waiting" });
    else if (error instanceof Stale) setSaving({ state: "conflict", conflict: error.conflict });
    else if (error instanceof Refused && error.status === 422)
      setSaving({ state: "refused", faults: error.problem.faults ?? [] });
    else setSaving({ state: "failed", why: error instanceof Error ? error.message : "unknown" });
  }
}
