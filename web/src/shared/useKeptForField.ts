import { useEffect } from "react";

import { listParts, planFirstWater } from "../api/client";
import { askWinter, planUpkeep, readLog, readLooks } from "../api/field";
import type { Design } from "../api/types";
import { keepForTheField } from "./forTheField";
import { today } from "./today";
import { useDebounced } from "./useDebounced";

const AT_REST_MS = 1500;

/** Keep the page, and what is needed of a plan in the field, on this device, while there is a connection. */
export function useKeptForField(designId: string, document: Design): void {
  const settled = useDebounced(document, AT_REST_MS);
  useEffect(() => {
    keepForTheField();
    const control = new AbortController();
    const { signal } = control;
    // one after the other: nobody waits for them; where one fails, the others are kept all the same
    const asks = [
      () => planFirstWater(settled, signal),
      () => planUpkeep(designId, settled, today(), signal),
      () => readLooks(designId, signal),
      () => readLog(designId, null, signal),
      () => listParts(settled, signal),
      () => askWinter(settled, today(), signal),
    ];
    void (async () => {
      for (const ask of asks) if (!signal.aborted) await ask().catch(() => undefined);
    })();
    return () => control.abort();
  }, [designId, settled]);
}
