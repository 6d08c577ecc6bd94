import type { Words } from "../api/types";
import { usePreferences } from "./preferences";
import { saidText } from "./saidText";

/** A worded sentence with its quantities in the user's units. */
export function Said({ words }: { words: Words }) {
  const system = usePreferences((state) => state.system);
  return <>{saidText(words, system)}</>;
}
