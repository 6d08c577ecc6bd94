import { useEffect, useRef, useState } from "react";

import { analyse, glimpse, Refused } from "../../api/client";
import type { Analysis, Design, Fault } from "../../api/types";
import { seenInPassing } from "./glimpse";
import { useBench } from "./store";

export interface Judged {
  analysis: Analysis | null;
  /** the analysis is of an earlier document: the newest could not be judged, or is being judged */
  behind: boolean;
  faults: Fault[];
  trouble: string | null;
}

const SETTLE_MS = 25;
const AGAIN_MS = 4000;
/** From so many outlets on, a plan that is being changed is first seen in passing, and judged whole once it rests. */
const MANY_OUTLETS = 8;
const REST_MS = 1500;

/**
 * Have each document judged by the server: one question at a time, always the newest next, so that
 * dragging shows every answer that there was time for and ends on the last.
 */
export function useAnalysis(document: Design | null, outlet: string | null): Judged {
  const [judged, setJudged] = useState<Judged>({ analysis: null, behind: true, faults: [], trouble: null });
  const newest = useRef<Design | null>(null);
  const asked = useRef<Design | null>(null);
  const asking = useRef(false);
  const whole = useRef<AbortController | null>(null);
  const shown = useRef(outlet);
  useEffect(() => {
    shown.current = outlet;
  }, [outlet]);
  const many = (document?.outlets?.length ?? 0) >= MANY_OUTLETS && judged.analysis !== null;
  useGlimpses(many, asked, shown, setJudged);

  useEffect(() => {
    newest.current = document;
    if (many && document !== asked.current) whole.current?.abort(); // it would take seconds from what is dragged now
    if (!document) return;
    let again: ReturnType<typeof setTimeout> | undefined;

    const ask = async () => {
      while (newest.current && newest.current !== asked.current) {
        const question = newest.current;
        asked.current = question;
        whole.current = new AbortController();
        const { signal } = whole.current;
        try {
          const analysis = await analyse(question, signal);
          if (newest.current === question || !many)
            setJudged({ analysis, behind: newest.current !== question, faults: [], trouble: null });
          else return; // it moved on: the plan is seen in passing until it rests
        } catch (error) {
          if (signal.aborted) {
            asked.current = null;
            return;
          }
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
      if (asking.current) {
        if (many) again = setTimeout(() => void start(), REST_MS);
        return;
      }
      asking.current = true;
      await ask();
      asking.current = false;
    };
    const settle = setTimeout(() => void start(), many ? REST_MS : SETTLE_MS);
    return () => {
      clearTimeout(settle);
      clearTimeout(again);
    };
  }, [document, many]);

  return judged;
}

const MOST_AT_ONCE = 1;

interface Turn {
  newest: Design | null;
  asked: Design | null;
  number: number;
  answered: number;
  under: number;
}

/**
 * While a large plan is changed, show what its outlets get: the newest is asked for at once, before the page draws it,
 * and an older answer that comes late is let go.
 */
function useGlimpses(
  many: boolean,
  whole: { readonly current: Design | null },
  shown: { readonly current: string | null },
  setJudged: (change: (before: Judged) => Judged) => void,
) {
  const turn = useRef<Turn>({ newest: null, asked: null, number: 0, answered: 0, under: 0 });

  useEffect(() => {
    const now = turn.current;
    if (!many) return;
    const look = async () => {
      while (now.newest && now.newest !== now.asked && now.under < MOST_AT_ONCE) {
        now.asked = now.newest;
        const number = (now.number += 1);
        now.under += 1;
        try {
          const seen = await glimpse(now.asked, shown.current);
          if (number > now.answered) {
            now.answered = number;
            setJudged((before) =>
              before.analysis
                ? { ...before, analysis: seenInPassing(before.analysis, seen), behind: true, faults: [] }
                : before,
            );
          }
        } catch {
          // the whole answer that follows says what is wrong
        } finally {
          now.under -= 1;
        }
      }
    };
    return useBench.subscribe(({ document }, { document: before }) => {
      if (document === before) return;
      now.newest = document;
      if (document !== whole.current) void look(); // else the whole answer is there, or on its way
    });
  }, [many, whole, shown, setJudged]);
}
