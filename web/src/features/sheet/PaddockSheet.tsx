import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Paddock } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { useEdits } from "../../shared/edits";
import { faultAt } from "../../shared/faults";
import { named, troughName } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { areaText } from "../../shared/units";
import { Folded } from "../../shared/Folded";
import { areaOf } from "../../shared/way";
import { PAIR, type SheetProps } from "./edit";

/** A paddock: what it is called, where its stock drink, how far its grass is from there. */
export function PaddockSheet({ document, faults, edit, onDone, index }: SheetProps & { index: number }) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
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
      <PartNameField
        value={named(paddock)}
        onDone={onDone}
        onChange={(name) => change("name", (draft) => void (draft.name = name))}
      />
      <Choice
        label="Water from"
        value={paddock.outlet ?? ""}
        options={[
          ...(paddock.outlet ? [] : [{ value: "", text: "not set yet" }]),
          ...(document.outlets ?? []).map((one) => ({ value: one.id, text: troughName(document, one.id) })),
        ]}
        onChange={(value) => {
          change("outlet", (draft) => void (draft.outlet = value || null));
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
        <Typography sx={{ gridColumn: "1 / -1" }} data-testid="paddock-area">
          Area on the plan: {areaText(areaOf(corners), system)}
        </Typography>
      )}
      {drawn && (
        <Box sx={{ gridColumn: "1 / -1" }}>
          <Folded title="Corners">
            <Box sx={PAIR}>
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
          </Folded>
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
