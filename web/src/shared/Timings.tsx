import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Fault } from "../api/types";
import { DayField } from "./DayField";
import { Cross } from "./DeleteButton";
import { faultAt } from "./faults";
import { QuantityField } from "./QuantityField";

interface Timing {
  volume_l: number;
  time_s: number;
  date?: string | null;
}

interface Props {
  timings: Timing[];
  /** where they stand in the document */
  path: string;
  faults: Fault[];
  /** so many are always there */
  least?: number;
  /** change them; changes with the same key in a row are one step of undo */
  change: (recipe: (draft: Timing[]) => void, key: string) => void;
  onDone: () => void;
}

/** A pail of known size, filled and timed, once or more through the year. */
export function Timings({ timings, path, faults, least = 0, change, onDone }: Props) {
  return (
    <>
      {timings.map((timing, number) => (
        <Box
          key={number}
          sx={{
            display: "grid",
            gridTemplateColumns: "minmax(0, 1.2fr) minmax(0, 1fr) minmax(0, 1fr) auto",
            columnGap: 4,
            alignItems: "start",
            maxWidth: 420,
            my: 1,
          }}
        >
          <DayField
            label={`Timed on, ${number + 1}`}
            value={timing.date ?? ""}
            fault={faultAt(faults, `${path}/${number}/date`)}
            onChange={(value) => {
              change((draft) => {
                const own = draft[number];
                if (own) own.date = value;
              }, `${number}.date`);
              onDone();
            }}
          />
          {(["volume_l", "time_s"] as const).map((key) => (
            <QuantityField
              key={key}
              label={key === "volume_l" ? "Pail" : "Filled in"}
              family={key === "volume_l" ? "L" : "s"}
              digits={1}
              value={timing[key]}
              fault={faultAt(faults, `${path}/${number}/${key}`)}
              onDone={onDone}
              onChange={(value) =>
                change((draft) => {
                  const own = draft[number];
                  if (own) own[key] = value;
                }, `${number}.${key}`)
              }
            />
          ))}
          {timings.length > least ? (
            <Cross
              label={`Delete timing ${number + 1}`}
              onClick={() => {
                change((draft) => void draft.splice(number, 1), "timing.gone");
                onDone();
              }}
            />
          ) : (
            <span />
          )}
        </Box>
      ))}
      <Button
        sx={{ p: 0 }}
        onClick={() => {
          const last = timings.at(-1) ?? { volume_l: 10, time_s: 120 };
          change((draft) => void draft.push({ volume_l: last.volume_l, time_s: last.time_s }), "timing.new");
          onDone();
        }}
      >
        Add a timing
      </Button>
    </>
  );
}
