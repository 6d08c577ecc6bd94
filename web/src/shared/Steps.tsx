import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { dayAfter } from "./calendar";
import { DayField } from "./DayField";
import { QuantityField } from "./QuantityField";
import type { Family } from "./units";
import { Cross } from "./DeleteButton";

export interface Step {
  from: string;
  value: number;
}

interface Props {
  /** what is set, as "Heads" */
  label: string;
  family: Family;
  digits?: number;
  steps: Step[];
  /** what the button says while there are no steps */
  ask: string;
  /** the figure before the first step */
  first: number;
  /** the year of the season shown */
  year: string;
  fault?: string | undefined;
  onChange: (key: string, steps: Step[]) => void;
  onDone: () => void;
}

/** A figure that changes over the season: from a day on, another value. */
export function Steps({ label, family, digits, steps, ask, first, year, fault, onChange, onDone }: Props) {
  const sorted = (all: Step[]) => [...all].sort((a, b) => a.from.localeCompare(b.from));
  const set = (key: string, index: number, step: Step) =>
    onChange(key, sorted(steps.map((one, at) => (at === index ? step : one))));
  return (
    <Box
      role="group"
      aria-label={`${label} over the season`}
      sx={{ display: "flex", flexWrap: "wrap", columnGap: 4, rowGap: 1 }}
    >
      {steps.map((step, index) => (
        <Box key={index} sx={{ display: "flex", gap: 2, alignItems: "start" }}>
          <Box sx={{ width: 128 }}>
            <DayField
              label={`From, ${index + 1}`}
              value={step.from}
              fault={fault}
              onChange={(from) => {
                if (from && !steps.some((one, at) => at !== index && one.from === from))
                  set(`from${index}`, index, { ...step, from });
                onDone();
              }}
            />
          </Box>
          <Box sx={{ width: 92 }}>
            <QuantityField
              label={`${label}, ${index + 1}`}
              family={family}
              {...(digits === undefined ? {} : { digits })}
              value={step.value}
              onDone={onDone}
              onChange={(value) => set(`value${index}`, index, { ...step, value })}
            />
          </Box>
          <Cross
            label={`Delete step ${index + 1}`}
            onClick={() => {
              onChange(
                "gone",
                steps.filter((_, at) => at !== index),
              );
              onDone();
            }}
          />
        </Box>
      ))}
      <Button
        sx={{ p: 0 }}
        onClick={() => {
          onChange(
            "new",
            sorted([
              ...steps,
              { from: dayAfter(steps.at(-1)?.from ?? `${year}-05-31`), value: steps.at(-1)?.value ?? first },
            ]),
          );
          onDone();
        }}
      >
        {steps.length ? "One more step" : ask}
      </Button>
    </Box>
  );
}
