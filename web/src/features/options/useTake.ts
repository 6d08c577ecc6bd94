import { useMutation, useQueryClient } from "@tanstack/react-query";

import { createOnce } from "../../api/once";
import type { Design, SizedPlan } from "../../api/types";

const LONGEST_NAME = 120;

/** Keep a plan that was found as a plan of the site: an option beside this one. */
export function useTake(document: Design, onMade: (id: string) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ plan, name }: { plan: { document: SizedPlan["document"] }; name: string }) =>
      createOnce({ ...plan.document, site: document.site, name: name.slice(0, LONGEST_NAME) }),
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: ["designs"] });
      onMade(made.design_id);
    },
  });
}
