import TextField from "@mui/material/TextField";
import { useId, useState } from "react";

const MOST_LETTERS = 120;

interface Props {
  label?: string;
  value: string;
  onChange: (name: string) => void;
  onDone?: () => void;
}

/** The name of a part, which is never empty: an emptied field says so, and the name before stands. */
export function PartNameField({ label = "Name", value, onChange, onDone }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<{ text: string; of: string } | null>(null);
  const text = typed?.of === value ? typed.text : value; // a name that changed elsewhere is shown
  const empty = text.trim() === "";
  return (
    <TextField
      id={id}
      label={label}
      value={text}
      variant="standard"
      size="small"
      fullWidth
      error={empty}
      helperText={empty ? `A name is needed; ${value} stays` : undefined}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { maxLength: MOST_LETTERS, autoComplete: "off" },
      }}
      onChange={({ target }) => {
        const name = target.value.trim();
        setTyped({ text: target.value, of: name || value });
        if (name && name !== value) onChange(name);
      }}
      onBlur={onDone}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        setTyped(null);
      }}
    />
  );
}
