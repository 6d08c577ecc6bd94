import TextField from "@mui/material/TextField";
import { memo, useId } from "react";

import { sameOptions, type Option } from "./options";
import { useSteady } from "./useSteady";

interface Props {
  label: string;
  value: string;
  options: Option[];
  onChange: (value: string) => void;
  hint?: string | undefined;
}

/** A choice from a list: the browser's own select, which every keyboard and screen reader knows. */
export function Choice(props: Props) {
  return <Select {...props} onChange={useSteady(props.onChange)} />;
}

// options are often made anew and mostly alike; of a large plan they are hundreds
const Select = memo(
  SelectField,
  (a, b) =>
    a.label === b.label && a.value === b.value && a.hint === b.hint && sameOptions(a.options, b.options),
);

function SelectField({ label, value, options, onChange, hint }: Props) {
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
