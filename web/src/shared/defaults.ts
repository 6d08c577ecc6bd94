/** What a plan takes where it says nothing: told by the server with the catalogue. */
import { useQuery } from "@tanstack/react-query";

import { readCatalogue } from "../api/client";

export const useCatalogue = () =>
  useQuery({ queryKey: ["catalogue"], queryFn: readCatalogue, staleTime: Infinity });

export const useDefaults = () => useCatalogue().data?.defaults;
