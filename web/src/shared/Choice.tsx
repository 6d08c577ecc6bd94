import TextField from "@mui/material/TextField";
import { useId } from "react";

interface Props {
  label: string;
  value: string;
  options: { value: string; text: string; group?: string }[];
  onChange: (value: string) => void;
  hint?: string | undefined;
}

/** A choice from a list: the browser's own select, which every keyboard and screen reader knows. */
export function Choice({ label, value, options, onChange, hint }: Props) {
  const id = useId();
  const groups = [...new Set(options.map((option) => option.group ?? ""))];
  const items = (group: string) =>
    options
      .filter((option) => (option.group ?? "") === group)
      .map((option) => (
        <option key={option.value} value={option.value}>
          {option.text}
        </option>
      ));
  return (
    <TextField
      id={id}
      select
      label={label}
      value={value}
      size="small"
      variant="standard"
      fullWidth
      helperText={hint}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
    >
      {groups.map((group) =>
        group ? (
          <optgroup key={group} label={group}>
            {items(group)}
          </optgroup>
        ) : (
          items(group)
        ),
      )}
    </TextField>
  );
}
