import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";

import { ink } from "../app/theme";
import type { Together } from "./route";

interface Props {
  value: Together;
  onChange: (value: Together) => void;
}

/** Whether the pictures show all outlets drawing together, or each by itself. */
export function DrawingSwitch({ value, onChange }: Props) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={value}
      onChange={(_, chosen: Together | null) => {
        if (chosen) onChange(chosen);
      }}
      aria-label="Which outlets run"
      sx={{
        bgcolor: ink("paper"),
        "& button": { py: 0.5, px: 2, color: ink("ink"), borderColor: ink("rule"), textTransform: "none" },
        "& button.Mui-selected, & button.Mui-selected:hover": { bgcolor: ink("deep"), color: ink("paper") },
      }}
    >
      <ToggleButton value="together">All running</ToggleButton>
      <ToggleButton value="alone">One at a time</ToggleButton>
    </ToggleButtonGroup>
  );
}
