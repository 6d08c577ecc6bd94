import Box from "@mui/material/Box";

import type { Analysis, Design, Fault, OtherDemand, PondLoss } from "../../api/types";
import { DeleteButton } from "../../shared/DeleteButton";
import { Folded } from "../../shared/Folded";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import type { Family } from "../../shared/units";
import { Circulation } from "./Circulation";
import { FIELDS } from "../../shared/fields";
import { OtherTold } from "./OtherTold";
import { PondsTold } from "./PondsTold";
import { Unattended } from "./Unattended";

interface Props {
  document: Design;
  demand: Analysis["demand"];
  index: number;
  report: OtherDemand | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

interface Figure {
  key: Exclude<keyof PondLoss, "vessel" | "circulation">;
  label: string;
  family: Family;
  /** shown where nothing is given; none: unknown */
  otherwise?: number;
}

const LOSSES: Figure[] = [
  { key: "pan_mm_d", label: "Pan evaporation, a day", family: "mm rain", otherwise: 0 },
  { key: "seepage_mm_d", label: "Seepage, a day", family: "mm rain", otherwise: 0 },
  { key: "discharge_lpd", label: "Filter discharge", family: "L/d", otherwise: 0 },
];
const CHANGES: Figure[] = [
  { key: "change_percent_week", label: "Water changed, % a week", family: "count", otherwise: 0 },
  { key: "changes_per_week", label: "Changes a week", family: "count", otherwise: 1 },
  { key: "change_lpm", label: "Let out at", family: "L/min" },
  { key: "remover_lpm", label: "Chlorine remover, up to", family: "L/min" },
  { key: "remover_l", label: "Chlorine remover, at once", family: "L" },
  { key: "cartridge_l", label: "Chlorine remover lasts", family: "L" },
];
const LEVELS: Figure[] = [
  { key: "wave_mm", label: "Waves over still water", family: "mm", otherwise: 0 },
  { key: "storm_mm", label: "Rain of a storm", family: "mm rain" },
  { key: "topped_lpd", label: "Top-up as measured, dry day", family: "L/d" },
];

/** What an open vessel loses, how its water is kept and changed, and what happens while nobody looks. */
export function PondSheet({ document, demand, index, report, faults, edit, onDone }: Props) {
  const pond = document.ponds?.[index];
  if (!pond) return null;
  const change = (key: string, recipe: (own: PondLoss) => void) =>
    edit(`pond${index}.${key}`, (draft) => {
      const own = draft.ponds?.[index];
      if (own) recipe(own);
    });
  const fields = (figures: Figure[]) => (
    <Box sx={FIELDS}>
      {figures.map(({ key, label, family, otherwise }) => (
        <QuantityField
          key={key}
          label={label}
          family={family}
          digits={1}
          value={pond[key] ?? otherwise ?? null}
          hint={pond[key] == null && otherwise === undefined ? "unknown" : undefined}
          fault={faultAt(faults, `/ponds/${index}/${key}`)}
          onDone={onDone}
          onChange={(value) => change(key, (own) => void (own[key] = value))}
          onClear={
            otherwise === undefined
              ? () => change(key, (own) => void Object.assign(own, { [key]: null }))
              : undefined
          }
        />
      ))}
    </Box>
  );
  return (
    <>
      {fields(LOSSES)}
      <OtherTold report={report} />
      {demand.unattended
        .filter((one) => one.vessel === pond.vessel)
        .map((one) => (
          <Unattended key={one.outlet} document={document} fill={one} />
        ))}
      <PondsTold document={document} vessel={pond.vessel} />
      <Folded title="Water changes and treated mains">{fields(CHANGES)}</Folded>
      <Folded title="Waves, rain, and the top-up as measured">{fields(LEVELS)}</Folded>
      <Folded title="Filter chamber and pump">
        <Circulation {...{ document, pond, index, faults, change, onDone }} />
      </Folded>
      <DeleteButton
        text="Delete these losses"
        onClick={() => {
          edit("pond.deleted", (draft) => {
            draft.ponds = (draft.ponds ?? []).filter((one) => one.vessel !== pond.vessel);
          });
          onDone();
        }}
      />
    </>
  );
}
