import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";

import { analyse, Refused } from "../../api/client";
import type { Analysis, Design, Fault, Preview } from "../../api/types";
import { numberOf } from "../../shared/numbered";
import { useDebounced } from "../../shared/useDebounced";
import { useLasting } from "../../shared/useLasting";
import { firstComing, firstHere, type FirstAnalysis } from "./opening";
import { previewed } from "./preview";
import type { PreviewAsked } from "./preview.worker";
import { useBench } from "./store";

export interface Judged {
  analysis: Analysis | null;
  /** the analysis is of an earlier document: the newest could not be judged, or is being judged */
  behind: boolean;
  /** for some time no number shown has been of this document: all are dimmed, and said to be old */
  old: boolean;
  /** the server has been calculating for long */
  slow: boolean;
  faults: Fault[];
  trouble: string | null;
}

const AGAIN_MS = 4000;
const OLD_AFTER_MS = 500;
const SLOW_AFTER_MS = 5000;
/** How long a plan rests before all of it is judged: about as long as that took the last time, within these limits. */
const SHORTEST_REST_MS = 25;
const LONGEST_REST_MS = 1500;
/** The mark in the page's own timing at which a preview came. */
const PREVIEW = "preview";

interface Whole extends FirstAnalysis {
  number: number;
}

const refused = (error: Error | null) =>
  error instanceof Refused && (error.status === 422 || error.problem.code === "too_much") ? error : null;

/**
 * Have the document judged by the server: whole once it rests, in a preview while it changes; `pending` tells that edits
 * of it are still being made.
 */
export function useAnalysis(document: Design | null, pending: boolean, outlet: string | null): Judged {
  const [last, setLast] = useState<Whole | null>(null);
  const restMs = Math.min(Math.max(last?.tookMs ?? 0, SHORTEST_REST_MS), LONGEST_REST_MS);
  const settled = useDebounced(document, restMs);
  // the first answer is waited for; what is moved on from is let go at once, so that the server stops;
  // while edits are being made, what is shown is not yet the plan that comes of them
  const asked = !pending && (!last || settled === document) ? document : null;
  const number = document ? numberOf(document) : 0;
  const query = useQuery({
    queryKey: ["analysis", asked && numberOf(asked)],
    queryFn: async ({ signal }): Promise<Whole | null> => {
      if (!asked) return null;
      const began = performance.now();
      const first = await firstComing(asked, signal);
      if (first) return { number: numberOf(asked), ...first };
      const analysis = await analyse(asked, signal);
      performance.clearMarks(PREVIEW);
      return { number: numberOf(asked), analysis, tookMs: performance.now() - began };
    },
    initialData: () => {
      const first = asked && firstHere(asked);
      return first ? { number: numberOf(asked), ...first } : undefined;
    },
    enabled: asked !== null,
    networkMode: "always",
    staleTime: Infinity,
    gcTime: 0,
    retry: (_, error) => !refused(error),
    retryDelay: AGAIN_MS,
    structuralSharing: false,
  });
  if (query.data && query.data !== last) setLast(query.data);
  const whole = document ? last : null;
  const preview = usePreview(whole !== null, outlet);
  const analysis = useMemo(() => {
    if (!whole) return null;
    return preview && preview.number > whole.number ? previewed(whole.analysis, preview) : whole.analysis;
  }, [whole, preview]);
  const shown = Math.max(whole?.number ?? 0, preview?.number ?? 0);
  const old = useLasting(whole !== null && shown !== number, OLD_AFTER_MS);
  const slow = useLasting(query.isFetching && query.failureCount === 0, SLOW_AFTER_MS);
  const error = query.error ?? query.failureReason;
  const current = asked ? error : null;
  return {
    analysis,
    behind: whole?.number !== number,
    old,
    slow,
    faults: refused(current)?.problem.faults ?? [],
    trouble: current?.message ?? null,
  };
}

/** What the outlets get while the plan changes: the newest is handed at once to a worker that asks the server. */
function usePreview(wanted: boolean, outlet: string | null): Preview | null {
  const [preview, setPreview] = useState<Preview | null>(null);
  const shown = useRef(outlet);
  const air = useRef<Preview["air"]>([]); // where lines stood open to air in the last answer: the next comes sooner
  useEffect(() => {
    shown.current = outlet;
  }, [outlet]);
  useEffect(() => {
    if (!wanted) return;
    const worker = new Worker(new URL("./preview.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<Preview>) => {
      performance.mark(PREVIEW);
      air.current = data.air;
      setPreview((before) => (before && before.number > data.number ? before : data));
    };
    const stop = useBench.subscribe(({ document, pending }, before) => {
      if (!document || document === before.document) return;
      const number = numberOf(document);
      const body = JSON.stringify({
        document: { ...(pending?.base ?? document), season: undefined }, // long, and nothing of what is previewed hangs on it
        number,
        edits: pending?.edits ?? [],
        outlet: shown.current,
        air: air.current,
      });
      worker.postMessage({ number, body } satisfies PreviewAsked);
    });
    return () => {
      stop();
      worker.terminate();
      performance.clearMarks(PREVIEW);
    };
  }, [wanted]);
  return preview;
}
