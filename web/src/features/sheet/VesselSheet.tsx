import Box from "@mui/material/Box";

import type { Vessel } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { Caution } from "../../shared/Caution";
import { faultAt } from "../../shared/faults";
import { Folded } from "../../shared/Folded";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { QuantityField } from "../../shared/QuantityField";
import { PAIR, type SheetProps } from "./edit";
import { Assumed, noLongerAssumed } from "./Assumed";
import { GroundField, Position } from "./PlaceFields";
import { ShapeFields } from "./ShapeFields";
import { StoreFields } from "./StoreFields";
import { TroughFields } from "./TroughFields";
import { useDefaults } from "../../shared/defaults";

/** A tank's or trough's figures. */
export function VesselSheet({
  document,
  catalogue,
  faults,
  edit,
  onDone,
  index,
}: SheetProps & { index: number }) {
  const defaults = useDefaults();
  const vessel = document.vessels?.[index];
  if (!vessel) return null;
  const path = `/vessels/${index}`;
  const change = (key: string, recipe: (draft: Vessel) => void) =>
    edit(`${vessel.id}.${key}`, (draft) => {
      const own = draft.vessels?.[index];
      if (!own) return;
      recipe(own);
      noLongerAssumed(own, key);
    });
  const field = (label: string, key: "stand_m" | "level_m" | "outlet_m" | "overflow_m") => (
    <QuantityField
      label={label}
      family="m"
      digits={2}
      value={vessel[key] ?? null}
      fault={faultAt(faults, `${path}/${key}`)}
      onDone={onDone}
      onChange={(value) => change(key, (draft) => void (draft[key] = value))}
    />
  );
  const trough = vessel.role === "trough";
  return (
    <>
      <Assumed part={vessel} kind="vessels" edit={edit} onDone={onDone} />
      <Box sx={PAIR}>
        <Box sx={{ gridColumn: "1 / -1" }}>
          <PartNameField
            value={named(vessel)}
            onDone={onDone}
            onChange={(name) => change("name", (draft) => void (draft.name = name))}
          />
        </Box>
        {field("Water level now", "level_m")}
        <GroundField {...{ document, onDone }} placeId={vessel.place} />
        {field("Stand height", "stand_m")}
        {!trough && field("Outlet above floor", "outlet_m")}
        {field("Overflow above floor", "overflow_m")}
        <Choice
          label="Overflow runs to"
          value={vessel.overflow_into ?? vessel.overflow_onto ?? ""}
          options={[
            { value: "", text: "unknown" },
            { value: "drain", text: "a drain" },
            { value: "ground", text: "the ground where animals stand" },
            ...(document.vessels ?? [])
              .filter((other) => other.id !== vessel.id)
              .map((other) => ({ value: other.id, text: named(other), group: "Another vessel" })),
          ]}
          onChange={(value) => {
            change("overflow_to", (draft) => {
              delete draft.overflow_into;
              delete draft.overflow_onto;
              if (value === "drain" || value === "ground") draft.overflow_onto = value;
              else if (value) draft.overflow_into = value;
            });
            onDone();
          }}
        />
      </Box>
      <Folded title="Shape and size" open>
        <ShapeFields {...{ vessel, catalogue, faults, path, change, onDone }} />
      </Folded>
      <Folded title={trough ? "Animals at it" : "Overflow, weight and access"} open={trough}>
        <Box sx={PAIR}>
          {trough ? (
            <TroughFields {...{ vessel, faults, path, change, onDone }} />
          ) : (
            <StoreFields {...{ vessel, faults, path, change, onDone }} />
          )}
        </Box>
      </Folded>
      <Position {...{ document, onDone }} placeId={vessel.place} />
      {!trough && (
        <Folded title="Site">
          <Box sx={PAIR}>
            <QuantityField
              label="Water temperature"
              family="°C"
              value={document.site.water_c ?? defaults?.water_c ?? null}
              hint={document.site.water_c === undefined ? "assumed, please check" : undefined}
              fault={faultAt(faults, "/site/water_c")}
              onDone={onDone}
              onChange={(value) => edit("site.water", (draft) => void (draft.site.water_c = value))}
            />
            <QuantityField
              label="Altitude of the site"
              family="m"
              digits={0}
              value={document.site.altitude_m ?? 0}
              hint={document.site.altitude_m === undefined ? "assumed: sea level" : undefined}
              fault={faultAt(faults, "/site/altitude_m")}
              onDone={onDone}
              onChange={(value) => edit("site.altitude", (draft) => void (draft.site.altitude_m = value))}
            />
          </Box>
        </Folded>
      )}
      <Caution>
        {trough
          ? "Deep troughs drown children and small animals: keep covers and ramps, and keep electric fence away from wet hands and metal."
          : "A full tank can crush: a cubic metre weighs a tonne. Stands, platforms and masonry need someone competent and the local code."}
      </Caution>
    </>
  );
}
