import type { Words } from "../api/types";
import { quantityText, type System } from "./units";

/** A worded sentence as text in the user's units. */
export const saidText = (words: Words, system: System): string =>
  words.map((part) => (typeof part === "string" ? part : quantityText(part, system))).join("");
