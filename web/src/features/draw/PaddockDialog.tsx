import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { AskDialog } from "../../shared/AskDialog";
import { Choice } from "../../shared/Choice";

interface Props {
  outlets: { value: string; text: string }[];
  nearest: string;
  onTake: (name: string, outlet: string) => void;
  onLeave: () => void;
}

/** What a paddock that was drawn is called, and where its stock drink. */
export function PaddockDialog({ outlets, nearest, onTake, onLeave }: Props) {
  const [name, setName] = useState("");
  const [outlet, setOutlet] = useState(nearest);
  return (
    <AskDialog
      title="A paddock"
      act="Fence it in"
      ready={outlet !== ""}
      onLeave={onLeave}
      onTake={() => onTake(name.trim() || "Paddock", outlet)}
    >
      <TextField
        label="Its name"
        value={name}
        placeholder="Paddock"
        size="small"
        variant="standard"
        autoFocus
        onChange={(event) => setName(event.target.value.slice(0, 120))}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      {outlets.length ? (
        <Choice label="Water from" value={outlet} options={outlets} onChange={setOutlet} />
      ) : (
        <Typography>A paddock says where its stock drink: lay a line to a trough or a tap first.</Typography>
      )}
    </AskDialog>
  );
}
