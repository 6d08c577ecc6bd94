import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useId, type ReactNode } from "react";

import { ink } from "../app/theme";
import { usePreferences } from "./preferences";
import { shownUnit, type Family } from "./units";
import { limitText, useTypedNumber, type Trouble } from "./useTypedNumber";

interface Props {
  label: string;
  family: Family;
  /** in the document's unit; null shows an empty field */
  value: number | null;
  onChange: (value: number) => void;
  /** the field may be emptied, where the figure is optional */
  onClear?: (() => void) | undefined;
  onDone?: () => void;
  digits?: number;
  fault?: string | undefined;
  hint?: string | undefined;
  /** for those who hear the page, where a table's head stands for the label */
  name?: string;
}

/** A number in the user's units: takes effect as it is typed, says what is wrong, arrows step it. */
export function QuantityField({
  label,
  family,
  value,
  onChange,
  onClear,
  onDone,
  digits,
  fault,
  hint,
  name,
}: Props) {
  const system = usePreferences((state) => state.system);
  const id = useId();
  const typed = useTypedNumber({ family, value, onChange, onClear, digits });
  const { trouble } = typed;
  const unit = shownUnit(family, system);
  const choose = (figure: number) => {
    typed.choose(figure);
    onDone?.();
  };

  return (
    <TextField
      id={id}
      label={label}
      value={typed.text}
      error={trouble !== null || Boolean(fault)}
      helperText={
        trouble ? told(trouble, typed.shown, choose) : fault ? limitText(fault, family, system) : hint
      }
      size="small"
      variant="standard"
      fullWidth
      sx={name ? { "& input": { py: { xs: 3, md: 1 } } } : undefined} // as large for a finger without a label
      onChange={(event) => typed.type(event.target.value)}
      onBlur={() => {
        typed.leave();
        onDone?.();
      }}
      onKeyDown={(event) => {
        if (event.key === "ArrowUp" || event.key === "ArrowDown") {
          event.preventDefault();
          typed.nudge((event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1));
        } else if (event.key === "Enter") {
          typed.leave();
          onDone?.();
        } else if (event.key === "Escape") {
          typed.giveUp();
          onDone?.();
        }
      }}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { inputMode: "decimal", autoComplete: "off", spellCheck: false, "aria-label": name },
        input: {
          endAdornment: unit ? (
            <span style={{ color: ink("faint"), whiteSpace: "nowrap", fontSize: 12 }}>{unit}</span>
          ) : undefined,
        },
      }}
    />
  );
}

/** What is wrong, what stands meanwhile, and, where it may be two numbers, which of them is meant. */
function told(trouble: Trouble, stands: string, choose: (figure: number) => void): ReactNode {
  const meanwhile = stands === "" ? "" : `; ${stands} stands`;
  if (trouble.kind === "empty") return `A number is needed${meanwhile}`;
  if (trouble.kind === "nonsense") return `“${trouble.text}” is not a number${meanwhile}`;
  return (
    <>
      “{trouble.text}” may be two numbers:{" "}
      {trouble.values.map((figure) => (
        <Button
          key={figure}
          variant="text"
          sx={{ p: 0, mr: 2, minWidth: 24, minHeight: 24, fontSize: 12, textDecoration: "underline" }}
          onMouseDown={(event) => event.preventDefault()} // the field keeps what was typed
          onClick={() => choose(figure)}
        >
          {String(figure)}
        </Button>
      ))}
    </>
  );
}
