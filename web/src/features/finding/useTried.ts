import { useEffect, useRef, useState } from "react";

import type { Finding, Remedy } from "../../api/types";

/** Tries what would help against a finding. */
export type Try = (finding: Finding, signal: AbortSignal) => Promise<Remedy[]>;

export interface Tried {
  remedies: Remedy[] | null;
  trouble: string | null;
  start: () => void;
  stop: (() => void) | null;
}

/** What was tried against a finding; of an older finding nothing is kept, and the server stops trying. */
export function useTried(finding: Finding, onTry: Try | null): Tried {
  const [told, setTold] = useState<{ of: Finding; remedies: Remedy[] | null; trouble: string | null } | null>(
    null,
  );
  const trying = useRef<AbortController | null>(null);
  useEffect(() => () => trying.current?.abort(), [finding]);
  const own = told?.of === finding ? told : null;
  const start = () => {
    if (!onTry) return;
    const asking = (trying.current = new AbortController());
    setTold({ of: finding, remedies: null, trouble: null });
    onTry(finding, asking.signal)
      .then((remedies) => setTold({ of: finding, remedies, trouble: null }))
      .catch(() => {
        const trouble = asking.signal.aborted ? null : "No answer: try again";
        setTold((now) => (now?.of !== finding ? now : trouble ? { ...now, trouble } : null));
      });
  };
  const busy = own !== null && own.remedies === null && own.trouble === null;
  return {
    remedies: own?.remedies ?? null,
    trouble: own?.trouble ?? null,
    start,
    stop: busy ? () => trying.current?.abort() : null,
  };
}
