import { useEffect, useRef, useState } from "react";

import { analyse, Refused } from "../../api/client";
import type { Analysis, Design, Fault } from "../../api/types";

export interface Judged {
  analysis: Analysis | null;
  /** the analysis is of an earlier document: the newest could not be judged, or is being judged */
  behind: boolean;
  faults: Fault[];
  trouble: string | null;
}

const SETTLE_MS = 25;
const AGAIN_MS = 4000;

/**
 * Have each document judged by the server: one question at a time, always the newest next, so that
 * dragging shows every answer that there was time for and ends on the last.
 */
export function useAnalysis(document: Design | null): Judged {
  const [judged, setJudged] = useState<Judged>({ analysis: null, behind: true, faults: [], trouble: null });
  const newest = useRef<Design | null>(null);
  const asked = useRef<Design | null>(null);
  const asking = useRef(false);

  useEffect(() => {
    newest.current = document;
    if (!document) return;
    let again: ReturnType<typeof setTimeout> | undefined;

    const ask = async () => {
      while (newest.current && newest.current !== asked.current) {
        const question = newest.current;
        asked.current = question;
        try {
          const analysis = await analyse(question);
          setJudged({ analysis, behind: newest.current !== question, faults: [], trouble: null });
        } catch (error) {
          const faults = error instanceof Refused ? (error.problem.faults ?? []) : [];
          const trouble = error instanceof Error ? error.message : "no answer";
          setJudged((before) => ({ ...before, behind: true, faults, trouble }));
          if (!(error instanceof Refused && error.status === 422)) {
            again = setTimeout(() => {
              asked.current = null;
              void start();
            }, AGAIN_MS);
            return;
          }
        }
      }
    };
    const start = async () => {
      if (asking.current) return;
      asking.current = true;
      await ask();
      asking.current = false;
    };
    const settle = setTimeout(() => void start(), SETTLE_MS);
    return () => {
      clearTimeout(settle);
      clearTimeout(again);
    };
  }, [document]);

  return judged;
}
