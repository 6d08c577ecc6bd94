import type { Design, Fault } from "../../api/types";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { shownCase } from "../../shared/shownCase";

interface Props {
  document: Design;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** How warm the pipe itself is in the case that is shown: warm plastic holds less. */
export function PipeHeat({ document, faults, edit, onDone }: Props) {
  const shown = shownCase(document);
  const scenario = document.scenarios?.[shown];
  if (!scenario) return null;
  const set = (value: number | null) =>
    edit("scenario.pipe", (draft) => {
      const own = draft.scenarios?.[shown];
      if (own) own.pipe_c = value;
    });
  return (
    <QuantityField
      label="Pipe temperature"
      family="°C"
      value={scenario.pipe_c ?? null}
      hint={scenario.pipe_c == null ? "as its water; black pipe in the sun is hotter" : undefined}
      fault={faultAt(faults, `/scenarios/${shown}/pipe_c`)}
      onDone={onDone}
      onChange={set}
      onClear={() => set(null)}
    />
  );
}
