import { useQuery } from "@tanstack/react-query";

import { readLooks } from "../../api/field";
import type { Looks } from "../../api/types";
import { useQueue } from "../../shared/logQueue";

/** What the looks at each part say together, and when that was read [ms since 1970]. */
export function useLooks(designId: string): { looks: Looks; readAt: number } {
  const taken = useQueue((queue) => queue.taken);
  const read = useQuery({
    queryKey: ["looks", designId, taken],
    queryFn: ({ signal }) => readLooks(designId, signal),
    networkMode: "always",
    retry: false,
    placeholderData: (before) => before,
  });
  return { looks: read.data?.looks ?? [], readAt: read.dataUpdatedAt };
}
