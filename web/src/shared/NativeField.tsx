import TextField from "@mui/material/TextField";
import { useId } from "react";

export interface NativeProps {
  label: string;
  /** as the browser's field writes it; empty where none is given */
  value: string;
  onChange: (value: string | null) => void;
  fault?: string | undefined;
  hint?: string | undefined;
}

/** A day or a time of day in the browser's own field, which every keyboard and screen reader knows. */
export function NativeField({
  type,
  label,
  value,
  onChange,
  fault,
  hint,
}: NativeProps & { type: "date" | "time" }) {
  const id = useId();
  return (
    <TextField
      id={id}
      type={type}
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
