import Box from "@mui/material/Box";

import type { Analysis, Design, Fault, OtherDemand, PondLoss } from "../../api/types";
import { DeleteButton } from "../../shared/DeleteButton";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import type { Family } from "../../shared/units";
import { OtherTold, ROW } from "./OtherTold";
import { Unattended } from "./Unattended";

interface Props {
  document: Design;
  demand: Analysis["demand"];
  index: number;
  report: OtherDemand | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const POND_FIGURES: { key: Exclude<keyof PondLoss, "vessel">; label: string; family: Family }[] = [
  { key: "pan_mm_d", label: "Pan evaporation, a day", family: "mm rain" },
  { key: "seepage_mm_d", label: "Seepage, a day", family: "mm rain" },
  { key: "change_percent_week", label: "Water changed, % a week", family: "count" },
  { key: "discharge_lpd", label: "Filter discharge", family: "L/d" },
];

/** What an open vessel loses, and what happens while nobody looks. */
export function PondSheet({ document, demand, index, report, faults, edit, onDone }: Props) {
  const pond = document.ponds?.[index];
  if (!pond) return null;
  return (
    <>
      <Box sx={ROW}>
        {POND_FIGURES.map(({ key, label, family }) => (
          <QuantityField
            key={key}
            label={label}
            family={family}
            digits={1}
            value={pond[key] ?? 0}
            fault={faultAt(faults, `/ponds/${index}/${key}`)}
            onDone={onDone}
            onChange={(value) =>
              edit(`pond${index}.${key}`, (draft) => {
                const own = draft.ponds?.[index];
                if (own) own[key] = value;
              })
            }
          />
        ))}
      </Box>
      <OtherTold report={report} />
      {demand.unattended
        .filter((one) => one.vessel === pond.vessel)
        .map((one) => (
          <Unattended key={one.outlet} document={document} fill={one} />
        ))}
      <DeleteButton
        text="Delete these losses"
        onClick={() => {
          edit("pond.deleted", (draft) => {
            draft.ponds = (draft.ponds ?? []).filter((one) => one.vessel !== pond.vessel);
          });
          onDone();
        }}
      />
    </>
  );
}
