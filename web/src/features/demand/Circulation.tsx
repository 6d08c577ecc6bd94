import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Circulation as Loop, Design, Fault, PondLoss } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { named } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import type { Family } from "../../shared/units";
import { FIELDS } from "../../shared/fields";

interface Props {
  document: Design;
  pond: PondLoss;
  index: number;
  faults: Fault[];
  change: (key: string, recipe: (own: PondLoss) => void) => void;
  onDone: () => void;
}

const FIGURES: { key: Exclude<keyof Loop, "chamber">; label: string; family: Family; otherwise?: number }[] =
  [
    { key: "pump_lpm", label: "Pump", family: "L/min" },
    { key: "pipe_mm", label: "Bore of the pipe to it", family: "mm" },
    { key: "pipe_m", label: "Length of that pipe", family: "m" },
    { key: "pipe_k", label: "Its fittings, K", family: "count", otherwise: 1.5 },
    { key: "drains_back_l", label: "Drains back when it stops", family: "L", otherwise: 0 },
  ];
// ours, to begin with: the fields stand beside it
const FRESH = { pump_lpm: 60, pipe_mm: 100, pipe_m: 2 };

/** The pump that takes a pond's water out of a filter chamber, and the pipe by which it runs there. */
export function Circulation({ document, pond, index, faults, change, onDone }: Props) {
  const chambers = (document.vessels ?? []).filter(
    ({ id, role }) => id !== pond.vessel && (role === "chamber" || role === "tank"),
  );
  const loop = pond.circulation;
  if (!chambers.length && !loop)
    return (
      <Typography sx={{ my: 1 }}>
        Place a chamber beside the pond under Lines first; the water runs to it through a pipe, and its pump
        sends it back.
      </Typography>
    );
  return (
    <Box sx={FIELDS}>
      <Choice
        label="Filter chamber"
        value={loop?.chamber ?? ""}
        options={[
          { value: "", text: "none" },
          ...chambers.map((vessel) => ({ value: vessel.id, text: named(vessel) })),
        ]}
        hint={loop ? undefined : "with a pump in it"}
        onChange={(chamber) => {
          change("chamber", (own) => {
            if (!chamber) delete own.circulation;
            else own.circulation = { ...FRESH, ...own.circulation, chamber };
          });
          onDone();
        }}
      />
      {loop &&
        FIGURES.map(({ key, label, family, otherwise }) => (
          <QuantityField
            key={key}
            label={label}
            family={family}
            digits={1}
            value={loop[key] ?? otherwise ?? null}
            fault={faultAt(faults, `/ponds/${index}/circulation/${key}`)}
            onDone={onDone}
            onChange={(value) =>
              change(key, (own) => {
                if (own.circulation) own.circulation[key] = value;
              })
            }
          />
        ))}
    </Box>
  );
}
