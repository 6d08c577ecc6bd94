import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";

import { listDesigns, readDesign } from "../../api/client";
import type { Design } from "../../api/types";

/** The other plans that a run can be held against, and the one that is chosen once it is there. */
export function useOtherPlans(chosen: string): {
  options: { value: string; text: string }[];
  document: Design | null;
} {
  const { designId } = useParams();
  const plans = useQuery({
    queryKey: ["designs", "to compare"],
    queryFn: async () => (await listDesigns(null, { length: 200 })).designs,
    retry: false,
  });
  const others = (plans.data ?? []).filter((plan) => plan.id !== designId);
  const wanted = others.some((plan) => plan.id === chosen) ? chosen : "";
  const read = useQuery({
    queryKey: ["design to compare", wanted],
    queryFn: async () => (await readDesign(wanted)).document,
    enabled: wanted !== "",
    retry: false,
  });
  return {
    options: others.map((plan) => ({ value: plan.id, text: `Compare: ${plan.site_name} · ${plan.name}` })),
    document: wanted ? (read.data ?? null) : null,
  };
}
