import Box from "@mui/material/Box";

import type { Design, Fault, Standby, StandbyTold } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { DeleteButton } from "../../shared/DeleteButton";
import { Folded } from "../../shared/Folded";
import { faultAt } from "../../shared/faults";
import { FIELDS } from "../../shared/fields";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { QuantityField } from "../../shared/QuantityField";
import type { Family } from "../../shared/units";
import { StandbyWords } from "./StandbyWords";

interface Props {
  document: Design;
  index: number;
  told: StandbyTold | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

type Numbers = {
  [Key in keyof Standby]-?: NonNullable<Standby[Key]> extends number ? Key : never;
}[keyof Standby];

interface Figure {
  key: Numbers;
  label: string;
  family: Family;
  digits?: number;
  /** whether it may be unknown */
  open?: true;
}

const HOLDS: Figure[] = [
  { key: "holds_l", label: "Holds", family: "L" },
  { key: "deep_m", label: "Water depth when full", family: "m", digits: 2 },
  { key: "floor_m", label: "Its floor over the ground", family: "m", digits: 2 },
  { key: "hose_mm", label: "Hose bore", family: "mm", open: true },
  { key: "hose_m", label: "Hose length", family: "m", open: true },
  { key: "pump_lpm", label: "Transfer pump", family: "L/min", open: true },
];
const STANDS: Figure[] = [
  { key: "empty_kg", label: "Empty weight", family: "kg" },
  { key: "feet", label: "Legs or pallets", family: "count", digits: 0, open: true },
  { key: "footprint_m2", label: "Area under each", family: "m²", digits: 3, open: true },
  { key: "foot_limit_kg", label: "Each rated for", family: "kg", open: true },
  { key: "vehicle_limit_kg", label: "Vehicle may carry", family: "kg", open: true },
];
const TRIPS: Figure[] = [
  { key: "fill_lpm", label: "Flow at the filling point", family: "L/min", open: true },
  { key: "fill_hose_m", label: "Hose there", family: "m", open: true },
  { key: "trip_min", label: "Way there and back", family: "min", open: true },
  { key: "price_per_trip", label: "Fuel and water a trip", family: "count", digits: 2, open: true },
];
/** A tote or trailer that stands by: what it is, what it stands on, how it is filled, and what it is good for. */
export function StandbySheet({ document, index, told, faults, edit, onDone }: Props) {
  const standby = document.standbys?.[index];
  if (!standby) return null;
  const change = (key: string, recipe: (own: Standby) => void) =>
    edit(`standby${index}.${key}`, (draft) => {
      const own = draft.standbys?.[index];
      if (own) recipe(own);
    });
  const places = document.places.map((place) => ({ value: place.id, text: named(place) }));
  const choose = (key: "fills" | "place" | "filled_at", label: string, options: typeof places) => (
    <Choice
      label={label}
      value={standby[key] ?? ""}
      options={options}
      onChange={(value) => {
        change(key, (own) => {
          if (value || key !== "filled_at") own[key] = value;
          else delete own.filled_at;
        });
        onDone();
      }}
    />
  );
  const fields = (figures: Figure[]) =>
    figures.map(({ key, label, family, digits, open }) => (
      <QuantityField
        key={key}
        label={label}
        family={family}
        {...(digits === undefined ? {} : { digits })}
        value={standby[key] ?? null}
        hint={
          open && standby[key] == null ? (key === "pump_lpm" ? "none: by gravity" : "unknown") : undefined
        }
        fault={faultAt(faults, `/standbys/${index}/${key}`)}
        onDone={onDone}
        onChange={(value) =>
          change(key, (own) => void (own[key] = key === "feet" ? Math.round(value) : value))
        }
        onClear={open ? () => change(key, (own) => void Object.assign(own, { [key]: null })) : undefined}
      />
    ));
  return (
    <>
      {told && <StandbyWords document={document} standby={standby} told={told} />}
      <Box sx={FIELDS}>
        <PartNameField
          value={named(standby)}
          onDone={onDone}
          onChange={(name) => change("name", (own) => void (own.name = name))}
        />
        {choose(
          "fills",
          "Fills",
          (document.vessels ?? []).map((vessel) => ({ value: vessel.id, text: named(vessel) })),
        )}
        {choose("place", "Stands at", places)}
        {fields(HOLDS)}
      </Box>
      <Folded title="What it stands on">
        <Box sx={FIELDS}>{fields(STANDS)}</Box>
      </Folded>
      <Folded title="Filling and trips">
        <Box sx={FIELDS}>
          {choose("filled_at", "Filled at", [{ value: "", text: "unknown" }, ...places])}
          {fields(TRIPS)}
        </Box>
      </Folded>
      <Caution>
        A full tank can crush: level ground, chocks against tipping, and stand and vehicle checked by someone
        competent. Half-full tanks sway on the road. Only food-grade containers.
      </Caution>
      <DeleteButton
        text="Delete this standby"
        onClick={() => {
          edit("standby.deleted", (draft) => {
            const left = (draft.standbys ?? []).filter((one) => one.id !== standby.id);
            if (left.length) draft.standbys = left;
            else delete draft.standbys;
          });
          onDone();
        }}
      />
    </>
  );
}
