import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import type { Design, StaffReading } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { QuantityField } from "../../shared/QuantityField";
import { readingOf, SIGHTS, type SightKind } from "./model";

interface Props {
  document: Design;
  /** the number of the reading, from 1 */
  number: number;
  /** the reading before closes the book so far: its backsight is read before the book goes on */
  reopens: boolean;
  onAdd: (reading: StaffReading, backsightBefore: number | null) => void;
  onCancel: (() => void) | null;
}

/** A reading of a level book that is still to be made: it is in the book once all of it is read. */
export function NewReading({ document, number, reopens, onAdd, onCancel }: Props) {
  const first = number === 1;
  const [place, setPlace] = useState(first ? (document.places[0]?.id ?? "") : "");
  const [sight, setSight] = useState<SightKind>(first ? "first" : "between");
  const [before, setBefore] = useState<number | null>(null);
  const [read, setRead] = useState<number | null>(null);
  const [back, setBack] = useState<number | null>(null);
  const made = read === null ? null : readingOf(place, sight, read, back);
  const ready = made !== null && (!reopens || before !== null);
  return (
    <Box
      component="form"
      role="group"
      aria-label={`Reading ${number}`}
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) onAdd(made, before);
      }}
      sx={{ display: "flex", flexWrap: "wrap", gap: 3, alignItems: "end", my: 2 }}
    >
      {reopens && (
        <Box sx={{ width: 110 }}>
          <QuantityField
            label={`Backsight ${number - 1}`}
            family="m"
            digits={3}
            value={before}
            hint="turning point"
            onChange={setBefore}
            onClear={() => setBefore(null)}
          />
        </Box>
      )}
      <Box sx={{ width: 150 }}>
        <Choice
          label={`Point ${number}`}
          value={place}
          options={[
            { value: "", text: "somewhere between" },
            ...document.places.map((one) => ({ value: one.id, text: one.name ?? one.id })),
          ]}
          onChange={setPlace}
        />
      </Box>
      {!first && (
        <Box sx={{ width: 150 }}>
          <Choice
            label={`Sight ${number}`}
            value={sight}
            options={SIGHTS}
            onChange={(value) => setSight(value as SightKind)}
          />
        </Box>
      )}
      <Box sx={{ width: 130 }}>
        <QuantityField
          label={`${first ? "Backsight" : sight === "between" ? "Intermediate sight" : "Foresight"} ${number}`}
          family="m"
          digits={3}
          value={read}
          onChange={setRead}
          onClear={() => setRead(null)}
        />
      </Box>
      {sight === "moves" && (
        <Box sx={{ width: 110 }}>
          <QuantityField
            label={`Backsight ${number}`}
            family="m"
            digits={3}
            value={back}
            onChange={setBack}
            onClear={() => setBack(null)}
          />
        </Box>
      )}
      <Button type="submit" variant="outlined" disabled={!ready}>
        Add reading
      </Button>
      {onCancel && <Button onClick={onCancel}>Cancel</Button>}
    </Box>
  );
}
