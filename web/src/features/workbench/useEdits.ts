import { useEffect } from "react";

import { editDesign, Refused } from "../../api/client";
import { useBench } from "./store";

const AGAIN_MS = 3000;
const RESTS_MS = 800;

/** Have the server make the edits that wait, one after the other; what cannot be reached is asked again. */
export function useEdits() {
  const pending = useBench((bench) => bench.pending);
  useEffect(() => {
    if (!pending) return;
    if (pending.dragging) {
      // a hand that rests, or whose letting go was not seen, has its edit made all the same
      const rests = setTimeout(() => useBench.getState().restDrag(), RESTS_MS);
      return () => clearTimeout(rests);
    }
    let here = true;
    const ask = () =>
      editDesign(pending.base, pending.edits)
        .then(({ document, made, notes }) => {
          if (here) useBench.getState().editsMade(pending, document, made, notes);
        })
        .catch((error: unknown) => {
          if (!here) return;
          const { editsRefused, editsWait } = useBench.getState();
          if (error instanceof Refused && error.status === 422) {
            const faults = error.problem.faults ?? [];
            editsRefused(`Not done: ${faults.map(({ value }) => value).join("; ")}.`);
          } else editsWait(error instanceof Error ? error.message : "no answer");
        });
    const timer = setTimeout(() => void ask(), pending.why === null ? 0 : AGAIN_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [pending]);
}
