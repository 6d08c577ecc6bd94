import type { Words } from "../api/types";
import { usePreferences } from "./preferences";
import { quantityText } from "./units";

/** A worded sentence with its quantities in the user's units. */
export function Said({ words }: { words: Words }) {
  const system = usePreferences((state) => state.system);
  return <>{words.map((part) => (typeof part === "string" ? part : quantityText(part, system))).join("")}</>;
}
