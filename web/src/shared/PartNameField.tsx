import TextField from "@mui/material/TextField";
import { useId, useState } from "react";

const MOST_LETTERS = 120;

interface Props {
  label?: string;
  value: string;
  onChange: (name: string) => void;
  onDone?: () => void;
}

interface Typed {
  text: string;
  /** what the name was while this was typed: the plan follows a little later */
  known: Set<string>;
}

/** The name of a part, which is never empty: an emptied field says so, and the name before stands. */
export function PartNameField({ label = "Name", value, onChange, onDone }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<Typed | null>(null);
  const text = typed?.known.has(value) ? typed.text : value; // a name that changed elsewhere is shown
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
        setTyped({ text: target.value, known: new Set([...(typed?.known ?? []), value, name || value]) });
        if (name) onChange(name);
      }}
      onBlur={() => {
        if (!empty) setTyped(null);
        onDone?.();
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        setTyped(null);
      }}
    />
  );
}
