import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

import type { Analysis, Crop, Design, Fault, OtherNeed, PondLoss, Rest } from "../../api/types";
import { ink } from "../../app/theme";
import { deleted, useEdits } from "../../shared/edits";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { troughName } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { Steps } from "../../shared/Steps";
import { QuantityField } from "../../shared/QuantityField";
import { Said } from "../../shared/Said";
import { quantityText, type Family } from "../../shared/units";
import { ContainerRow } from "./ContainerRow";
import { CROP_WAYS, wayOf, type CropFigure, type CropWay } from "./growing";
import { seasonYear } from "./model";
import { Timers } from "./Timers";
import { Unattended } from "./Unattended";
import { TakeAway } from "../../shared/TakeAway";

interface Props {
  document: Design;
  need: Analysis["need"];
  rest: Rest | null;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const ROW = {
  display: "grid",
  gridTemplateColumns: { xs: "1fr 1fr", md: "repeat(6, minmax(0, 1fr))" },
  columnGap: 4,
  rowGap: 2,
  alignItems: "start",
  my: 2,
} as const;

const POND_FIGURES: { key: Exclude<keyof PondLoss, "vessel">; label: string; family: Family }[] = [
  { key: "pan_mm_d", label: "Pan, a day", family: "mm rain" },
  { key: "seepage_mm_d", label: "Seeps, a day", family: "mm rain" },
  { key: "change_percent_week", label: "Changed, % a week", family: "count" },
  { key: "discharge_lpd", label: "Let out for filters", family: "L/d" },
];

/** Plants that are watered and ponds that lose water: what they need beside the animals, and how that is found. */
export function Growing({ document, need, rest, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const { others } = need;
  const year = seasonYear(document);
  const told = (kind: string, id: string) => others.find((one) => one.kind === kind && one.id === id);
  const words = (one: OtherNeed | undefined) =>
    one && (
      <Typography component="p" data-testid={`other-${one.id}`}>
        <strong>{quantityText({ value: one.daily_l, unit: "L/d" }, system)}</strong>{" "}
        <Typography component="span" variant="caption" color="text.secondary">
          <Said words={one.how_words} />
        </Typography>
      </Typography>
    );
  const ponds = document.ponds ?? [];
  const open = (document.vessels ?? []).filter(
    (vessel) => vessel.role === "pond" && !ponds.some((pond) => pond.vessel === vessel.id),
  );
  const changeCrop = (index: number, key: string, recipe: (draft: Crop) => void) =>
    edit(`crop${index}.${key}`, (draft) => {
      const own = draft.crops?.[index];
      if (own) recipe(own);
    });
  return (
    <Box
      component="section"
      aria-label="Plants and ponds"
      sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}
    >
      <Typography variant="h2">Plants and ponds</Typography>
      {(document.crops ?? []).map((crop, index) => (
        <Box key={crop.id} role="group" aria-label={crop.name ?? crop.id} sx={{ mt: 2 }}>
          <Box sx={{ display: "flex", justifyContent: "space-between" }}>
            <strong>{crop.name ?? crop.id}</strong>
            <TakeAway
              onClick={() => {
                apply("crop.deleted", deleted(document.crops?.[index]?.id));
                onDone();
              }}
            />
          </Box>
          <Box sx={ROW}>
            <Choice
              label="Watered"
              value={wayOf(crop)}
              options={CROP_WAYS.map(({ way, text }) => ({ value: way, text }))}
              onChange={(value) => {
                apply(`crop${index}.way`, [{ kind: "set_crop_way", crop: crop.id, way: value as CropWay }]);
                onDone();
              }}
            />
            <Choice
              label="Through"
              value={crop.outlet}
              options={(document.outlets ?? []).map((outlet) => ({
                value: outlet.id,
                text: troughName(document, outlet.id),
              }))}
              onChange={(value) => {
                changeCrop(index, "outlet", (draft) => void (draft.outlet = value));
                onDone();
              }}
            />
            {(CROP_WAYS.find((one) => one.way === wayOf(crop))?.figures ?? []).map(
              ({ key, label, family, digits }: CropFigure) => (
                <QuantityField
                  key={key}
                  label={label}
                  family={family}
                  {...(digits === undefined ? {} : { digits })}
                  value={crop[key] ?? null}
                  fault={faultAt(faults, `/crops/${index}/${key}`)}
                  onDone={onDone}
                  onChange={(value) => changeCrop(index, key, (draft) => void (draft[key] = value))}
                />
              ),
            )}
          </Box>
          {crop.plants != null && (
            <Steps
              label="Each needs"
              ask="They grow: another figure later"
              family="L/d"
              digits={1}
              steps={(crop.over_season ?? []).map((one) => ({ from: one.from, value: one.litres_each_lpd }))}
              first={crop.litres_each_lpd ?? 1}
              year={year}
              fault={faultAt(faults, `/crops/${index}`)}
              onDone={onDone}
              onChange={(key, steps) =>
                changeCrop(index, `grows.${key}`, (draft) => {
                  draft.over_season = steps.map(({ from, value }) => ({ from, litres_each_lpd: value }));
                })
              }
            />
          )}
          {words(told("crop", crop.id))}
        </Box>
      ))}
      <Timers document={document} need={need} rest={rest} faults={faults} edit={edit} onDone={onDone} />
      {need.rows.map((row) => (
        <ContainerRow
          key={row.outlet}
          document={document}
          row={row}
          year={year}
          faults={faults}
          edit={edit}
          onDone={onDone}
        />
      ))}
      {ponds.map((pond, index) => (
        <Box key={pond.vessel} role="group" aria-label={pond.vessel} sx={{ mt: 3 }}>
          <strong>{document.vessels?.find((one) => one.id === pond.vessel)?.name ?? pond.vessel}</strong>
          <Box sx={ROW}>
            {POND_FIGURES.map(({ key, label, family }) => (
              <QuantityField
                key={key}
                label={label}
                family={family}
                digits={1}
                value={pond[key] ?? 0}
                fault={faultAt(faults, `/ponds/${index}/${key}`)}
                onDone={onDone}
                onChange={(value) =>
                  edit(`pond${index}.${key}`, (draft) => {
                    const own = draft.ponds?.[index];
                    if (own) own[key] = value;
                  })
                }
              />
            ))}
          </Box>
          {words(told("pond", pond.vessel))}
          {need.unattended
            .filter((one) => one.vessel === pond.vessel)
            .map((one) => (
              <Unattended key={one.outlet} document={document} fill={one} />
            ))}
        </Box>
      ))}
      <Box sx={{ display: "flex", gap: 4, mt: 2 }}>
        {(document.outlets ?? []).length > 0 && (
          <Button
            variant="outlined"
            onClick={() => {
              apply("crop.new", [{ kind: "add_crop" }]);
              onDone();
            }}
          >
            Add plants
          </Button>
        )}
        {open.map((vessel) => (
          <Button
            key={vessel.id}
            variant="outlined"
            onClick={() => {
              apply("pond.new", [{ kind: "add_pond_loss", vessel: vessel.id }]);
              onDone();
            }}
          >
            {vessel.name ?? vessel.id} loses water
          </Button>
        ))}
      </Box>
    </Box>
  );
}
