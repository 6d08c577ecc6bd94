import { useEffect, useRef, useState } from "react";

import { analyse, Refused } from "../../api/client";
import type { Analysis, Design, Fault } from "../../api/types";
import { changeBetween } from "../../shared/change";
import { seenInPassing } from "./glimpse";
import type { Passing, Seen } from "./glimpse.worker";
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
/** The mark in the page's own timing at which an answer in passing came. */
const SEEN = "seen in passing";

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
          performance.clearMarks(SEEN);
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

/**
 * While a large plan is changed, show what its outlets get. The newest is handed over at once, before the page draws it,
 * to a worker that asks the server.
 */
function useGlimpses(
  many: boolean,
  whole: { readonly current: Design | null },
  shown: { readonly current: string | null },
  setJudged: (change: (before: Judged) => Judged) => void,
) {
  useEffect(() => {
    if (!many) return;
    const worker = new Worker(new URL("./glimpse.worker.ts", import.meta.url), { type: "module" });
    let told: Design | null = null;
    worker.onmessage = ({ data }: MessageEvent<Seen>) => {
      if (whole.current === useBench.getState().document) return; // the whole answer is there, or on its way
      performance.mark(SEEN);
      setJudged((before) =>
        before.analysis
          ? { ...before, analysis: seenInPassing(before.analysis, data), behind: true, faults: [] }
          : before,
      );
    };
    const stop = useBench.subscribe(({ document }) => {
      if (!document || document === told || document === whole.current) return;
      const passing: Passing = { change: changeBetween(told, document), outlet: shown.current };
      worker.postMessage(passing);
      told = document;
    });
    return () => {
      stop();
      worker.terminate();
      performance.clearMarks(SEEN);
    };
  }, [many, whole, shown, setJudged]);
}
