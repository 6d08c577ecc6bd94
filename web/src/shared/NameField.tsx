import TextField from "@mui/material/TextField";

const MOST_LETTERS = 110;

interface Props {
  label?: string;
  value: string;
  /** what it is called where nothing is typed */
  placeholder: string;
  autoFocus?: boolean;
  onChange: (name: string) => void;
}

/** What something new is called. */
export function NameField({ label = "Name", value, placeholder, autoFocus = false, onChange }: Props) {
  return (
    <TextField
      label={label}
      value={value}
      placeholder={placeholder}
      size="small"
      variant="standard"
      autoFocus={autoFocus}
      onChange={(event) => onChange(event.target.value.slice(0, MOST_LETTERS))}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
