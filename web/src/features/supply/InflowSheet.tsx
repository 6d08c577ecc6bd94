import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";

import type { Analysis, Design, Fault, Inflow } from "../../api/types";
import { deleted, useEdits } from "../../shared/edits";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { Said } from "../../shared/Said";
import { shownCase } from "../../shared/shownCase";
import { Timings } from "../../shared/Timings";
import { quantityText } from "../../shared/units";
import { figuresOf, KINDS, withFigure } from "./inflow";
import { PumpCurve } from "./PumpCurve";
import { DeleteButton } from "../../shared/DeleteButton";

interface Props {
  document: Design;
  /** the vessels that give water */
  givers: string[];
  inflow: Inflow;
  index: number;
  report: Analysis["supply"]["inflows"][number] | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** the choice for a source whose water is not a vessel's of the plan */
const ELSEWHERE = "";

const FIELDS = {
  display: "grid",
  gridTemplateColumns: "repeat(auto-fill, minmax(130px, 1fr))",
  columnGap: 4,
  rowGap: 2,
  my: 2,
} as const;

/** One source: its figures, and what it brings in a day of the case shown. */
export function InflowSheet({ document, givers, inflow, index, report, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const path = `/inflows/${index}`;
  const about = KINDS.find((one) => one.kind === inflow.kind);
  const set = (key: string, value: number | null) =>
    edit(`inflow${index}.${key}`, (draft) => {
      const own = draft.inflows?.[index];
      if (own && draft.inflows) draft.inflows[index] = withFigure(own, key, value);
    });
  const passedOn = (document.inflows ?? []).map((other) => ("draws_from" in other ? other.draws_from : null));
  const tanks = (document.vessels ?? []).filter(
    (vessel) => givers.includes(vessel.id) || passedOn.includes(vessel.id) || vessel.id === inflow.fills,
  );
  const shown = shownCase(document);
  const lost = document.scenarios?.[shown]?.lost?.includes(inflow.id) ?? false;
  const known = inflow as unknown as Record<string, number | null | undefined>;
  return (
    <>
      <Typography color="text.secondary">{about?.told}</Typography>
      {faultAt(faults, path) && (
        <Typography color="error" role="alert">
          {faultAt(faults, path)}
        </Typography>
      )}
      <Box sx={FIELDS}>
        <PartNameField
          value={named(inflow)}
          onDone={onDone}
          onChange={(name) =>
            edit(`inflow${index}.name`, (draft) => {
              const own = draft.inflows?.[index];
              if (own) own.name = name;
            })
          }
        />
        <Choice
          label="Fills"
          value={inflow.fills}
          options={tanks.map((vessel) => ({ value: vessel.id, text: vessel.name ?? vessel.id }))}
          onChange={(value) => {
            edit(`inflow${index}.fills`, (draft) => {
              const own = draft.inflows?.[index];
              if (own) own.fills = value;
            });
            onDone();
          }}
        />
        {(inflow.kind === "pump" || inflow.kind === "siphon" || inflow.kind === "transfer") && (
          <Choice
            label="Draws from"
            value={inflow.draws_from ?? ELSEWHERE}
            options={[
              { value: ELSEWHERE, text: "outside this plan" },
              ...(document.vessels ?? [])
                .filter((vessel) => vessel.id !== inflow.fills)
                .map((vessel) => ({ value: vessel.id, text: vessel.name ?? vessel.id })),
            ]}
            onChange={(value) => {
              edit(`inflow${index}.draws_from`, (draft) => {
                const own = draft.inflows?.[index];
                if (own?.kind !== "pump" && own?.kind !== "siphon" && own?.kind !== "transfer") return;
                if (value === ELSEWHERE) delete own.draws_from;
                else own.draws_from = value;
              });
              onDone();
            }}
          />
        )}
        {figuresOf(inflow.kind).map(({ key, label, family, digits, empty, usual, times = 1 }) => (
          <QuantityField
            key={key}
            label={label}
            family={family}
            {...(digits === undefined ? {} : { digits })}
            value={(known[key] ?? usual) == null ? null : (known[key] ?? usual ?? 0) * times}
            hint={
              known[key] == null
                ? (empty ?? (usual === undefined ? undefined : "assumed, please check"))
                : undefined
            }
            fault={faultAt(faults, `${path}/${key}`)}
            onDone={onDone}
            onChange={(value) => set(key, value / times)}
            {...(empty ? { onClear: () => set(key, null) } : {})}
          />
        ))}
        {shown >= 0 && (
          <FormControlLabel
            label="Lost in this case"
            sx={{ "& .MuiFormControlLabel-label": { fontSize: 13 } }}
            control={
              <Checkbox
                size="small"
                checked={lost}
                onChange={(event) => {
                  edit(`inflow${index}.lost`, (draft) => {
                    const own = draft.scenarios?.[shown];
                    if (!own) return;
                    const others = (own.lost ?? []).filter((one) => one !== inflow.id);
                    own.lost = event.target.checked ? [...others, inflow.id] : others;
                  });
                  onDone();
                }}
              />
            }
          />
        )}
        {inflow.kind === "mains" && (
          <FormControlLabel
            label="Air gap"
            control={
              <Checkbox
                size="small"
                checked={inflow.air_gap ?? false}
                onChange={(event) => {
                  edit(`inflow${index}.gap`, (draft) => {
                    const own = draft.inflows?.[index];
                    if (own?.kind === "mains") own.air_gap = event.target.checked;
                  });
                  onDone();
                }}
              />
            }
          />
        )}
      </Box>
      {inflow.kind === "pump" && <PumpCurve {...{ pump: inflow, index, faults, edit, onDone }} />}
      {inflow.kind === "spring" && (
        <Timings
          timings={inflow.timings ?? []}
          path={`${path}/timings`}
          faults={faults}
          onDone={onDone}
          change={(recipe, key) =>
            edit(`inflow${index}.${key}`, (draft) => {
              const own = draft.inflows?.[index];
              if (own?.kind === "spring") recipe((own.timings ??= []));
            })
          }
        />
      )}
      {report && (
        <Typography component="p" data-testid={`inflow-${inflow.id}`}>
          <strong>{quantityText({ value: report.daily_l, unit: "L/d" }, system)}</strong> in this case.{" "}
          <Said words={report.told_words} />
        </Typography>
      )}
      <DeleteButton
        onClick={() => {
          apply("inflow.deleted", deleted(inflow.id));
          onDone();
        }}
      />
    </>
  );
}
