/** Marks dragged on the plan: what hangs on them follows while they move. */
import { useRef, useState, type PointerEvent } from "react";

import type { Design } from "../../api/types";
import type { Scale } from "../../shared/fit";
import { placeOfPart } from "../../shared/ground";
import type { Spot } from "../../shared/way";

const HARDLY_PX = 4;

interface Handlers {
  /** nothing is dragged while something is drawn */
  idle: boolean;
  chosen: ReadonlySet<string>;
  onMove: (moves: Map<string, Spot>) => void;
  onDone: () => void;
}

interface Held {
  from: Spot;
  at: Map<string, Spot>;
  moving: boolean;
}

/** The part of the plan under a pointer, as `data-part` says. */
export const partUnder = (event: { target: EventTarget }): string | null =>
  (event.target as Element).closest<SVGElement>("[data-part]")?.dataset.part ?? null;

/** Handlers for the group that holds the marks, and whether one is being dragged; of chosen marks all move together. */
export function useDrag(document: Design, scale: Scale, { idle, chosen, onMove, onDone }: Handlers) {
  const held = useRef<Held | null>(null);
  const moved = useRef(false);
  const [dragging, setDragging] = useState(false);
  const handlers = {
    onPointerDown: (event: PointerEvent<SVGGElement>) => {
      const id = partUnder(event);
      moved.current = false;
      if (!idle || !id || event.button !== 0 || event.shiftKey) return;
      if (event.pointerType === "touch" && !chosen.has(id)) return; // a thumb that scrolls
      if (document.lines?.some((line) => line.id === id)) return;
      const at = new Map<string, Spot>();
      for (const part of chosen.has(id) ? chosen : [id]) {
        const place = placeOfPart(document, part);
        if (place) at.set(place.id, [place.east_m, place.north_m]);
      }
      if (!at.size) return;
      (event.target as Element).setPointerCapture(event.pointerId);
      held.current = { from: [event.clientX, event.clientY], at, moving: false };
    },
    onPointerMove: (event: PointerEvent<SVGGElement>) => {
      const own = held.current;
      if (!own) return;
      const [dx, dy] = [event.clientX - own.from[0], event.clientY - own.from[1]];
      own.moving ||= Math.hypot(dx, dy) > HARDLY_PX;
      if (!own.moving) return;
      setDragging(true);
      const by: Spot = [dx / scale.perMetre, -dy / scale.perMetre];
      onMove(new Map([...own.at].map(([id, [x, y]]) => [id, [x + by[0], y + by[1]]])));
    },
    onLostPointerCapture: () => {
      if (held.current?.moving) onDone(); // the mark under the hand was redrawn
      held.current = null;
      setDragging(false);
    },
    onPointerUp: () => {
      moved.current = held.current?.moving ?? false;
      if (moved.current) onDone();
      held.current = null;
      setDragging(false);
    },
  };
  /** whether the click that follows ends a drag: it chooses nothing */
  const wasDragged = () => moved.current;
  return { handlers, dragging, wasDragged };
}
