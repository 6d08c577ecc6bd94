import Box from "@mui/material/Box";

import type { Crop, Design, Fault, OtherDemand } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { DeleteButton } from "../../shared/DeleteButton";
import { deleted, useEdits } from "../../shared/edits";
import { faultAt } from "../../shared/faults";
import { named, troughName } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { QuantityField } from "../../shared/QuantityField";
import { Steps } from "../../shared/Steps";
import { CROP_WAYS, wayOf, type CropFigure, type CropWay } from "./growing";
import { seasonYear } from "./model";
import { FIELDS } from "../../shared/fields";
import { OtherTold } from "./OtherTold";

interface Props {
  document: Design;
  index: number;
  report: OtherDemand | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** Plants that are watered: how that is counted, and through which outlet. */
export function CropSheet({ document, index, report, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const crop = document.crops?.[index];
  if (!crop) return null;
  const changeCrop = (key: string, recipe: (draft: Crop) => void) =>
    edit(`crop${index}.${key}`, (draft) => {
      const own = draft.crops?.[index];
      if (own) recipe(own);
    });
  return (
    <>
      <Box sx={FIELDS}>
        <PartNameField
          value={named(crop)}
          onDone={onDone}
          onChange={(name) => changeCrop("name", (draft) => void (draft.name = name))}
        />
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
            changeCrop("outlet", (draft) => void (draft.outlet = value));
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
              onChange={(value) => changeCrop(key, (draft) => void (draft[key] = value))}
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
          year={seasonYear(document)}
          fault={faultAt(faults, `/crops/${index}`)}
          onDone={onDone}
          onChange={(key, steps) =>
            changeCrop(`grows.${key}`, (draft) => {
              draft.over_season = steps.map(({ from, value }) => ({ from, litres_each_lpd: value }));
            })
          }
        />
      )}
      <OtherTold report={report} />
      <DeleteButton
        onClick={() => {
          apply("crop.deleted", deleted(crop.id));
          onDone();
        }}
      />
    </>
  );
}
