import type { Design } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { holdInCase, shownCase } from "../../shared/shownCase";

interface Props {
  document: Design;
  /** a line or an outlet */
  id: string;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Whether the case that is shown opens or shuts a line or an outlet, whatever the plan says of it. */
export function InCase({ document, id, edit, onDone }: Props) {
  const shown = shownCase(document);
  const scenario = document.scenarios?.[shown];
  if (!scenario) return null;
  const value = scenario.open?.includes(id) ? "open" : scenario.shut?.includes(id) ? "shut" : "";
  return (
    <Choice
      label={`In the case ${(scenario.name ?? scenario.id).toLowerCase()}`}
      value={value}
      options={[
        { value: "", text: "as the plan has it" },
        { value: "open", text: "open" },
        { value: "shut", text: "shut" },
      ]}
      onChange={(chosen) => {
        edit(`${id}.case`, (draft) => {
          const own = draft.scenarios?.[shown];
          if (own) holdInCase(own, id, chosen);
        });
        onDone();
      }}
    />
  );
}
