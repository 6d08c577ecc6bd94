/** What is sent again because its answer was lost: as it was and under its own id, so that the server keeps it once. */
import { v4 } from "uuid";

import { createDesign, Refused, saveDesign, Unreachable, type Save } from "./client";

/** Saves whose answer was lost, by plan. */
const lostSaves = new Map<string, Save>();

/** Whether the server may have done what was asked, though no answer says so. */
const isLost = (error: unknown) =>
  error instanceof Unreachable || (error instanceof Refused && error.status >= 500);

/** Save a plan, after an earlier save of it whose answer was lost; returns the number of its revision. */
export async function saveOnce(
  designId: string,
  baseNumber: number,
  document: Save["document"],
  savedBy: string,
): Promise<number> {
  const before = lostSaves.get(designId);
  if (before?.document === document) return sent(before);
  const base = before ? await sent(before) : baseNumber;
  return sent({ designId, baseNumber: base, document, savedBy, saveId: v4() });
}

async function sent(save: Save): Promise<number> {
  lostSaves.set(save.designId, save);
  try {
    const { number } = await saveDesign(save);
    lostSaves.delete(save.designId);
    return number;
  } catch (error) {
    if (!isLost(error)) lostSaves.delete(save.designId);
    throw error;
  }
}

/** The new plan whose answer was lost. */
let lostPlan: { id: string; text: string } | null = null;

/** Keep a new plan; the same one, asked for again because no answer came, is kept once. */
export async function createOnce(document: unknown) {
  const text = JSON.stringify(document);
  const plan = lostPlan?.text === text ? lostPlan : { id: v4(), text };
  lostPlan = plan;
  try {
    const made = await createDesign(document, plan.id);
    lostPlan = null;
    return made;
  } catch (error) {
    if (!isLost(error)) lostPlan = null;
    throw error;
  }
}
