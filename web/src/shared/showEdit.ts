/** What a hand moves is shown where it is moved to at once; all that follows from it is told by the server. */
import type { Design, DesignEdit } from "../api/types";

export function showEdit(draft: Design, edit: DesignEdit): void {
  switch (edit.kind) {
    case "move_places":
      for (const place of draft.places) {
        const spot = edit.places[place.id];
        if (spot) [place.east_m, place.north_m] = spot;
      }
      break;
    case "set_corners": {
      const line = draft.lines?.find((one) => one.id === edit.line);
      if (line) line.way = edit.corners.map(([x, y]) => [x, y]);
      break;
    }
    case "set_fence": {
      const paddock = draft.paddocks?.find((one) => one.id === edit.paddock);
      if (paddock) paddock.corners = edit.corners.map(([x, y]) => [x, y]);
      break;
    }
    case "set_ground": {
      const place = draft.places.find((one) => one.id === edit.place);
      if (place) place.ground_m = edit.ground_m;
      break;
    }
    case "set_point_ground": {
      const point = draft.lines?.find((one) => one.id === edit.line)?.points?.[edit.index];
      if (point) point[1] = edit.ground_m;
      break;
    }
    case "set_length": {
      const line = draft.lines?.find((one) => one.id === edit.line);
      if (line) line.length_m = edit.length_m;
      break;
    }
    default:
  }
}
