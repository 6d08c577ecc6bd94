import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";

import { runDay } from "../../api/client";
import type { DayRun, Design } from "../../api/types";
import { numberOf } from "../../shared/numbered";
import { useDebounced } from "../../shared/useDebounced";
import { longRun } from "../../shared/longRun";

const AT_REST_MS = 250;
/** Longer runs are handed to a worker. */
export const DIRECT_HOURS = 72;

export interface Told {
  run: DayRun | null;
  /** what is shown is of an earlier plan, or of another length */
  old: boolean;
  error: Error | null;
  /** how far a long run is, 0 to 1; null where none is under way */
  progress: number | null;
  cancel: () => void;
  again: () => void;
}

/** A run of the plan as it stands, once it has come to rest; the last one meanwhile. */
export function useDayRun(document: Design, hours: number, events: boolean, wanted = true): Told {
  const { designId = null } = useParams();
  const client = useQueryClient();
  const [progress, setProgress] = useState(0);
  const settled = useDebounced(document, AT_REST_MS);
  const long = hours > DIRECT_HOURS;
  const queryKey = ["day", numberOf(settled), hours, events];
  const asked = useQuery({
    queryKey,
    queryFn: async ({ signal }): Promise<DayRun> => {
      if (!long) return runDay(settled, hours, events, signal);
      setProgress(0);
      const job = await longRun(
        { kind: "day", document: settled, hours, events },
        designId,
        signal,
        setProgress,
      );
      if (!job.day) throw new Error("The run brought no answer.");
      return job.day;
    },
    enabled: wanted,
    placeholderData: (before) => before,
    networkMode: "always",
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
  });
  return {
    run: wanted ? (asked.data ?? null) : null,
    old: wanted && (asked.isPlaceholderData || settled !== document),
    error: asked.error,
    progress: long && asked.isFetching ? progress : null,
    cancel: () => void client.cancelQueries({ queryKey }),
    again: () => void asked.refetch(),
  };
}
