/** The core's own answers for the demonstration design with a change, as the page should show them. */
import { produce } from "immer";

import { analyse, analyseAtRest, readDesign } from "../api/client";
import type { Analysis, Design, Rest, Words } from "../api/types";
import { figure, quantityText, type System } from "../shared/units";

export type Change = (draft: Design) => void;

const unchanged: Change = () => undefined;

/** The demonstration design with a change. */
export const farm = async (change: Change = unchanged): Promise<Design> =>
  produce((await readDesign(process.env.LEADSMAN_DEMO ?? "")).document, change);

/** A plan of 48 troughs that each want more than they get. */
export const many = async (): Promise<Design> => (await readDesign(process.env.LEADSMAN_MANY ?? "")).document;

/** The analysis of the demonstration design with a change. */
export const expected = async (change: Change = unchanged): Promise<Analysis> => analyse(await farm(change));

/** What takes longer: remedies, and the herds at their troughs. */
export const atRest = async (change: Change = unchanged): Promise<Rest> => analyseAtRest(await farm(change));

/** A number as the page writes it, its spaces as plain ones. */
export const figures = (value: number, digits: number) => figure(value, digits).replace(/\s/g, " ");

/** A part of a list by its id, or by another key that names it. */
export function named<Part extends object>(
  parts: readonly Part[] | undefined,
  id: string | number,
  key = "id",
): Part {
  const found = parts?.find((part) => (part as Record<string, unknown>)[key] === id);
  if (!found) throw new Error(`there is no ${id}`);
  return found;
}

/** One of the four numbers of an analysis, as the strip words it. */
export function numberText({ verdict }: Analysis, key: string, system: System = "metric"): string {
  const { value } = named(verdict.numbers, key, "key");
  if (!value) throw new Error(`${key} has no value`);
  return quantityText(value, system);
}

/** A sentence with its quantities. */
export const wording = (words: Words, system: System = "metric"): string =>
  words.map((part) => (typeof part === "string" ? part : quantityText(part, system))).join("");
