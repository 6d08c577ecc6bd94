/** What a plan takes where it says nothing: told by the server with the catalogue. */
import { useQuery } from "@tanstack/react-query";

import { readCatalogue } from "../api/client";
import type { Design } from "../api/types";

export const useCatalogue = () =>
  useQuery({ queryKey: ["catalogue"], queryFn: readCatalogue, staleTime: Infinity });

export const useDefaults = () => useCatalogue().data?.defaults;

/** Hours between looks at the troughs; null until the server has told what is taken where a plan says nothing. */
export function useLookEveryH({ site }: Design): number | null {
  const defaults = useDefaults();
  return site.look_every_h ?? defaults?.look_every_h ?? null;
}
