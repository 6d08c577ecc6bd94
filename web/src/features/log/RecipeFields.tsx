import Box from "@mui/material/Box";
import TextField from "@mui/material/TextField";

import type { Dosing, Fault } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { DeleteButton } from "../../shared/DeleteButton";
import { faultAt } from "../../shared/faults";
import { nameOfPart } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import { USUAL_DAYS } from "./amount";
import type { Mixes } from "./Log";

interface Props extends Pick<Mixes, "document" | "edit" | "onDone"> {
  dosing: Dosing;
  index: number;
  faults: Fault[];
  onDelete: () => void;
}

const MEASURES: Dosing["measure"][] = [
  "tsp",
  "tbsp",
  "cup",
  "fl oz",
  "pint",
  "quart",
  "gallon",
  "mL",
  "L",
  "metric tsp",
  "metric tbsp",
  "metric cup",
  "g",
  "kg",
  "oz",
  "lb",
];

const INTO = [
  { value: "reservoir", text: "the reservoir" },
  { value: "pot", text: "the pots, plain water by float" },
];

/** A recipe, as its packet has it. */
export function RecipeFields({ document, dosing, index, faults, edit, onDone, onDelete }: Props) {
  const change = (key: string, recipe: (own: Dosing) => void) =>
    edit(`dosings${index}.${key}`, (draft) => {
      const own = draft.dosings?.[index];
      if (own) recipe(own);
    });
  const at = (key: string) => faultAt(faults, `/dosings/${index}/${key}`);
  const choose = (key: string, recipe: (own: Dosing) => void) => {
    change(key, recipe);
    onDone();
  };
  const vessels = (document.vessels ?? []).filter(({ role }) => role !== "trough");
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "repeat(auto-fill, minmax(140px, 1fr))",
        columnGap: 4,
        rowGap: 3,
        alignItems: "start",
      }}
    >
      <TextField
        label="Recipe"
        value={dosing.name ?? ""}
        placeholder={dosing.id}
        size="small"
        variant="standard"
        onChange={(event) => {
          const name = event.target.value.slice(0, 110);
          change("name", (own) => {
            if (name) own.name = name;
            else delete own.name;
          });
        }}
        onBlur={onDone}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <Choice
        label="Goes into"
        value={dosing.into ?? "reservoir"}
        options={INTO}
        onChange={(into) => choose("into", (own) => void (own.into = into as NonNullable<Dosing["into"]>))}
      />
      <Choice
        label="The water of"
        value={dosing.vessel}
        options={vessels.map(({ id }) => ({ value: id, text: nameOfPart(document, id) }))}
        onChange={(vessel) => choose("vessel", (own) => void (own.vessel = vessel))}
      />
      <QuantityField
        label="Amount"
        family="count"
        digits={2}
        value={dosing.amount}
        fault={at("amount")}
        onChange={(amount) => change("amount", (own) => void (own.amount = amount))}
        onDone={onDone}
      />
      <Choice
        label="Measure"
        value={dosing.measure}
        options={MEASURES.map((value) => ({ value, text: value }))}
        onChange={(measure) => choose("measure", (own) => void (own.measure = measure as Dosing["measure"]))}
      />
      <QuantityField
        label="For so much water"
        family="L"
        digits={1}
        value={dosing.per_l}
        fault={at("per_l")}
        onDone={onDone}
        onChange={(value) => change("per_l", (own) => void (own.per_l = value))}
      />
      {dosing.into === "pot" && (
        <QuantityField
          label="Every"
          family="d"
          value={dosing.every_days ?? USUAL_DAYS}
          fault={at("every_days")}
          onDone={onDone}
          onChange={(value) => change("every_days", (own) => void (own.every_days = value))}
        />
      )}
      <DeleteButton text="Delete this recipe" onClick={onDelete} />
    </Box>
  );
}
