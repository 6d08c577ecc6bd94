import Box from "@mui/material/Box";

import type { Vessel } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { PAIR, type SheetProps } from "./edit";
import { Assumed, noLongerAssumed } from "./Assumed";
import { PlaceFields } from "./PlaceFields";
import { StoreFields } from "./StoreFields";
import { TroughFields } from "./TroughFields";
import { useDefaults } from "../../shared/defaults";

const SIDES: Record<string, string> = {
  length_m: "Inside length",
  width_m: "Inside width",
  height_m: "Inside height",
  diameter_m: "Inside diameter",
  bottom_diameter_m: "Diameter at floor",
  top_diameter_m: "Diameter at rim",
};

/** A tank's or trough's figures. */
export function VesselSheet({ document, faults, edit, onDone, index }: SheetProps & { index: number }) {
  const defaults = useDefaults();
  const vessel = document.vessels?.[index];
  if (!vessel) return null;
  const path = `/vessels/${index}`;
  const change = (key: string, recipe: (draft: Vessel) => void) =>
    edit(`${vessel.id}.${key}`, (draft) => {
      const own = draft.vessels?.[index];
      if (!own) return;
      recipe(own);
      noLongerAssumed(own, key in SIDES ? "shape" : key);
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
  const shape = vessel.shape;
  const sides = Object.entries(SIDES).filter(([key]) => key in shape) as [keyof typeof shape, string][];
  return (
    <Box sx={PAIR}>
      <Assumed part={vessel} kind="vessels" edit={edit} onDone={onDone} />
      <PlaceFields {...{ document, edit, onDone }} placeId={vessel.place} />
      {field("Stand height", "stand_m")}
      {field("Water level now", "level_m")}
      {vessel.role === "trough" ? null : field("Outlet above floor", "outlet_m")}
      {field("Overflow above floor", "overflow_m")}
      {sides.map(([key, label]) => (
        <QuantityField
          key={key}
          label={label}
          family="m"
          digits={2}
          value={Number(shape[key])}
          fault={faultAt(faults, `${path}/shape/${key}`)}
          onDone={onDone}
          onChange={(value) => change(key, (draft) => void Object.assign(draft.shape, { [key]: value }))}
        />
      ))}
      {vessel.role === "trough" && <TroughFields {...{ vessel, faults, path, change, onDone }} />}
      {vessel.role !== "trough" && <StoreFields {...{ vessel, faults, path, change, onDone }} />}
      {vessel.role !== "trough" && (
        <>
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
        </>
      )}
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Caution>
          {vessel.role === "trough"
            ? "Deep troughs drown children and small animals: keep covers and ramps, and keep electric fence away from wet hands and metal."
            : "A full tank can crush: a cubic metre weighs a tonne. Stands, platforms and masonry need someone competent and the local code."}
        </Caution>
      </Box>
    </Box>
  );
}
