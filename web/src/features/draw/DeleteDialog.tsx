import { useState } from "react";

import { AskDialog } from "../../shared/AskDialog";
import { Choice } from "../../shared/Choice";

interface Props {
  /** what is deleted, and the pipes that would lead nowhere */
  name: string;
  pipes: string[];
  onDelete: (withPipes: boolean) => void;
  onLeave: () => void;
}

/** Whether a pipe goes with what stood at its end. */
export function DeleteDialog({ name, pipes, onDelete, onLeave }: Props) {
  const [withPipes, setWithPipes] = useState(true);
  const listed = pipes.join(", ");
  return (
    <AskDialog
      title={`Delete ${name}`}
      act="Delete"
      ready
      onTake={() => onDelete(withPipes)}
      onLeave={onLeave}
    >
      <Choice
        label={pipes.length === 1 ? "Its pipe" : "Its pipes"}
        value={withPipes ? "with" : "keep"}
        options={[
          { value: "with", text: `delete ${listed} too, with its tee` },
          { value: "keep", text: `keep ${listed}` },
        ]}
        onChange={(value) => setWithPipes(value === "with")}
      />
    </AskDialog>
  );
}
