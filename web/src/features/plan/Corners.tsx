import { useRef, type PointerEvent } from "react";

import type { Design, Line } from "../../api/types";
import { ink } from "../../app/theme";
import type { Scale } from "../../shared/fit";
import { wayOf, type Spot } from "../../shared/way";

interface Props {
  document: Design;
  line: Line;
  scale: Scale;
  onCorners: (corners: Spot[]) => void;
  onDone: () => void;
}

/** Handles of the chosen line: corners to drag, and between them points that become corners when dragged. */
export function Corners({ document, line, scale, onCorners, onDone }: Props) {
  const held = useRef<{ from: Spot; at: Spot; corners: Spot[]; index: number } | null>(null);
  const way = wayOf(document, line);
  const corners = way.slice(1, -1);
  const grab = (event: PointerEvent<SVGCircleElement>, index: number, at: Spot, made: boolean) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const own = made ? [...corners.slice(0, index), at, ...corners.slice(index)] : corners;
    held.current = { from: [event.clientX, event.clientY], at, corners: own, index };
  };
  const move = (event: PointerEvent<SVGCircleElement>) => {
    const own = held.current;
    if (!own) return;
    const east = own.at[0] + (event.clientX - own.from[0]) / scale.perMetre;
    const north = own.at[1] - (event.clientY - own.from[1]) / scale.perMetre;
    onCorners(own.corners.map((corner, index) => (index === own.index ? ([east, north] as const) : corner)));
  };
  const drop = () => {
    held.current = null;
    onDone();
  };
  const handle = (key: string, at: Spot, radius: number, index: number, made: boolean) => (
    <circle
      key={key}
      data-testid={`${made ? "middle" : "corner"}-${index}`}
      cx={scale.x(at[0])}
      cy={scale.y(at[1])}
      r={radius}
      fill={ink(made ? "deep" : "paper")}
      stroke={ink("deep")}
      strokeWidth={2}
      pointerEvents="auto"
      style={{ cursor: "move" }}
      onPointerDown={(event) => grab(event, index, at, made)}
      onPointerMove={move}
      onPointerUp={drop}
      onDoubleClick={() => {
        if (made) return;
        onCorners(corners.filter((_, other) => other !== index));
        onDone();
      }}
    >
      <title>{made ? "Drag to make a corner here" : "Drag the corner; click it twice to take it away"}</title>
    </circle>
  );
  return (
    <g aria-hidden>
      {way.slice(1).map((end, index) => {
        const start = way[index] ?? end;
        return handle(`m${index}`, [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2], 4, index, true);
      })}
      {corners.map((corner, index) => handle(`c${index}`, corner, 7, index, false))}
    </g>
  );
}
