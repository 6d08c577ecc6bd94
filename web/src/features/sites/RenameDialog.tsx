import { useState } from "react";

import { AskDialog } from "../../shared/AskDialog";
import { NameField } from "../../shared/NameField";

interface Props {
  name: string;
  onRename: (name: string) => void;
  onLeave: () => void;
}

/** Another name for a plan; never an empty one. */
export function RenameDialog({ name, onRename, onLeave }: Props) {
  const [next, setNext] = useState(name);
  return (
    <AskDialog
      title="Rename plan"
      act="Rename"
      ready={next.trim() !== ""}
      onTake={() => onRename(next.trim())}
      onLeave={onLeave}
    >
      <NameField label="Name of the plan" value={next} placeholder={name} autoFocus onChange={setNext} />
    </AskDialog>
  );
}
