import { useCallback, useEffect, useRef } from "react";

/** The same function at every render, which does what the one given last does: what gets it need not be drawn anew. */
export function useSteady<Given extends unknown[]>(
  act: (...given: Given) => void,
): (...given: Given) => void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  }, [act]);
  return useCallback((...given: Given) => latest.current(...given), []);
}
