import type { Fault, Vessel } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import type { Family } from "../../shared/units";

interface Props {
  vessel: Vessel;
  faults: Fault[];
  path: string;
  change: (key: string, recipe: (draft: Vessel) => void) => void;
  onDone: () => void;
}

type Figure = "overflow_mm" | "empty_kg" | "stand_limit_kg";

const FIGURES: { key: Figure; label: string; family: Family; empty: string }[] = [
  { key: "overflow_mm", label: "Overflow bore", family: "mm", empty: "unknown: not judged" },
  { key: "empty_kg", label: "Weight, empty", family: "kg", empty: "unknown: only its water counts" },
  { key: "stand_limit_kg", label: "Stand is rated for", family: "kg", empty: "unknown" },
];
const ASKED: { key: "food_grade" | "reachable"; label: string }[] = [
  { key: "food_grade", label: "Food grade" },
  { key: "reachable", label: "Tanker access" },
];

/** What of a store matters beside its water: overflow, weight, stand, what it held, and the way to it. */
export function StoreFields({ vessel, faults, path, change, onDone }: Props) {
  return (
    <>
      {FIGURES.map(({ key, label, family, empty }) => (
        <QuantityField
          key={key}
          label={label}
          family={family}
          digits={0}
          value={vessel[key] ?? null}
          hint={vessel[key] == null ? empty : undefined}
          fault={faultAt(faults, `${path}/${key}`)}
          onDone={onDone}
          onChange={(value) => change(key, (draft) => void (draft[key] = value))}
          onClear={() => change(key, (draft) => void (draft[key] = null))}
        />
      ))}
      {ASKED.map(({ key, label }) => (
        <Choice
          key={key}
          label={label}
          value={vessel[key] == null ? "" : vessel[key] ? "yes" : "no"}
          options={[
            { value: "", text: "unknown" },
            { value: "yes", text: "yes" },
            { value: "no", text: "no" },
          ]}
          onChange={(value) => {
            change(key, (draft) => void (draft[key] = value === "" ? null : value === "yes"));
            onDone();
          }}
        />
      ))}
    </>
  );
}
