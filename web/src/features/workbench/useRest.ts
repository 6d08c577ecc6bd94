import { analyseAtRest } from "../../api/client";
import type { Design, Rest } from "../../api/types";
import { useSettled } from "../../shared/useSettled";

/** With more outlets than these, trying remedies takes minutes: it is not begun by itself. */
export const MOST_AT_REST = 40;

/** What takes longer than an edit may: remedies (each means solving the plan anew) and the herds at their troughs. */
export function useRest(document: Design | null, behind: boolean): Rest | null {
  const soon = (document?.outlets?.length ?? 0) <= MOST_AT_REST;
  return useSettled(document, document && !behind && soon ? document : null, analyseAtRest);
}
