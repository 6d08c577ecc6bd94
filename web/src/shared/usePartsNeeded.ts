import { listParts } from "../api/client";
import type { Design, PartsNeeded } from "../api/types";
import { useKept } from "./useKept";
import { useSettled } from "./useSettled";

/** What a plan needs, or needed while the next answer is on its way; null until there is one. */
export function usePartsNeeded(document: Design): PartsNeeded | null {
  return useKept(
    useSettled(["parts"], document, document, (asked: Design, signal) => listParts(asked, signal)),
  );
}
