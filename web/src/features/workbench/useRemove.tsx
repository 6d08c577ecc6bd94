/** Deleting what is chosen; where a pipe would then lead nowhere, whether that goes too is asked. */
import { useState, type ReactNode } from "react";
import { useShallow } from "zustand/react/shallow";

import type { Design } from "../../api/types";
import { named } from "../../shared/names";
import { lazyPart } from "../../shared/lazyPart";
import { standing } from "../../shared/standing";
import { useBench } from "./store";

const DeleteDialog = lazyPart(async () => (await import("../draw")).DeleteDialog);

export function useRemove(
  document: Design,
  chosen: readonly string[],
): { remove: () => void; dialog: ReactNode } {
  const { select, apply, endStep } = useBench(
    useShallow(({ select, apply, endStep }) => ({ select, apply, endStep })),
  );
  const [asking, setAsking] = useState(false);
  const pipes = pipesTo(document, chosen);
  const remove = (withPipes: boolean) => {
    apply("parts.deleted", [{ kind: "delete_parts", parts: [...chosen], with_pipes: withPipes }], {
      then: () => select(null),
    });
    endStep();
    setAsking(false);
  };
  const parts = standing(document);
  const first = parts.find((one) => one.id === chosen[0]);
  return {
    remove: () => {
      if (pipes.length) setAsking(true);
      else remove(false);
    },
    dialog: asking && first && pipes.length > 0 && (
      <DeleteDialog
        name={chosen.length > 1 ? `${chosen.length} parts` : named(first)}
        pipes={pipes.map(named)}
        onDelete={remove}
        onLeave={() => setAsking(false)}
      />
    ),
  };
}

/** The pipes that end at outlets that are chosen, or at those that fill a trough that is. */
function pipesTo(document: Design, chosen: readonly string[]) {
  const outlets = (document.outlets ?? []).filter(
    (one) => chosen.includes(one.id) || (one.fills != null && chosen.includes(one.fills)),
  );
  const ends = new Set([...outlets.map((one) => one.id), ...chosen]);
  const troughs = outlets.length > 0;
  return (document.lines ?? []).filter((line) => troughs && ends.has(line.to) && !chosen.includes(line.id));
}
