import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";

import type { Design, Fault, Frost } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { DayField } from "../../shared/DayField";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import type { BuildProps } from "./Build";

interface Props extends Pick<BuildProps, "edit" | "onDone"> {
  frost: Frost;
  site: Design["site"];
  faults: Fault[];
  onDelete: () => void;
}

const SOILS = [
  { value: "sand", text: "sand" },
  { value: "loam", text: "loam" },
  { value: "clay", text: "clay" },
  { value: "peat", text: "peat" },
];

type Soil = NonNullable<Frost["soil"]>;

/** The frost that the plan is asked about: when, how cold, what wind, what ground. */
export function FrostFields({ frost, site, faults, edit, onDone, onDelete }: Props) {
  const change = (key: string, recipe: (own: Frost) => void) =>
    edit(`frost.${key}`, (draft) => {
      if (draft.frost) recipe(draft.frost);
    });
  const at = (key: string) => faultAt(faults, `/frost/${key}`);
  return (
    <>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(150px, 1fr))",
          columnGap: 4,
          rowGap: 3,
          my: 3,
        }}
      >
        <DayField
          label="First day of frost"
          value={frost.from}
          fault={at("from")}
          onChange={(day) => {
            if (day) change("from", (own) => void (own.from = day));
            onDone();
          }}
        />
        <DayField
          label="Last day"
          value={frost.to}
          fault={at("to")}
          onChange={(day) => {
            if (day) change("to", (own) => void (own.to = day));
            onDone();
          }}
        />
        <QuantityField
          label="Air, day and night"
          family="°C"
          value={frost.air_c}
          hint="the mean; below freezing"
          fault={at("air_c")}
          onDone={onDone}
          onChange={(value) => change("air_c", (own) => void (own.air_c = value))}
        />
        <QuantityField
          label="Wind"
          family="m/s"
          value={frost.wind_mps ?? null}
          fault={at("wind_mps")}
          onDone={onDone}
          onChange={(value) => change("wind_mps", (own) => void (own.wind_mps = value))}
        />
        <QuantityField
          label="Water from the source"
          family="°C"
          value={frost.water_c ?? null}
          hint={frost.water_c == null ? `as the site's, ${site.water_c ?? 10} °C: measure it` : undefined}
          fault={at("water_c")}
          onDone={onDone}
          onChange={(value) => change("water_c", (own) => void (own.water_c = value))}
          onClear={() => change("water_c", (own) => void delete own.water_c)}
        />
        <Choice
          label="Soil"
          value={frost.soil ?? "loam"}
          options={SOILS}
          onChange={(value) => {
            change("soil", (own) => void (own.soil = value as Soil));
            onDone();
          }}
        />
        <QuantityField
          label="Frost goes as deep as"
          family="m"
          value={frost.depth_m ?? null}
          hint={frost.depth_m == null ? "by soil and days: better ask" : "as people know it"}
          fault={at("depth_m")}
          onDone={onDone}
          onChange={(value) => change("depth_m", (own) => void (own.depth_m = value))}
          onClear={() => change("depth_m", (own) => void delete own.depth_m)}
        />
        <QuantityField
          label="Snow on open ice"
          family="m"
          value={frost.snow_m ?? 0}
          fault={at("snow_m")}
          onDone={onDone}
          onChange={(value) => change("snow_m", (own) => void (own.snow_m = value))}
        />
      </Box>
      <FormControlLabel
        sx={{ minHeight: 44 }}
        control={
          <Checkbox
            checked={frost.drained ?? false}
            onChange={(event) => {
              const drained = event.target.checked;
              change("drained", (own) => void (own.drained = drained));
              onDone();
            }}
          />
        }
        label="The lines are drained before it"
      />
      <Button onClick={onDelete}>Delete this frost</Button>
    </>
  );
}
