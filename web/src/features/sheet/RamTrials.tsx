import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Fault, PressureSource } from "../../api/types";
import { Cross } from "../../shared/DeleteButton";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";

type Ram = Extract<PressureSource, { kind: "ram" }>;
type Trial = NonNullable<Ram["trials"]>[number];

interface Props {
  source: Ram;
  path: string;
  faults: Fault[];
  change: (key: string, recipe: (draft: PressureSource) => void) => void;
  onDone: () => void;
}

const FIELDS = [
  { label: "Waste", of: "waste", key: "volume_l", family: "L" },
  { label: "in", of: "waste", key: "time_s", family: "s" },
  { label: "Delivered", of: "delivery", key: "volume_l", family: "L" },
  { label: "in", of: "delivery", key: "time_s", family: "s" },
] as const;
const FIRST: Trial = {
  waste: { volume_l: 20, time_s: 40 },
  delivery: { volume_l: 2, time_s: 60 },
  lift_m: 10,
};

/** A ram as it was tuned, trial by trial: the last one counts, the best one is marked. */
export function RamTrials({ source, path, faults, change, onDone }: Props) {
  const trials = source.trials ?? [];
  const set = (recipe: (own: Trial[]) => void) =>
    change("trials", (draft) => {
      if (draft.kind === "ram") recipe((draft.trials ??= []));
    });
  return (
    <Box sx={{ mt: 2 }}>
      <Typography variant="body2" color="text.secondary">
        Tune it by a pail at the waste and one at the delivery: change the weight or the stroke, time both
        again, keep the best. The last trial says what it gives.
      </Typography>
      {trials.map((trial, number) => (
        <Box
          key={number}
          sx={{
            display: "grid",
            gridTemplateColumns: "repeat(5, minmax(0, 1fr)) auto",
            columnGap: 2,
            alignItems: "end",
          }}
        >
          {FIELDS.map(({ label, of, key, family }) => (
            <QuantityField
              key={`${of}.${key}`}
              label={label}
              family={family}
              digits={1}
              value={trial[of][key]}
              fault={faultAt(faults, `${path}/trials/${number}/${of}/${key}`)}
              onDone={onDone}
              onChange={(value) =>
                set((own) => {
                  const changed = own[number];
                  if (changed) changed[of][key] = value;
                })
              }
            />
          ))}
          <QuantityField
            label="Lift"
            family="m"
            value={trial.lift_m}
            fault={faultAt(faults, `${path}/trials/${number}/lift_m`)}
            onDone={onDone}
            onChange={(value) =>
              set((own) => {
                const changed = own[number];
                if (changed) changed.lift_m = value;
              })
            }
          />
          <Cross
            label={`Delete trial ${number + 1}`}
            onClick={() => {
              set((own) => void own.splice(number, 1));
              onDone();
            }}
          />
        </Box>
      ))}
      <Button
        sx={{ p: 0 }}
        onClick={() => {
          set((own) => void own.push(structuredClone(trials.at(-1) ?? FIRST)));
          onDone();
        }}
      >
        Add a trial
      </Button>
    </Box>
  );
}
