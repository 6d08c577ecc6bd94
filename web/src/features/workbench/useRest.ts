import { analyseAtRest } from "../../api/client";
import type { Analysis, Design, Rest } from "../../api/types";
import { useSettled } from "../../shared/useSettled";

/** What takes longer than an edit may: remedies (each means solving the plan anew) and the herds at their troughs. */
export function useRest(document: Design | null, analysis: Analysis | null, behind: boolean): Rest | null {
  const wanted = document && analysis && !behind && !analysis.remedies_on_request ? document : null;
  return useSettled(["rest"], document, wanted, analyseAtRest);
}
