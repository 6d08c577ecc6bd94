import Box from "@mui/material/Box";

import { useEdits } from "../../shared/edits";
import { Folded } from "../../shared/Folded";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { PAIR, type SheetProps } from "./edit";

type Props = Pick<SheetProps, "document" | "onDone"> & { placeId: string };

/** The height of the ground where a part stands. */
export function GroundField({ document, placeId, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const place = document.places.find((one) => one.id === placeId);
  if (!place) return null;
  const error = place.height_error_m;
  return (
    <QuantityField
      label="Ground height"
      family="m"
      digits={2}
      value={place.ground_m}
      hint={
        error
          ? `± ${quantityText({ value: error, unit: "m" }, system)}, ${place.height_from ?? "method unknown"}`
          : undefined
      }
      onDone={onDone}
      onChange={(value) =>
        apply(`${place.id}.ground`, [{ kind: "set_ground", place: place.id, ground_m: value }])
      }
    />
  );
}

/** Where a part stands on the plan, to be typed exactly. */
export function Position({ document, placeId, onDone, open = false }: Props & { open?: boolean }) {
  const { apply } = useEdits();
  const place = document.places.find((one) => one.id === placeId);
  if (!place) return null;
  return (
    <Folded title="Position on the plan" open={open}>
      <Box sx={PAIR} data-exact>
        <QuantityField
          label="East on the plan"
          family="m"
          digits={2}
          value={place.east_m}
          onDone={onDone}
          onChange={(value) =>
            apply(`${place.id}.east`, [
              { kind: "move_places", places: { [place.id]: [value, place.north_m] } },
            ])
          }
        />
        <QuantityField
          label="North on the plan"
          family="m"
          digits={2}
          value={place.north_m}
          onDone={onDone}
          onChange={(value) =>
            apply(`${place.id}.north`, [
              { kind: "move_places", places: { [place.id]: [place.east_m, value] } },
            ])
          }
        />
      </Box>
    </Folded>
  );
}

/** A place on which nothing stands: a junction, a gate, a bench mark. */
export function PlaceSheet({ document, placeId, edit, onDone }: Props & Pick<SheetProps, "edit">) {
  const index = document.places.findIndex((one) => one.id === placeId);
  const place = document.places[index];
  if (!place) return null;
  return (
    <>
      <Box sx={PAIR}>
        <PartNameField
          value={named(place)}
          onDone={onDone}
          onChange={(name) =>
            edit(`${place.id}.name`, (draft) => {
              const own = draft.places[index];
              if (own) own.name = name;
            })
          }
        />
        <GroundField {...{ document, placeId, onDone }} />
      </Box>
      <Position {...{ document, placeId, onDone }} open />
    </>
  );
}
