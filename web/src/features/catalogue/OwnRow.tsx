import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";

import { useId } from "react";

import { Choice } from "../../shared/Choice";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { lacking, type Column, type Row, perMetreOf, perShownLength, titleText } from "./columns";

interface Props {
  one: string;
  columns: Column[];
  row: Partial<Row>;
  trouble: string | null;
  onChange: (row: Partial<Row>) => void;
  onKeep: () => void;
  onLeave: () => void;
}

/** A row of one's own, typed figure by figure. */
export function OwnRow({ one, columns, row, trouble, onChange, onKeep, onLeave }: Props) {
  const lacks = lacking(row, columns);
  const set = (key: string, value: string | number | undefined) => onChange({ ...row, [key]: value });
  return (
    <Box
      component="form"
      aria-label={`Own ${one}`}
      sx={{ display: "grid", gap: 3, my: 3, maxWidth: 760 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (!lacks.length) onKeep();
      }}
    >
      <Typography variant="h2">New {one}</Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr 1fr" }, gap: 3 }}>
        {columns.map((column) => (
          <Field key={column.key} column={column} value={row[column.key]} set={set} />
        ))}
        <Field column={{ key: "note", title: "Source of the values" }} value={row.note} set={set} />
      </Box>
      {trouble && (
        <Typography role="alert" color="error">
          {trouble}
        </Typography>
      )}
      <Box sx={{ display: "flex", gap: 3, alignItems: "baseline" }}>
        <Button type="submit" variant="contained" disabled={lacks.length > 0}>
          Save
        </Button>
        <Button onClick={onLeave}>Cancel</Button>
        {lacks.length > 0 && (
          <Typography color="text.secondary">Still needed: {lacks.join(", ")}.</Typography>
        )}
      </Box>
    </Box>
  );
}

function Field({
  column,
  value,
  set,
}: {
  column: Column;
  value: Row[string];
  set: (key: string, value: string | number | undefined) => void;
}) {
  const id = useId();
  const system = usePreferences((state) => state.system);
  const { key, family, number, options, perLength } = column;
  const title = titleText(column, system);
  if (options)
    return (
      <Choice
        label={title}
        value={typeof value === "string" ? value : ""}
        options={["", ...options].map((one) => ({
          value: one,
          text: one.replaceAll("_", " ") || "choose …",
        }))}
        onChange={(chosen) => set(key, chosen || undefined)}
      />
    );
  if (family ?? number)
    return (
      <QuantityField
        label={title}
        family={family ?? "count"}
        digits={4}
        value={typeof value !== "number" ? null : perLength ? perShownLength(value, system) : value}
        onChange={(typed) => set(key, perLength ? perMetreOf(typed, system) : typed)}
        onClear={() => set(key, undefined)}
      />
    );
  return (
    <TextField
      id={id}
      label={title}
      value={value ?? ""}
      size="small"
      variant="standard"
      fullWidth
      onChange={(event) => set(key, event.target.value || undefined)}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
