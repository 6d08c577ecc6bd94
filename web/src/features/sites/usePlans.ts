/** What can be done with a plan as a whole: copied, renamed, deleted, restored. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";

import { readDesign, setDeleted } from "../../api/client";
import { createOnce, saveOnce } from "../../api/once";
import { usePreferences } from "../../shared/preferences";
import { savesDone } from "../../shared/savingTurn";

const LONGEST_NAME = 110;

/** Copy a plan as it was last saved, and open the copy. */
export function useCopyPlan() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: async (id: string) => {
      await savesDone();
      const { document } = await readDesign(id);
      const name = `${document.name.slice(0, LONGEST_NAME)} (copy)`;
      return createOnce({ ...document, name });
    },
    onSuccess: (revision) => {
      void queries.invalidateQueries({ queryKey: ["designs"] });
      void navigate(`/designs/${revision.design_id}/lines`);
    },
  });
}

/** Rename a plan that is not open here. */
export function useRenamePlan() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ id, name }: { id: string; name: string }) => {
      await savesDone();
      const { document, number } = await readDesign(id);
      return saveOnce(id, number, { ...document, name }, usePreferences.getState().name);
    },
    onSettled: () => void queries.invalidateQueries({ queryKey: ["designs"] }),
  });
}

/** Delete a plan, or restore it, once what was edited in it is saved. */
export function useDeletePlan() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ id, deleted }: { id: string; deleted: boolean }) => {
      await savesDone();
      return setDeleted(id, deleted);
    },
    onSettled: () => void queries.invalidateQueries({ queryKey: ["designs"] }),
  });
}
