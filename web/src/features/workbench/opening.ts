/** Opening a plan: its first analysis is asked for together with the plan, not after it. */
import { analyseSaved, readDesign } from "../../api/client";
import type { Analysis, Design, Revision } from "../../api/types";
import { savesDone } from "../../shared/savingTurn";
import { readDraft, type Draft } from "./drafts";

/** How long a plan waits for its analysis before it is drawn without: drawing twice takes longer. */
const HEAD_START_MS = 400;

export interface FirstAnalysis {
  analysis: Analysis;
  tookMs: number;
}

interface First {
  coming: Promise<FirstAnalysis | null>;
  here: FirstAnalysis | null;
  stop: () => void;
}

const firsts = new WeakMap<Design, First>();

const after = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** A plan, what this tab kept of it beyond its last save, and, where it comes soon, its analysis. */
export async function openPlan(
  designId: string,
  signal: AbortSignal,
): Promise<{ revision: Revision; draft: Draft | null }> {
  await savesDone();
  const began = performance.now();
  const asking = new AbortController();
  const stop = () => asking.abort();
  signal.addEventListener("abort", stop);
  const saved = analyseSaved(designId, asking.signal).catch(() => null); // without it the plan is judged as after an edit
  const [revision, draft] = await Promise.all([readDesign(designId), readDraft(designId)]);
  const first: First = { coming: Promise.resolve(null), here: null, stop };
  first.coming = saved.then((answer) =>
    answer?.number === revision.number
      ? (first.here = { analysis: answer.analysis, tookMs: performance.now() - began })
      : null,
  );
  firsts.set(revision.document, first);
  if (draft?.saved && draft.baseNumber === revision.number) firsts.set(draft.document, first); // the same, opened before
  await Promise.race([first.coming, after(HEAD_START_MS)]);
  return { revision, draft };
}

/** The analysis of a plan that was just opened, where it is here. */
export const firstHere = (document: Design) => firsts.get(document)?.here ?? null;

/** The same where it is still on its way; null where it does not come, or the document was not just opened. */
export async function firstComing(document: Design, signal: AbortSignal): Promise<FirstAnalysis | null> {
  const first = firsts.get(document);
  if (!first) return null;
  signal.addEventListener("abort", first.stop); // the server stops too
  return first.coming;
}
