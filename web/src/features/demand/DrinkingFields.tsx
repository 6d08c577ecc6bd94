import Box from "@mui/material/Box";

import type { Drinking, Fault, Herd, Visit } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import type { Family } from "../../shared/units";

interface Props {
  herd: Herd;
  habit: Visit["habit"] | undefined;
  faults: Fault[];
  path: string;
  change: (key: string, recipe: (draft: Herd) => void) => void;
  onDone: () => void;
}

type Figure = Exclude<keyof Drinking, "pattern">;

interface Row {
  key: Figure;
  label: string;
  family: Family;
  digits?: number;
  /** the field shows this many times the document's figure */
  times?: number;
}

const MOB: Row[] = [
  { key: "share", label: "Arriving together, %", family: "count", times: 100 },
  { key: "within_min", label: "Arrive within", family: "min" },
  { key: "visits", label: "Visits a day", family: "count" },
  { key: "rate_lpm", label: "Drinking rate", family: "L/min" },
  { key: "width_m", label: "Trough space each", family: "m", digits: 2 },
  { key: "patience_min", label: "Longest wait accepted", family: "min" },
];
const NEAR: Row[] = [
  { key: "daylight_h", label: "Drink over, hours", family: "count" },
  { key: "peak_factor", label: "Peak over mean", family: "count", digits: 1 },
];

/** How the herd drinks: every figure that is left open shows our default and says so. */
export function DrinkingFields({ herd, habit, faults, path, change, onDone }: Props) {
  const drinking = herd.drinking ?? null;
  const rows = drinking?.pattern === "mob" ? MOB : drinking?.pattern === "near" ? NEAR : [];
  const set = (key: Figure, value: number | null) =>
    change(`drinking.${key}`, (draft) => {
      if (draft.drinking) draft.drinking[key] = value;
    });
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "repeat(auto-fill, minmax(124px, 1fr))",
        columnGap: 3,
        rowGap: 2,
        mt: 3,
      }}
    >
      <Choice
        label="How they drink"
        value={drinking?.pattern ?? ""}
        options={[
          { value: "", text: "unknown" },
          { value: "near", text: "as they like" },
          { value: "mob", text: "all at once" },
        ]}
        hint={drinking ? undefined : "the trough is not judged by it"}
        onChange={(value) => {
          change(
            "pattern",
            (draft) => void (draft.drinking = value ? { pattern: value as Drinking["pattern"] } : null),
          );
          onDone();
        }}
      />
      {rows.map(({ key, label, family, digits, times = 1 }) => {
        const own = drinking?.[key] ?? null;
        const used = own ?? habit?.[key] ?? null;
        return (
          <QuantityField
            key={key}
            label={label}
            family={family}
            {...(digits === undefined ? {} : { digits })}
            value={used === null ? null : used * times}
            hint={own === null ? "assumed, please check" : undefined}
            fault={faultAt(faults, `${path}/drinking/${key}`)}
            onDone={onDone}
            onChange={(value) => set(key, value / times)}
            onClear={() => set(key, null)}
          />
        );
      })}
    </Box>
  );
}
