import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";

import type { Fault, Vessel } from "../../api/types";
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

type Figure = "rim_m" | "empty_kg" | "over_nipples_m";

const FIGURES: {
  key: Figure;
  label: string;
  family: Family;
  digits: number;
  empty: string;
  nipples?: boolean;
}[] = [
  { key: "rim_m", label: "Usable trough edge", family: "m", digits: 1, empty: "empty: all of it" },
  { key: "empty_kg", label: "Weight, empty", family: "kg", digits: 0, empty: "empty: pushing is not judged" },
  {
    key: "over_nipples_m",
    label: "Water above nipples",
    family: "m",
    digits: 2,
    empty: "assumed: 0.10 m",
    nipples: true,
  },
];

/** What of a trough matters to the animals at it: rim, weight, nipples, and whether it goes with them. */
export function TroughFields({ vessel, faults, path, change, onDone }: Props) {
  const nipples = vessel.nipples ?? 0;
  const portable = vessel.portable ?? null;
  return (
    <>
      {FIGURES.filter((one) => !one.nipples || nipples > 0).map(({ key, label, family, digits, empty }) => (
        <QuantityField
          key={key}
          label={label}
          family={family}
          digits={digits}
          value={vessel[key] ?? null}
          hint={vessel[key] == null ? empty : undefined}
          fault={faultAt(faults, `${path}/${key}`)}
          onDone={onDone}
          onChange={(value) => change(key, (draft) => void (draft[key] = value))}
          onClear={() => change(key, (draft) => void (draft[key] = null))}
        />
      ))}
      <QuantityField
        label="Nipples"
        family="count"
        value={nipples}
        hint={nipples ? "one animal at each" : "none: they drink at the edge"}
        fault={faultAt(faults, `${path}/nipples`)}
        onDone={onDone}
        onChange={(value) => change("nipples", (draft) => void (draft.nipples = value))}
      />
      {nipples > 0 && (
        <QuantityField
          label="Nipples above its floor"
          family="m"
          digits={2}
          value={vessel.nipples_m ?? 0}
          fault={faultAt(faults, `${path}/nipples_m`)}
          onDone={onDone}
          onChange={(value) => change("nipples_m", (draft) => void (draft.nipples_m = value))}
        />
      )}
      <FormControlLabel
        label="Moves with the herd"
        control={
          <Checkbox
            size="small"
            checked={portable !== null}
            onChange={(event) => {
              change("portable", (draft) => void (draft.portable = event.target.checked ? {} : null));
              onDone();
            }}
          />
        }
      />
      {portable && (
        <>
          <QuantityField
            label="Emptied at each move"
            family="L"
            value={portable.thrown_l ?? null}
            hint={portable.thrown_l == null ? "empty: all it holds" : undefined}
            fault={faultAt(faults, `${path}/portable/thrown_l`)}
            onDone={onDone}
            onChange={(value) =>
              change("thrown", (draft) => void (draft.portable = { ...draft.portable, thrown_l: value }))
            }
            onClear={() =>
              change("thrown", (draft) => void (draft.portable = { ...draft.portable, thrown_l: null }))
            }
          />
          <QuantityField
            label="Time for each move"
            family="min"
            value={portable.minutes ?? null}
            fault={faultAt(faults, `${path}/portable/minutes`)}
            onDone={onDone}
            onChange={(value) =>
              change("minutes", (draft) => void (draft.portable = { ...draft.portable, minutes: value }))
            }
            onClear={() =>
              change("minutes", (draft) => void (draft.portable = { ...draft.portable, minutes: null }))
            }
          />
        </>
      )}
    </>
  );
}
