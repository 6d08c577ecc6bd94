import Typography from "@mui/material/Typography";
import { useState } from "react";

import { AskDialog } from "../../shared/AskDialog";
import { Choice } from "../../shared/Choice";
import { NameField } from "../../shared/NameField";

interface Props {
  outlets: { value: string; text: string }[];
  onTake: (name: string, outlet: string) => void;
  onLeave: () => void;
}

/** What a paddock that was drawn is called, and where its stock drink. */
export function PaddockDialog({ outlets, onTake, onLeave }: Props) {
  const [name, setName] = useState("");
  const [outlet, setOutlet] = useState("");
  return (
    <AskDialog
      title="Paddock"
      act="Add paddock"
      ready
      onLeave={onLeave}
      onTake={() => onTake(name.trim() || "Paddock", outlet)}
    >
      <NameField value={name} placeholder="Paddock" autoFocus onChange={setName} />
      {outlets.length ? (
        <Choice
          label="Water from"
          value={outlet}
          options={[{ value: "", text: "the nearest" }, ...outlets]}
          onChange={setOutlet}
        />
      ) : (
        <Typography>There is no trough or tap yet: choose the water of this paddock later.</Typography>
      )}
    </AskDialog>
  );
}
