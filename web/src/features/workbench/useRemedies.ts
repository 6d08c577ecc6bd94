import { useEffect, useState } from "react";

import { check } from "../../api/client";
import type { Analysis, Design, Finding } from "../../api/types";

const AT_REST_MS = 300;

/**
 * The findings with the changes that help. Each change means solving the plan anew, so they are looked for once
 * the figures have come to rest, and until then the findings stand without.
 */
export function useRemedies(document: Design | null, analysis: Analysis | null, behind: boolean): Finding[] {
  const [tried, setTried] = useState<{ document: Design; findings: Finding[] } | null>(null);
  const wanted = document && analysis?.findings.length && !behind ? document : null;
  useEffect(() => {
    if (!wanted) return;
    let left = false;
    const rest = setTimeout(() => {
      check(wanted)
        .then(({ findings }) => {
          if (!left) setTried({ document: wanted, findings });
        })
        .catch(() => undefined); // the findings stand without; the next edit asks again
    }, AT_REST_MS);
    return () => {
      left = true;
      clearTimeout(rest);
    };
  }, [wanted]);
  return tried && tried.document === document ? tried.findings : (analysis?.findings ?? []);
}
