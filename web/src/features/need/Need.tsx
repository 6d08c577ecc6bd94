import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Analysis, Catalogue, Design, Fault, Herd } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { usePreferences } from "../../shared/preferences";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";

interface Props {
  document: Design;
  analysis: Analysis;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Who drinks, and how much in the chosen case. */
export function Need({ document, analysis, catalogue, faults, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const litres = (value: number, unit: "L" | "L/d" = "L/d") => quantityText({ value, unit }, system);
  const change = (index: number, key: string, recipe: (draft: Herd) => void) =>
    edit(`herd${index}.${key}`, (draft) => {
      const own = draft.herds?.[index];
      if (own) recipe(own);
    });
  const need = analysis.need;
  return (
    <Box sx={{ p: 5, maxWidth: 900 }}>
      <Typography variant="h1">Need: {litres(need.daily_l)} on the day shown</Typography>
      <Typography color="text.secondary" sx={{ mb: 4 }}>
        {need.scenario}: what each animal drinks comes from a table by class, weight and the heat of the air,
        and never falls in heat.
      </Typography>
      <Box sx={{ display: "flex", gap: 6, mb: 4, maxWidth: 460 }}>
        {(document.scenarios ?? []).map((scenario, index) => (
          <QuantityField
            key={scenario.id}
            label={`Air, ${(scenario.name ?? scenario.id).toLowerCase()}`}
            family="°C"
            value={scenario.air_c ?? null}
            fault={faultAt(faults, `/scenarios/${index}/air_c`)}
            onDone={onDone}
            onChange={(value) =>
              edit(`scenario${index}.air`, (draft) => {
                const own = draft.scenarios?.[index];
                if (own) own.air_c = value;
              })
            }
          />
        ))}
      </Box>
      {(document.herds ?? []).map((herd, index) => {
        const report = need.herds.find((one) => one.id === herd.id);
        return (
          <Box
            key={herd.id}
            component="section"
            aria-label={herd.name ?? herd.id}
            sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}
          >
            <Typography variant="h2">{herd.name ?? herd.id}</Typography>
            <Box
              sx={{
                display: "grid",
                gridTemplateColumns: "repeat(auto-fill, minmax(150px, 1fr))",
                gap: 5,
                my: 2,
              }}
            >
              <QuantityField
                label="Heads"
                family="count"
                value={herd.head}
                fault={faultAt(faults, `/herds/${index}/head`)}
                onDone={onDone}
                onChange={(value) => change(index, "head", (draft) => void (draft.head = value))}
              />
              <Choice
                label="Class"
                value={herd.class}
                options={(catalogue?.animals ?? [herd.class]).map((animal) => ({
                  value: animal,
                  text: animal,
                }))}
                onChange={(value) => {
                  change(index, "class", (draft) => void (draft.class = value));
                  onDone();
                }}
              />
              <QuantityField
                label="Weight of one"
                family="kg"
                value={herd.weight_kg}
                fault={faultAt(faults, `/herds/${index}/weight_kg`)}
                onDone={onDone}
                onChange={(value) => change(index, "weight", (draft) => void (draft.weight_kg = value))}
              />
              <QuantityField
                label="Your own figure for one"
                family="L/d"
                digits={1}
                value={herd.intake_lpd ?? null}
                hint={herd.intake_lpd ? "the table is set aside" : "empty: the table is used"}
                fault={faultAt(faults, `/herds/${index}/intake_lpd`)}
                onDone={onDone}
                onChange={(value) => change(index, "own", (draft) => void (draft.intake_lpd = value))}
                onClear={() => change(index, "own", (draft) => void (draft.intake_lpd = null))}
              />
            </Box>
            {report && (
              <Typography>
                <strong>{quantityText({ value: report.per_head_lpd, unit: "L/d" }, system)}</strong> for one,{" "}
                <strong data-testid={`need-${herd.id}`}>{litres(report.daily_l)}</strong> for all.
                {report.beyond_table && " Hotter than the table goes: carried on at its steepest rise."}
                <Typography
                  component="span"
                  variant="caption"
                  color="text.secondary"
                  sx={{ display: "block" }}
                >
                  Source: {report.source}
                </Typography>
              </Typography>
            )}
          </Box>
        );
      })}
      {(document.herds ?? []).length === 0 && <Typography>No animals are on this water yet.</Typography>}
      <Caution>
        Animals die within days without water. Plan on the larger figure, look daily, and count every head.
      </Caution>
    </Box>
  );
}
