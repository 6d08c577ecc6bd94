import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { Choice } from "../../shared/Choice";
import { QuantityField } from "../../shared/QuantityField";
import type { End } from "./model";

interface Props {
  fromName: string;
  onTake: (end: End, name: string, lowerM: number) => void;
  onLeave: () => void;
}

const ENDS: { value: End; text: string; name: string }[] = [
  { value: "trough", text: "a trough with a float valve", name: "Trough" },
  { value: "tap", text: "a tap, open to the air", name: "Tap" },
  { value: "tank", text: "another tank", name: "Tank" },
  { value: "junction", text: "a junction: lines go on from here", name: "Junction" },
];

/** What stands at the end of a line that was just drawn, and how much lower it is: what the head is made of. */
export function EndDialog({ fromName, onTake, onLeave }: Props) {
  const [end, setEnd] = useState<End>("trough");
  const [name, setName] = useState("");
  const [lower, setLower] = useState<number | null>(null);
  const usual = ENDS.find((one) => one.value === end)?.name ?? "";
  return (
    <Dialog open onClose={onLeave} aria-labelledby="end-title">
      <Box
        component="form"
        sx={{ p: 5, width: 340, display: "grid", gap: 3 }}
        onSubmit={(event) => {
          event.preventDefault();
          if (lower !== null) onTake(end, name.trim() || usual, lower);
        }}
      >
        <Typography id="end-title" variant="h1">
          What stands at its end?
        </Typography>
        <Choice label="At the end" value={end} options={ENDS} onChange={(value) => setEnd(value as End)} />
        <TextField
          label="Its name"
          value={name}
          placeholder={usual}
          size="small"
          variant="standard"
          autoFocus
          onChange={(event) => setName(event.target.value.slice(0, 120))}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <QuantityField
          label={`How much lower than ${fromName}`}
          family="m"
          digits={2}
          value={lower}
          hint={lower === null ? "ground to ground; higher is negative" : undefined}
          onChange={setLower}
        />
        <Box sx={{ display: "flex", gap: 3 }}>
          <Button type="submit" variant="contained" disabled={lower === null}>
            Lay it
          </Button>
          <Button onClick={onLeave}>Leave it</Button>
        </Box>
      </Box>
    </Dialog>
  );
}
