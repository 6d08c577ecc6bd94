import TextField from "@mui/material/TextField";
import { useId } from "react";

interface Props {
  label: string;
  /** as 2026-05-31; empty where none is given */
  value: string;
  onChange: (value: string | null) => void;
  fault?: string | undefined;
  hint?: string | undefined;
}

/** A day of the calendar, in the browser's own field. */
export function DayField({ label, value, onChange, fault, hint }: Props) {
  const id = useId();
  return (
    <TextField
      id={id}
      type="date"
      label={label}
      value={value}
      size="small"
      variant="standard"
      fullWidth
      error={Boolean(fault)}
      helperText={fault ?? hint}
      onChange={(event) => onChange(event.target.value || null)}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
