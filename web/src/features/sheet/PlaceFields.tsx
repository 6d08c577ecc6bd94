import Box from "@mui/material/Box";

import { setPlaceGround } from "../../shared/ground";
import { QuantityField } from "../../shared/QuantityField";
import { movePlaces } from "../draw";
import { PAIR, type SheetProps } from "./edit";

type Props = Pick<SheetProps, "document" | "edit" | "onDone"> & { placeId: string };

/** Where a part stands, to be typed exactly: east and north on the plan, and the height of its ground. */
export function PlaceFields({ document, placeId, edit, onDone }: Props) {
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
          edit(`${place.id}.east`, (draft) =>
            movePlaces(draft, new Map([[place.id, [value, place.north_m]]])),
          )
        }
      />
      <QuantityField
        label="North on the plan"
        family="m"
        digits={2}
        value={place.north_m}
        onDone={onDone}
        onChange={(value) =>
          edit(`${place.id}.north`, (draft) =>
            movePlaces(draft, new Map([[place.id, [place.east_m, value]]])),
          )
        }
      />
      <QuantityField
        label="Ground height"
        family="m"
        digits={2}
        value={place.ground_m}
        hint={error ? `± ${error} m, ${place.height_from ?? "way not stated"}` : undefined}
        onDone={onDone}
        onChange={(value) => edit(`${place.id}.ground`, (draft) => setPlaceGround(draft, place.id, value))}
      />
    </Box>
  );
}
