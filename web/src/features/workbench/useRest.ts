import { analyseAtRest } from "../../api/client";
import type { Design, Rest } from "../../api/types";
import { useSettled } from "../../shared/useSettled";

const MOST_AT_REST = 40;

/** With more outlets, trying all that would help takes minutes: it is done for one finding, when that is asked. */
export const triedOnPress = (document: Design | null) => (document?.outlets?.length ?? 0) > MOST_AT_REST;

/** What takes longer than an edit may: remedies (each means solving the plan anew) and the herds at their troughs. */
export function useRest(document: Design | null, behind: boolean): Rest | null {
  const wanted = document && !behind && !triedOnPress(document) ? document : null;
  return useSettled(document, wanted, analyseAtRest);
}
