import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";

import type { Analysis, Design, Fault, Rest, Timer } from "../../api/types";
import { deleted, useEdits } from "../../shared/edits";
import { ClockField } from "../../shared/ClockField";
import { faultAt } from "../../shared/faults";
import { TimerStrip } from "./TimerStrip";
import { DeleteButton } from "../../shared/DeleteButton";

interface Props {
  document: Design;
  demand: Analysis["demand"];
  rest: Rest | null;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Timers that water one zone after the other: when each starts, and what goes short meanwhile. */
export function Timers({ document, demand, rest, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const timers = document.timers ?? [];
  const crops = document.crops ?? [];
  const change = (index: number, key: string, recipe: (draft: Timer) => void) =>
    edit(`timer${index}.${key}`, (draft) => {
      const own = draft.timers?.[index];
      if (own) recipe(own);
    });
  if (!crops.length) return null;
  return (
    <Box role="group" aria-label="Timers" sx={{ mt: 3 }}>
      {timers.map((timer, index) => (
        <Box
          key={timer.id}
          role="group"
          aria-label={timer.name ?? timer.id}
          sx={{ display: "flex", flexWrap: "wrap", columnGap: 4, alignItems: "center", mb: 1 }}
        >
          <strong>{timer.name ?? timer.id}</strong>
          <Box sx={{ width: 110 }}>
            <ClockField
              label="Starts"
              value={timer.starts}
              fault={faultAt(faults, `/timers/${index}/starts`)}
              onChange={(value) => {
                if (value) change(index, "starts", (draft) => void (draft.starts = value));
                onDone();
              }}
            />
          </Box>
          {crops.map((crop) => (
            <FormControlLabel
              key={crop.id}
              label={crop.name ?? crop.id}
              sx={{ "& .MuiFormControlLabel-label": { fontSize: 13 }, mr: 0 }}
              control={
                <Checkbox
                  size="small"
                  sx={{ p: 0.5 }}
                  checked={timer.crops.includes(crop.id)}
                  onChange={(event) => {
                    change(index, "crops", (draft) => {
                      const zones = draft.crops.filter((one) => one !== crop.id);
                      if (event.target.checked) zones.push(crop.id);
                      if (zones.length) draft.crops = zones;
                    });
                    onDone();
                  }}
                />
              }
            />
          ))}
          <DeleteButton
            text="Remove"
            onClick={() => {
              apply("timer.deleted", deleted(document.timers?.[index]?.id));
              onDone();
            }}
          />
        </Box>
      ))}
      {timers.length > 0 && <TimerStrip document={document} demand={demand} clashes={rest?.clashes ?? []} />}
      <Button
        sx={{ p: 0 }}
        onClick={() => {
          apply("timer.new", [{ kind: "add_timer" }]);
          onDone();
        }}
      >
        {timers.length ? "Add a timer" : "A timer waters them"}
      </Button>
    </Box>
  );
}
