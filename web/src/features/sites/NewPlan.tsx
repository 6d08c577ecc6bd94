import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { newSite } from "../../api/client";
import type { Design, NewSiteAsked } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { useCatalogue, useDefaults } from "../../shared/defaults";
import { NameField } from "../../shared/NameField";
import { QuantityField } from "../../shared/QuantityField";

type Start = NewSiteAsked["start"];
type FirstLine = NonNullable<NewSiteAsked["first_line"]>;
type Way = "numbers" | "draw";

const TWO = { display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" }, columnGap: 4, rowGap: 3 };
const SOURCES: { value: Start; text: string; name: string }[] = [
  { value: "tank", text: "a tank", name: "Tank" },
  { value: "spring box", text: "a spring box", name: "Spring box" },
  { value: "pond", text: "a pond", name: "Pond" },
];

interface Props {
  pending: boolean;
  onStart: (made: Promise<Design>) => void;
  onImport: () => void;
}

/** A plan from nothing: from a few numbers, by drawing, or from a file. */
export function NewPlan({ pending, onStart, onImport }: Props) {
  const [way, setWay] = useState<Way>("numbers");
  const [site, setSite] = useState("");
  const [start, setStart] = useState<Start>("tank");
  const [name, setName] = useState("");
  const [groundM, setGroundM] = useState(100);
  const catalogue = useCatalogue().data;
  const usualPipe = useDefaults()?.pipe;
  const [line, setLine] = useState<Partial<FirstLine>>({});
  const told = { trough_l: 600, product: usualPipe, animal: catalogue?.animals[0]?.name, ...line };
  const complete = isComplete(told) ? told : null;
  const usual = SOURCES.find((one) => one.value === start)?.name ?? "Tank";
  const set = (change: Partial<FirstLine>) => setLine((before) => ({ ...before, ...change }));
  return (
    <Box
      component="form"
      aria-label="New plan"
      sx={{ border: `1px solid ${ink("rule")}`, bgcolor: ink("sheet"), p: 4, display: "grid", gap: 3 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (way === "numbers" && !complete) return;
        const first = way === "numbers" ? complete : null;
        onStart(newSite(site.trim() || "New site", start, name.trim() || usual, groundM, first));
      }}
    >
      <Typography variant="h2">New plan</Typography>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={way}
        aria-label="How to start"
        onChange={(_, next: Way | null) => next && setWay(next)}
        sx={{
          flexWrap: "wrap",
          "& .MuiToggleButton-root": { textTransform: "none", color: ink("ink"), px: 3 },
        }}
      >
        <ToggleButton value="numbers">From a few numbers</ToggleButton>
        <ToggleButton value="draw">Draw it</ToggleButton>
      </ToggleButtonGroup>
      {way === "numbers" ? (
        <>
          <Typography color="text.secondary">
            One pipe from the source to one trough: the answer comes at once, and you refine it on the plan.
          </Typography>
          <Box sx={TWO}>
            <QuantityField
              label="Fall, source to trough"
              family="m"
              digits={1}
              value={line.fall_m ?? null}
              hint="ground to ground; negative where the trough is higher"
              onChange={(value) => set({ fall_m: value })}
            />
            <QuantityField
              label="Distance along the pipe"
              family="m"
              digits={0}
              value={line.distance_m ?? null}
              hint="paces or posts will do; measure it later"
              onChange={(value) => set({ distance_m: value })}
            />
            <Choice
              label="Pipe"
              value={told.product ?? ""}
              options={(catalogue?.pipes ?? []).map((pipe) => ({
                value: pipe.id,
                text: pipe.name,
                group: pipe.family,
              }))}
              onChange={(value) => set({ product: value })}
            />
            <QuantityField
              label="Trough holds"
              family="L"
              digits={0}
              value={told.trough_l}
              onChange={(value) => set({ trough_l: value })}
            />
            <Choice
              label="Animals"
              value={told.animal ?? ""}
              options={(catalogue?.animals ?? []).map((animal) => ({
                value: animal.name,
                text: animal.name,
                group: animal.species,
              }))}
              onChange={(value) => set({ animal: value })}
            />
            <QuantityField
              label="Number of animals"
              family="count"
              value={line.head ?? null}
              onChange={(value) => set({ head: Math.round(value) })}
            />
          </Box>
        </>
      ) : (
        <Typography color="text.secondary">
          The plan opens with the water source on it. Draw the pipe from there (L), and place troughs where it
          ends.
        </Typography>
      )}
      <Box sx={TWO}>
        <Choice
          label="Water source"
          value={start}
          options={SOURCES}
          onChange={(value) => setStart(value as Start)}
        />
        <NameField label="Site" value={site} placeholder="New site" onChange={setSite} />
        {way === "draw" && (
          <>
            <NameField label="Name of the source" value={name} placeholder={usual} onChange={setName} />
            <QuantityField
              label="Ground height"
              family="m"
              digits={1}
              value={groundM}
              hint="any height will do: only differences count"
              onChange={setGroundM}
            />
          </>
        )}
      </Box>
      <Box sx={{ display: "flex", gap: 3, alignItems: "center", flexWrap: "wrap" }}>
        <Button type="submit" variant="contained" disabled={pending || (way === "numbers" && !complete)}>
          Create
        </Button>
        <Button variant="text" onClick={onImport} disabled={pending}>
          Import a design file
        </Button>
        {way === "numbers" && !complete && (
          <Typography variant="caption" color="text.secondary">
            Needed: {missing(told).join(", ")}
          </Typography>
        )}
      </Box>
    </Box>
  );
}

const NEEDED: [keyof FirstLine, string][] = [
  ["fall_m", "fall"],
  ["distance_m", "distance"],
  ["product", "pipe"],
  ["trough_l", "trough"],
  ["animal", "animals"],
  ["head", "number of animals"],
];

const missing = (line: Partial<FirstLine>) =>
  NEEDED.filter(([key]) => line[key] === undefined).map(([, text]) => text);

const isComplete = (line: Partial<FirstLine>): line is FirstLine => missing(line).length === 0;
