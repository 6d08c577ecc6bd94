/** Places dragged on the plan: what hangs on them follows while they move. */
import { useRef, type PointerEvent } from "react";

import type { Design } from "../../api/types";
import type { Scale } from "../../shared/fit";
import { placeIdOf } from "../../shared/ground";
import type { Spot } from "../../shared/way";

const HARDLY_PX = 4;

interface Handlers {
  drawing: boolean;
  selected: string | null;
  onMove: (placeId: string, spot: Spot) => void;
  onDone: () => void;
}

interface Held {
  id: string;
  from: Spot;
  at: Spot;
  moving: boolean;
}

/** Props that let an element on the plan be dragged as a place. */
export function useDrag(document: Design, scale: Scale, { drawing, selected, onMove, onDone }: Handlers) {
  const held = useRef<Held | null>(null);
  return (placeId: string) => {
    if (drawing) return {};
    return {
      onPointerDown: (event: PointerEvent<SVGGElement>) => {
        const place = document.places.find((one) => one.id === placeId);
        const chosen = selected !== null && placeIdOf(document, selected) === placeId;
        if (!place || event.button !== 0 || (event.pointerType === "touch" && !chosen)) return; // a thumb that scrolls
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = {
          id: placeId,
          from: [event.clientX, event.clientY],
          at: [place.east_m, place.north_m],
          moving: false,
        };
      },
      onPointerMove: (event: PointerEvent<SVGGElement>) => {
        const own = held.current;
        if (own?.id !== placeId) return;
        const [dx, dy] = [event.clientX - own.from[0], event.clientY - own.from[1]];
        own.moving ||= Math.hypot(dx, dy) > HARDLY_PX;
        if (own.moving) onMove(placeId, [own.at[0] + dx / scale.perMetre, own.at[1] - dy / scale.perMetre]);
      },
      onPointerUp: () => {
        if (held.current?.moving) onDone();
        held.current = null;
      },
    };
  };
}
