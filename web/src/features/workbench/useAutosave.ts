import { useEffect } from "react";

import { editDesign, keptWhileLeaving, Refused, Stale } from "../../api/client";
import { saveOnce } from "../../api/once";
import { usePreferences } from "../../shared/preferences";
import { inTurn } from "../../shared/savingTurn";
import { keepDraft } from "./drafts";
import { useBench, type Bench } from "./store";

/** How long a plan rests before it is saved: a setting of the server, written into the page. */
const QUIET_MS = Number(
  window.document.querySelector<HTMLMetaElement>("meta[name=autosave-ms]")?.content ?? 2000,
);
const AGAIN_MS = 5000;

/** The newest number of each plan that was saved from this page, also of one that is no longer open. */
const newest = new Map<string, number>();

/** Save after two quiet seconds, one save at a time, and at once when the page is left; what fails is tried again. */
export function useAutosave() {
  const document = useBench((bench) => bench.document);
  const state = useBench((bench) => bench.saving.state);
  const trying = useBench((bench) => bench.trial !== null);

  useEffect(() => {
    if (trying || (state !== "waiting" && state !== "failed")) return;
    const timer = setTimeout(() => void inTurn(saveNow), state === "waiting" ? QUIET_MS : AGAIN_MS);
    return () => clearTimeout(timer);
  }, [document, state, trying]);

  useEffect(() => {
    if (state === "saved") return;
    const warn = (event: BeforeUnloadEvent) => {
      const small = document !== null && keptWhileLeaving(document);
      if (!small || (state !== "waiting" && state !== "saving")) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [document, state]);

  useEffect(() => {
    const hidden = () => {
      if (window.document.visibilityState === "hidden") void inTurn(saveNow);
    };
    const gone = () => void inTurn(saveNow);
    window.document.addEventListener("visibilitychange", hidden);
    window.addEventListener("pagehide", gone);
    return () => {
      window.document.removeEventListener("visibilitychange", hidden);
      window.removeEventListener("pagehide", gone);
      const left = useBench.getState();
      void inTurn(() => saveLeft(left)).catch(() => undefined); // what fails is still kept in this tab
    };
  }, []);
}

async function saveNow(): Promise<void> {
  const { designId, baseNumber, document, saving, trial, pending, setSaving, savedAs } = useBench.getState();
  if (trial || pending || !designId || !document || (saving.state !== "waiting" && saving.state !== "failed"))
    return;
  setSaving({ state: "saving" });
  try {
    const number = await save(designId, baseNumber, document);
    if (useBench.getState().designId === designId) savedAs(number, document);
  } catch (error) {
    if (useBench.getState().designId !== designId) return;
    if (useBench.getState().document !== document) setSaving({ state: "waiting" });
    else if (error instanceof Stale) setSaving({ state: "conflict", conflict: error.conflict });
    else if (error instanceof Refused && error.status === 422)
      setSaving({ state: "refused", faults: error.problem.faults ?? [] });
    else setSaving({ state: "failed", why: error instanceof Error ? error.message : "unknown" });
  }
}

/** Save what a plan that is left had unsaved, the edits that the server was still to make among it. */
async function saveLeft({
  designId,
  baseNumber,
  document,
  saving,
  trial,
  pending,
  past,
  future,
}: Bench): Promise<void> {
  if (!designId || !document || (saving.state === "saved" && !pending)) return;
  if (saving.state === "refused" || saving.state === "conflict") return; // the user has to decide
  const whole = pending
    ? (await editDesign(pending.base, pending.edits)).document
    : (trial?.before ?? document);
  const number = await save(designId, Math.max(baseNumber, newest.get(designId) ?? 0), whole);
  await keepDraft(designId, {
    baseNumber: number,
    document: whole,
    past,
    future,
    pending: null,
    saved: true,
  });
}

async function save(designId: string, baseNumber: number, document: Bench["document"]): Promise<number> {
  if (!document) throw new Error("there is no plan to save");
  const number = await saveOnce(designId, baseNumber, document, usePreferences.getState().name);
  newest.set(designId, number);
  return number;
}
