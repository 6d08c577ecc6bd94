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
}

const firsts = new WeakMap<Design, First>();

const after = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** A plan, what this tab kept of it beyond its last save, and, where it comes soon, its analysis. */
export async function openPlan(designId: string): Promise<{ revision: Revision; draft: Draft | null }> {
  await savesDone();
  const began = performance.now();
  const saved = analyseSaved(designId).catch(() => null); // without it the plan is judged as after an edit
  const [revision, draft] = await Promise.all([readDesign(designId), readDraft(designId)]);
  const first: First = { coming: Promise.resolve(null), here: null };
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
export const firstComing = async (document: Design) => (await firsts.get(document)?.coming) ?? null;
