/** Which plans and revisions can be laid beside a plan, and those that are, once they are there. */
import { useQueries, useQuery } from "@tanstack/react-query";

import {
  analyse,
  compareOptions,
  listDesigns,
  listRevisions,
  readDesign,
  readRevision,
} from "../../api/client";
import type { Analysis, Design, OptionsTold } from "../../api/types";
import { numberOf } from "../../shared/numbered";
import type { Option } from "../../shared/options";
import { useSettled } from "../../shared/useSettled";

const MOST_LISTED = 200;
const MOST_REVISIONS = 40;

/** Everything that can be chosen, by `plan id` or `revision number`. */
export function useChoices(designId: string, site: string): Option[] {
  const plans = useQuery({
    queryKey: ["designs", "to compare"],
    queryFn: async () => (await listDesigns(null, { length: MOST_LISTED })).designs,
    retry: false,
  });
  const revisions = useQuery({
    queryKey: ["revisions", designId, "to compare"],
    queryFn: () => listRevisions(designId),
    retry: false,
    gcTime: 0,
  });
  const others = (plans.data ?? []).filter((plan) => plan.id !== designId);
  return [
    ...others.map((plan) => ({
      value: `plan ${plan.id}`,
      text: plan.site_name === site ? plan.name : `${plan.site_name} · ${plan.name}`,
      group: plan.site_name === site ? "Plans of this site" : "Other sites",
    })),
    ...(revisions.data ?? []).slice(0, MOST_REVISIONS).map((one) => ({
      value: `revision ${one.number}`,
      text: `Revision ${one.number}${one.label ? ` · ${one.label}` : ""}`,
      group: "Earlier states of this plan",
    })),
  ];
}

const read = async (designId: string, key: string): Promise<Design> => {
  const [kind, name = ""] = key.split(" ");
  if (kind === "plan") return (await readDesign(name)).document;
  const { document } = await readRevision(designId, Number(name));
  return { ...document, name: `${document.name} · revision ${name}`.slice(0, 120) };
};

/** The plans that are chosen, as they are saved. */
export function useChosen(designId: string, chosen: string[]): { documents: Design[]; error: Error | null } {
  const asked = useQueries({
    queries: chosen.map((key) => ({
      queryKey: ["option", designId, key],
      queryFn: () => read(designId, key),
      retry: false,
      gcTime: 0,
    })),
  });
  const documents = asked.flatMap(({ data }) => (data ? [data] : []));
  return {
    documents: documents.length === chosen.length ? documents : [],
    error: asked.find(({ error }) => error)?.error ?? null,
  };
}

export interface Compared {
  told: OptionsTold;
  analyses: Analysis[];
}

const compare = async ({ documents }: { documents: Design[] }, signal: AbortSignal): Promise<Compared> => {
  const told = await compareOptions(documents, signal);
  return { told, analyses: await Promise.all(documents.map((document) => analyse(document, signal))) };
};

const asked = new Map<string, { documents: Design[] }>();

/** Plans side by side, asked for once this one has come to rest. */
export function useCompared(documents: Design[]): Compared | null {
  const key = documents.map(numberOf).join(" ");
  const same = asked.get(key) ?? { documents };
  asked.clear();
  asked.set(key, same);
  const wanted = documents.length > 1 ? same : null;
  return useSettled(["options"], wanted, wanted, compare);
}
