import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import type { Design, Fault, Line } from "../../api/types";
import { Cross } from "../../shared/DeleteButton";
import { faultAt } from "../../shared/faults";
import { NameField } from "../../shared/NameField";
import { nameOfPart } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";

interface Props {
  document: Design;
  index: number;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const NEW_M = 4; // how wide a new crossing is: a gateway; ours

/** Where a line passes under a track: it lies in a sleeve there. */
export function Crossings({ document, index, faults, edit, onDone }: Props) {
  const line = document.lines?.[index];
  if (!line) return null;
  const name = nameOfPart(document, line.id);
  const change = (key: string, recipe: (own: Line) => void) =>
    edit(`${line.id}.crossings.${key}`, (draft) => {
      const own = draft.lines?.[index];
      if (own) recipe(own);
    });
  return (
    <Box role="group" aria-label={`Crossings of ${name}`} sx={{ my: 2 }}>
      {(line.crossings ?? []).map((crossing, at) => (
        <Box key={at} sx={{ display: "flex", flexWrap: "wrap", gap: 3, alignItems: "flex-end", my: 1 }}>
          <NameField
            label="Passes under"
            value={crossing.name ?? ""}
            placeholder="Track"
            onChange={(text) =>
              change(`${at}.name`, (own) => {
                const one = own.crossings?.[at];
                if (one && text) one.name = text;
                else if (one) delete one.name;
              })
            }
          />
          {(["at_m", "wide_m"] as const).map((key) => (
            <Box key={key} sx={{ width: 130 }}>
              <QuantityField
                label={key === "at_m" ? "From its start" : "Wide"}
                name={`Crossing ${at + 1} of ${name}, ${key === "at_m" ? "from its start" : "wide"}`}
                family="m"
                digits={1}
                value={crossing[key]}
                fault={
                  faultAt(faults, `/lines/${index}/crossings/${at}/${key}`) ??
                  (key === "at_m" ? faultAt(faults, `/lines/${index}`) : undefined)
                }
                onDone={onDone}
                onChange={(value) =>
                  change(`${at}.${key}`, (own) => {
                    const one = own.crossings?.[at];
                    if (one) one[key] = value;
                  })
                }
              />
            </Box>
          ))}
          <Cross
            label={`Delete crossing ${at + 1} of ${name}`}
            onClick={() => change("list", (own) => void own.crossings?.splice(at, 1))}
          />
        </Box>
      ))}
      <Button
        onClick={() =>
          change("list", (own) => {
            own.crossings = [...(own.crossings ?? []), { at_m: 0, wide_m: NEW_M }];
          })
        }
      >
        Add a crossing under a track
      </Button>
    </Box>
  );
}
