import Box from "@mui/material/Box";

import { useEdits } from "../../shared/edits";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { PAIR, type SheetProps } from "./edit";

type Props = Pick<SheetProps, "document" | "onDone"> & { placeId: string };

/** Where a part stands, to be typed exactly: east and north on the plan, and the height of its ground. */
export function PlaceFields({ document, placeId, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const place = document.places.find((one) => one.id === placeId);
  if (!place) return null;
  const error = place.height_error_m;
  return (
    <Box sx={{ ...PAIR, gridColumn: "1 / -1" }} data-exact>
      <QuantityField
        label="East on the plan"
        family="m"
        digits={2}
        value={place.east_m}
        onDone={onDone}
        onChange={(value) =>
          apply(`${place.id}.east`, [{ kind: "move_places", places: { [place.id]: [value, place.north_m] } }])
        }
      />
      <QuantityField
        label="North on the plan"
        family="m"
        digits={2}
        value={place.north_m}
        onDone={onDone}
        onChange={(value) =>
          apply(`${place.id}.north`, [{ kind: "move_places", places: { [place.id]: [place.east_m, value] } }])
        }
      />
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
    </Box>
  );
}
