import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";

import type { Design, Fault, Herd, Rotation } from "../../api/types";
import { deleted, useEdits } from "../../shared/edits";
import { DayField } from "../../shared/DayField";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { stopsOf } from "./model";
import { DeleteButton } from "../../shared/DeleteButton";

interface Props {
  document: Design;
  herd: Herd;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Where the herd is over the season: troughs in turn, some days at each. */
export function Moves({ document, herd, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const own = (document.calendar ?? []).flatMap((rotation, index) =>
    rotation.herd === herd.id ? [{ rotation, index }] : [],
  );
  const change = (index: number, key: string, recipe: (draft: Rotation) => void) =>
    edit(`move${index}.${key}`, (draft) => {
      const found = draft.calendar?.[index];
      if (found) recipe(found);
    });
  return (
    <Box sx={{ mt: 2 }}>
      {own.map(({ rotation, index }) => {
        const path = `/calendar/${index}`;
        return (
          <Box
            key={rotation.id}
            role="group"
            aria-label={`Moves of ${herd.name ?? herd.id}`}
            sx={{
              display: "grid",
              gridTemplateColumns: { xs: "1fr 1fr", md: "124px 124px 84px 92px 1fr auto" },
              columnGap: 4,
              alignItems: "start",
              mb: 1,
            }}
          >
            <DayField
              label="From"
              value={rotation.from}
              fault={faultAt(faults, `${path}/from`)}
              onChange={(value) => {
                if (value) change(index, "from", (draft) => void (draft.from = value));
                onDone();
              }}
            />
            <DayField
              label="Last day"
              value={rotation.to ?? ""}
              fault={faultAt(faults, path) ?? faultAt(faults, `${path}/to`)}
              onChange={(value) => {
                change(index, "to", (draft) => void (draft.to = value));
                onDone();
              }}
            />
            <QuantityField
              label="Days at each"
              family="count"
              digits={2}
              value={rotation.days_each ?? 1}
              fault={faultAt(faults, `${path}/days_each`)}
              onDone={onDone}
              onChange={(value) => change(index, "days", (draft) => void (draft.days_each = value))}
            />
            {rotation.paddocks?.length ? (
              <Box sx={{ display: { xs: "none", md: "block" } }} />
            ) : (
              <QuantityField
                label="Longest walk to water"
                family="m"
                digits={0}
                value={rotation.farthest_m ?? null}
                fault={faultAt(faults, `${path}/farthest_m`)}
                onDone={onDone}
                onChange={(value) => change(index, "far", (draft) => void (draft.farthest_m = value))}
                onClear={() => change(index, "far", (draft) => void (draft.farthest_m = null))}
              />
            )}
            <Box
              sx={{
                display: "flex",
                flexWrap: "wrap",
                columnGap: 2,
                gridColumn: { xs: "1 / -1", md: "auto" },
              }}
            >
              {stopsOf(document, rotation).map((stop) => (
                <FormControlLabel
                  key={stop.id}
                  label={stop.text}
                  sx={{ "& .MuiFormControlLabel-label": { fontSize: 13 }, mr: 0 }}
                  control={
                    <Checkbox
                      size="small"
                      sx={{ p: 0.5, ml: 1 }}
                      checked={stop.chosen}
                      onChange={(event) => {
                        change(index, "stops", (draft) => {
                          const key = draft.paddocks?.length ? "paddocks" : "outlets";
                          const stops = (draft[key] ?? []).filter((one) => one !== stop.id);
                          if (event.target.checked) stops.push(stop.id);
                          if (stops.length) draft[key] = stops;
                        });
                        onDone();
                      }}
                    />
                  }
                />
              ))}
              {!rotation.paddocks?.length && (document.paddocks ?? []).length > 0 && (
                <Button
                  sx={{ p: 0 }}
                  onClick={() => {
                    change(index, "bypaddock", (draft) => {
                      draft.paddocks = [document.paddocks?.[0]?.id ?? ""];
                      draft.outlets = [];
                    });
                    onDone();
                  }}
                >
                  By paddock
                </Button>
              )}
            </Box>
            <DeleteButton
              text="Remove"
              onClick={() => {
                apply("move.deleted", deleted(document.calendar?.[index]?.id));
                onDone();
              }}
            />
          </Box>
        );
      })}
      <Button
        data-testid="add-moves"
        sx={{ p: 0 }}
        onClick={() => {
          apply("move.new", [{ kind: "add_rotation", herd: herd.id, year: new Date().getFullYear() }]);
          onDone();
        }}
      >
        {own.length ? "Add rotation" : "Add rotation"}
      </Button>
    </Box>
  );
}
