import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

import type { Design, Fault } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { DayField } from "../../shared/DayField";
import { useDefaults } from "../../shared/defaults";
import { faultAt } from "../../shared/faults";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { QuantityField } from "../../shared/QuantityField";
import { holdInCase } from "../../shared/shownCase";
import { Cross } from "../../shared/DeleteButton";
import type { Family } from "../../shared/units";

type Case = NonNullable<Design["scenarios"]>[number];
type Optional = "least_air_c" | "water_c" | "pipe_c" | "et0_mm_d";
type Figure = "air_c" | "rain_mm_d" | Optional;

const PAIR = { display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" }, columnGap: 4, rowGap: 2 };
const FIGURES: { key: Figure; label: string; family: Family; empty: string }[] = [
  { key: "air_c", label: "Air, highest of the day", family: "°C", empty: "" },
  {
    key: "least_air_c",
    label: "Air, lowest of the day",
    family: "°C",
    empty: "empty: usual for the highest",
  },
  { key: "water_c", label: "Water temperature", family: "°C", empty: "empty: that of the site" },
  {
    key: "pipe_c",
    label: "Pipe temperature",
    family: "°C",
    empty: "empty: that of its water; in the sun it is hotter",
  },
  { key: "rain_mm_d", label: "Rain on the day", family: "mm rain", empty: "" },
  {
    key: "et0_mm_d",
    label: "Evapotranspiration",
    family: "mm rain",
    empty: "empty: from air, day and latitude",
  },
];
const isOptional = (key: Figure): key is Optional => key !== "air_c" && key !== "rain_mm_d";

interface Props {
  document: Design;
  faults: Fault[];
  index: number;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** What one case assumes. */
export function CaseSheet({ document, faults, index, edit, onDone }: Props) {
  const defaults = useDefaults();
  const own = document.scenarios?.[index];
  if (!own) return null;
  const change = (key: string, recipe: (draft: Case) => void) =>
    edit(`${own.id}.${key}`, (draft) => {
      const found = draft.scenarios?.[index];
      if (found) recipe(found);
    });
  const at = (key: string, recipe: (draft: Case) => void) => {
    change(key, recipe);
    onDone();
  };
  const shown = (key: Figure) =>
    own[key] ?? (key === "air_c" ? defaults?.air_c : key === "rain_mm_d" ? 0 : null);
  return (
    <Box sx={{ display: "grid", gap: 3 }}>
      <Box sx={PAIR}>
        <PartNameField
          label="Name of the case"
          value={own.name ?? own.id}
          onDone={onDone}
          onChange={(name) => change("name", (draft) => void (draft.name = name))}
        />
        <DayField
          label="Day"
          value={own.date ?? ""}
          hint={own.date ? undefined : "no day: all herds and all plants count"}
          onChange={(day) => at("date", (draft) => void (draft.date = day))}
        />
        {FIGURES.map(({ key, label, family, empty }) => (
          <QuantityField
            key={key}
            label={label}
            family={family}
            value={shown(key) ?? null}
            hint={own[key] == null ? empty : undefined}
            fault={faultAt(faults, `/scenarios/${index}/${key}`)}
            onDone={onDone}
            onChange={(value) => change(key, (draft) => void (draft[key] = value))}
            onClear={isOptional(key) ? () => change(key, (draft) => void (draft[key] = null)) : undefined}
          />
        ))}
      </Box>
      <FormControlLabel
        label="Humid: animals drink more"
        control={
          <Checkbox
            size="small"
            checked={own.humid ?? false}
            onChange={(event) => at("humid", (draft) => void (draft.humid = event.target.checked))}
          />
        }
      />
      <Sources document={document} own={own} at={at} />
      <OpenOrShut document={document} own={own} at={at} />
      <Levels document={document} own={own} change={change} at={at} onDone={onDone} />
    </Box>
  );
}

interface PartProps {
  document: Design;
  own: Case;
  at: (key: string, recipe: (draft: Case) => void) => void;
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Typography component="legend" variant="h2" sx={{ p: 0, mb: 1 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

/** Which sources bring nothing. */
function Sources({ document, own, at }: PartProps) {
  const lost = own.lost ?? [];
  if (!document.inflows?.length) return null;
  return (
    <Group title="Sources lost">
      {document.inflows.map((inflow) => (
        <FormControlLabel
          key={inflow.id}
          label={named(inflow)}
          control={
            <Checkbox
              size="small"
              checked={lost.includes(inflow.id)}
              onChange={(event) =>
                at("lost", (draft) => {
                  const without = (draft.lost ?? []).filter((id) => id !== inflow.id);
                  draft.lost = event.target.checked ? [...without, inflow.id] : without;
                })
              }
            />
          }
        />
      ))}
    </Group>
  );
}

/** Outlets and pipes that are open or shut in this case, whatever the plan says. */
function OpenOrShut({ document, own, at }: PartProps) {
  const names = new Map(
    [...(document.outlets ?? []), ...(document.lines ?? [])].map((one) => [one.id, named(one)]),
  );
  const set = (id: string, state: string) => at("valves", (draft) => holdInCase(draft, id, state));
  const told = [...(own.open ?? []), ...(own.shut ?? [])];
  return (
    <Group title="Open or shut in this case">
      <Box sx={{ display: "grid", gap: 1 }}>
        {told.map((id) => (
          <Box key={id} sx={{ display: "grid", gridTemplateColumns: "1fr auto", alignItems: "end", gap: 2 }}>
            <Choice
              label={names.get(id) ?? id}
              value={own.open?.includes(id) ? "open" : "shut"}
              options={[
                { value: "open", text: "open: a float valve runs over" },
                { value: "shut", text: "shut" },
              ]}
              onChange={(state) => set(id, state)}
            />
            <Cross label={`Delete ${names.get(id) ?? id} from this case`} onClick={() => set(id, "")} />
          </Box>
        ))}
        <Choice
          label="Add an outlet or a pipe"
          value=""
          options={[
            { value: "", text: "choose …" },
            ...[...names].filter(([id]) => !told.includes(id)).map(([value, text]) => ({ value, text })),
          ]}
          onChange={(id) => id && set(id, "shut")}
        />
      </Box>
    </Group>
  );
}

/** How full vessels are in this case, where that is not as now. */
function Levels({
  document,
  own,
  change,
  at,
  onDone,
}: PartProps & { change: PartProps["at"]; onDone: () => void }) {
  const levels = own.levels_m ?? {};
  const vessels = document.vessels ?? [];
  return (
    <Group title="Water levels in this case">
      <Box sx={{ display: "grid", gap: 1 }}>
        {vessels
          .filter((vessel) => vessel.id in levels)
          .map((vessel) => (
            <Box
              key={vessel.id}
              sx={{ display: "grid", gridTemplateColumns: "1fr auto", alignItems: "end", gap: 2 }}
            >
              <QuantityField
                label={named(vessel)}
                family="m"
                digits={2}
                value={levels[vessel.id] ?? null}
                onDone={onDone}
                onChange={(value) =>
                  change(
                    `level.${vessel.id}`,
                    (draft) => void (draft.levels_m = { ...draft.levels_m, [vessel.id]: value }),
                  )
                }
              />
              <Cross
                label={`Delete ${named(vessel)} from this case`}
                onClick={() =>
                  at("levels", (draft) => {
                    const { [vessel.id]: _gone, ...rest } = draft.levels_m ?? {};
                    draft.levels_m = rest;
                  })
                }
              />
            </Box>
          ))}
        <Choice
          label="Add a vessel"
          value=""
          options={[
            { value: "", text: "choose …" },
            ...vessels
              .filter((vessel) => !(vessel.id in levels))
              .map((vessel) => ({ value: vessel.id, text: named(vessel) })),
          ]}
          onChange={(id) => {
            const vessel = vessels.find((one) => one.id === id);
            if (vessel)
              at("levels", (draft) => void (draft.levels_m = { ...draft.levels_m, [id]: vessel.level_m }));
          }}
        />
      </Box>
    </Group>
  );
}
