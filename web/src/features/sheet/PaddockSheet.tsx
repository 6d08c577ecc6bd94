import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";

import type { Paddock } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { useEdits } from "../../shared/edits";
import { faultAt } from "../../shared/faults";
import { troughName } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import { PAIR, type SheetProps } from "./edit";

/** A paddock: what it is called, where its stock drink, how far its grass is from there. */
export function PaddockSheet({ document, faults, edit, onDone, index }: SheetProps & { index: number }) {
  const { apply } = useEdits();
  const paddock = document.paddocks?.[index];
  if (!paddock) return null;
  const corners = paddock.corners ?? [];
  const drawn = corners.length > 2;
  const change = (key: string, recipe: (draft: Paddock) => void) =>
    edit(`${paddock.id}.${key}`, (draft) => {
      const own = draft.paddocks?.[index];
      if (own) recipe(own);
    });
  return (
    <Box sx={PAIR}>
      <TextField
        label="Name"
        variant="standard"
        size="small"
        value={paddock.name ?? ""}
        placeholder={paddock.id}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { maxLength: 120 } }}
        onChange={(event) => change("name", (draft) => void (draft.name = event.target.value || null))}
        onBlur={onDone}
      />
      <Choice
        label="Water from"
        value={paddock.outlet}
        options={(document.outlets ?? []).map((one) => ({
          value: one.id,
          text: troughName(document, one.id),
        }))}
        onChange={(value) => {
          change("outlet", (draft) => void (draft.outlet = value));
          onDone();
        }}
      />
      <QuantityField
        label="Longest walk to water"
        family="m"
        digits={0}
        value={paddock.farthest_m ?? null}
        hint={paddock.farthest_m == null && drawn ? "by its fence; type a longer way round" : undefined}
        fault={faultAt(faults, `/paddocks/${index}/farthest_m`)}
        onDone={onDone}
        onChange={(value) => change("far", (draft) => void (draft.farthest_m = value))}
        onClear={() => change("far", (draft) => void (draft.farthest_m = null))}
      />
      {drawn && (
        <Box component="fieldset" sx={{ ...PAIR, gridColumn: "1 / -1", m: 0, px: 2, border: 0 }}>
          <legend>Corners of its fence</legend>
          {corners.flatMap((corner, number) =>
            (["east", "north"] as const).map((side, axis) => (
              <QuantityField
                key={`${number} ${side}`}
                label={`${number + 1}: ${side}`}
                family="m"
                digits={1}
                value={corner[axis] ?? 0}
                onDone={onDone}
                onChange={(value) =>
                  apply(`${paddock.id}.corner${number}${side}`, [
                    {
                      kind: "set_fence",
                      paddock: paddock.id,
                      corners: corners.map(([x = 0, y = 0], other) =>
                        other !== number ? [x, y] : axis ? [x, value] : [value, y],
                      ),
                    },
                  ])
                }
              />
            )),
          )}
        </Box>
      )}
      {!drawn && (
        <Typography variant="caption" sx={{ gridColumn: "1 / -1" }}>
          Not drawn on the plan yet.
        </Typography>
      )}
    </Box>
  );
}
