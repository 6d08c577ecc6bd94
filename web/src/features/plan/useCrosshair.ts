/** Drawing with keys alone: a crosshair that arrows move, Enter sets a point, Enter again there ends. */
import { useEffect, useState } from "react";

import { ARROWS, FAST } from "../../shared/arrows";
import type { Spot } from "../../shared/way";
import { DRAWS, type Tool } from "./tools";

export interface Crosshair {
  at: Spot;
  path: Spot[];
}

interface Handlers {
  /** where it begins */
  start: () => Spot;
  /** what a point set there snaps to */
  snap: (at: Spot) => Spot;
  onDrawn: (way: Spot[]) => void;
  /** the points set so far, with the crosshair; null where nothing is begun */
  onSketch: (way: Spot[] | null) => void;
}

/** The crosshair while a tool is in hand and an arrow was pressed; null until then. */
export function useCrosshair(
  tool: Tool | null,
  { start, snap, onDrawn, onSketch }: Handlers,
): Crosshair | null {
  const [cross, setCross] = useState<(Crosshair & { tool: Tool }) | null>(null);
  const own = cross?.tool === tool ? cross : null;
  useEffect(() => {
    if (own) onSketch(own.path.length ? [...own.path, own.at] : null);
  }, [own, onSketch]);
  useEffect(() => {
    if (!tool) return;
    const { least, type } = DRAWS[tool];
    const keys = (event: KeyboardEvent) => {
      const inField =
        event.target instanceof HTMLElement && event.target.closest("input, select, textarea, [role=dialog]");
      if (inField || event.ctrlKey || event.metaKey || event.altKey) return;
      const now = own ?? { tool, at: start(), path: [] };
      const step = ARROWS[event.key];
      const last = now.path.at(-1);
      if (step) {
        const fast = event.shiftKey ? FAST : 1;
        setCross({ ...now, at: [now.at[0] + step[0] * fast, now.at[1] + step[1] * fast] });
      } else if (event.key === "Enter" || event.key === " ") {
        const at = snap(now.at);
        const done = type === "Point" || (last && Math.hypot(at[0] - last[0], at[1] - last[1]) < 0.01);
        if (!done) setCross({ ...now, at, path: [...now.path, at] });
        else {
          const way = type === "Point" ? [at] : now.path;
          if (way.length < least) return;
          setCross(null);
          onDrawn(way);
        }
      } else if (event.key === "Backspace" && own) setCross({ ...own, path: own.path.slice(0, -1) });
      else if (event.key === "Escape") setCross(null);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [tool, own, start, snap, onDrawn]);
  return own;
}
