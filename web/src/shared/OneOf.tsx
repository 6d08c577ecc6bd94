import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

import { ink } from "../app/theme";

interface Props<Value extends string> {
  /** for those who hear the page */
  name: string;
  value: Value;
  options: readonly { value: Value; text: string }[];
  onChange: (value: Value) => void;
}

/** One of a few, side by side: which is shown. */
export function OneOf<Value extends string>({ name, value, options, onChange }: Props<Value>) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={value}
      onChange={(_, chosen: Value | null) => {
        if (chosen) onChange(chosen);
      }}
      aria-label={name}
      sx={{
        bgcolor: ink("paper"),
        flexWrap: "wrap",
        "& button": { py: 0.5, px: 2, color: ink("ink"), borderColor: ink("rule"), textTransform: "none" },
        "& button.Mui-selected, & button.Mui-selected:hover": { bgcolor: ink("deep"), color: ink("paper") },
      }}
    >
      {options.map((option) => (
        <ToggleButton key={option.value} value={option.value}>
          {option.text}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
