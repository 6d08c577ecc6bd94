import { analyseAtRest } from "../../api/client";
import type { Design, Rest } from "../../api/types";
import { useSettled } from "../../shared/useSettled";

/** What takes longer than an edit may: remedies (each means solving the plan anew) and the herds at their troughs. */
export function useRest(document: Design | null, behind: boolean): Rest | null {
  return useSettled(document, document && !behind ? document : null, analyseAtRest);
}
