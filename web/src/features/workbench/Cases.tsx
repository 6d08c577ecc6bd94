import { useShallow } from "zustand/react/shallow";

import type { Fault } from "../../api/types";
import { lazyPart } from "../../shared/lazyPart";
import { useBench } from "./store";

const CasesDialog = lazyPart(async () => (await import("../cases")).CasesDialog);

/** The cases of the plan that is open. */
export function Cases({ faults, onLeave }: { faults: Fault[]; onLeave: () => void }) {
  const { document, notes, edit, endStep } = useBench(
    useShallow(({ document, notes, edit, endStep }) => ({ document, notes, edit, endStep })),
  );
  return document && <CasesDialog {...{ document, faults, notes, edit, onLeave }} onDone={endStep} />;
}
