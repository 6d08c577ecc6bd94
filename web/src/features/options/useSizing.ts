/** The cheapest plan, and cheaper and dearer ones beside it: long work that shows the best so far. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";

import type { Design, Job, JobAsked } from "../../api/types";
import { longRun } from "../../shared/longRun";
import { numberOf } from "../../shared/numbered";

type Kind = "size" | "curve" | "stand" | "site";
type Further<K extends Kind> = Omit<Extract<JobAsked, { kind: K }>, "kind" | "document">;

export interface Sizing<Answer> {
  /** the best so far while it runs; of the plan as it stands */
  told: Answer | null;
  /** how far it is, 0 to 1; null where it does not run */
  progress: number | null;
  error: Error | null;
  start: () => void;
  stop: () => void;
}

/** Work on the plan as it stands; what was found for an earlier state of it is not shown. */
export function useSizing<K extends Kind>(
  kind: K,
  document: Design,
  ...[further]: K extends "stand" | "site" ? [Further<K>] : []
): Sizing<NonNullable<Job[K]>> {
  const { designId = null } = useParams();
  const client = useQueryClient();
  const [far, setFar] = useState<{ share: number; best: Job[K] | null }>({ share: 0, best: null });
  const queryKey = [kind, numberOf(document), further];
  const asked = useQuery({
    queryKey,
    queryFn: async ({ signal }) => {
      setFar({ share: 0, best: null });
      const job = await longRun(
        { kind, document, ...further } as JobAsked,
        designId,
        signal,
        (share, so_far) => setFar({ share, best: so_far[kind] ?? null }),
      );
      const answer = job[kind];
      if (!answer) throw new Error("It brought no answer.");
      return answer;
    },
    enabled: false,
    networkMode: "always",
    staleTime: Infinity,
    gcTime: 600_000,
    retry: false,
  });
  return {
    told: asked.data ?? (asked.isFetching ? (far.best ?? null) : null),
    progress: asked.isFetching ? far.share : null,
    error: asked.error,
    start: () => void asked.refetch(),
    stop: () => void client.cancelQueries({ queryKey }),
  };
}
