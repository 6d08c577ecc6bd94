import TextField from "@mui/material/TextField";
import { useId, useState } from "react";

import { ink } from "../app/theme";
import { usePreferences } from "./preferences";
import { fromShown, digitsOf, shownUnit, toShown, typedNumber, type Family, type System } from "./units";

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
}: Props) {
  const system = usePreferences((state) => state.system);
  const id = useId();
  const places = digits ?? digitsOf(value ?? Infinity, family, system);
  const shown = value === null ? "" : String(Number(toShown(value, family, system).toFixed(places)));
  const [kept, setKept] = useState<{ text: string; system: System; before: number | null } | null>(null);
  const typed = kept?.system === system ? kept.text : null; // what was typed in other units is over
  const before = typed === null ? value : (kept?.before ?? null);
  const setTyped = (text: string | null) => setKept(text === null ? null : { text, system, before });

  const nonsense = typed !== null && typed.trim() !== "" && typedNumber(typed) === null;
  const type = (text: string) => {
    setTyped(text);
    const number = typedNumber(text);
    if (number !== null) onChange(fromShown(number, family, system));
    else if (text.trim() === "") onClear?.();
    else if (before !== null) onChange(before); // what is no number leaves nothing of its first figures behind
  };
  const nudge = (steps: number) => {
    if (value === null) return;
    const step = 10 ** -Math.min(places, 1) * steps;
    const next = Number((toShown(value, family, system) + step).toFixed(places));
    setTyped(null);
    onChange(fromShown(next, family, system));
  };
  const message = nonsense ? `“${typed}” is not a number` : (fault ?? hint);
  const unit = shownUnit(family, system);

  return (
    <TextField
      id={id}
      label={label}
      value={typed ?? shown}
      error={nonsense || Boolean(fault)}
      helperText={message}
      size="small"
      variant="standard"
      fullWidth
      onChange={(event) => type(event.target.value)}
      onBlur={() => {
        setTyped(null);
        onDone?.();
      }}
      onKeyDown={(event) => {
        if (event.key === "ArrowUp" || event.key === "ArrowDown") {
          event.preventDefault();
          nudge((event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1));
        } else if (event.key === "Enter" || event.key === "Escape") {
          setTyped(null);
          onDone?.();
        }
      }}
      slotProps={{
        inputLabel: { shrink: true },
        htmlInput: { inputMode: "decimal", autoComplete: "off", spellCheck: false },
        input: {
          endAdornment: unit ? (
            <span style={{ color: ink("faint"), whiteSpace: "nowrap", fontSize: 12 }}>{unit}</span>
          ) : undefined,
        },
      }}
    />
  );
}
