import { useEffect, useState } from "react";

import { analyseAtRest } from "../../api/client";
import type { Design, Rest } from "../../api/types";

const AT_REST_MS = 300;

/**
 * What takes longer than an edit may: remedies (each means solving the plan anew) and the herds at their troughs.
 * It is asked for once the figures have come to rest; null while it is not of this document.
 */
export function useRest(document: Design | null, behind: boolean): Rest | null {
  const [told, setTold] = useState<{ document: Design; rest: Rest } | null>(null);
  const wanted = document && !behind ? document : null;
  useEffect(() => {
    if (!wanted) return;
    let left = false;
    const settled = setTimeout(() => {
      analyseAtRest(wanted)
        .then((rest) => {
          if (!left) setTold({ document: wanted, rest });
        })
        .catch(() => undefined); // the edit's own answer stands without; the next edit asks again
    }, AT_REST_MS);
    return () => {
      left = true;
      clearTimeout(settled);
    };
  }, [wanted]);
  return told && told.document === document ? told.rest : null;
}
