import { useQuery } from "@tanstack/react-query";

import { numberOf } from "./numbered";
import { useDebounced } from "./useDebounced";

const AT_REST_MS = 300;

/**
 * An answer that takes longer than an edit may: asked for once the document has come to rest.
 * Null while it is not of this document. Once the document moves on, or nothing is wanted any more, the server is told
 * to stop.
 *
 * `key` names what is asked, with all that it depends on beside the document.
 */
export function useSettled<Document extends object, Answer>(
  key: readonly unknown[],
  document: Document | null,
  wanted: Document | null,
  ask: (document: Document, signal: AbortSignal) => Promise<Answer>,
): Answer | null {
  const settled = useDebounced(wanted, AT_REST_MS) === wanted ? wanted : null;
  const asked = useQuery({
    queryKey: [...key, settled && numberOf(settled)],
    queryFn: ({ signal }) => (settled ? ask(settled, signal) : null),
    enabled: settled !== null,
    networkMode: "always",
    staleTime: Infinity,
    gcTime: 0,
    retry: false, // the edit's own answer stands without; the next edit asks again
  });
  return settled && settled === document ? (asked.data ?? null) : null;
}
