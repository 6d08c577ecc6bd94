import { useRef, type PointerEvent } from "react";

import { ink } from "../../app/theme";
import type { Scale } from "../../shared/fit";
import type { Spot } from "../../shared/way";

interface Props {
  way: readonly Spot[];
  /** the way comes back to where it began, and all of it can be dragged: else not its ends */
  closed?: boolean;
  scale: Scale;
  onCorners: (corners: Spot[]) => void;
  onDone: () => void;
}

const LEAST_OF_FENCE = 3;

/** Handles of the chosen line or fence: corners to drag, between them points that become corners when dragged. */
export function Corners({ way, closed = false, scale, onCorners, onDone }: Props) {
  const held = useRef<{ from: Spot; at: Spot; corners: readonly Spot[]; index: number } | null>(null);
  const corners = closed ? way : way.slice(1, -1);
  const legs = closed ? way.map((end, index) => [way.at(index - 1) ?? end, end] as const) : legsOf(way);
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
        if (made || (closed && corners.length <= LEAST_OF_FENCE)) return;
        onCorners(corners.filter((_, other) => other !== index));
        onDone();
      }}
    >
      <title>{made ? "Drag to add a corner here" : "Drag the corner; double-click to delete it"}</title>
    </circle>
  );
  return (
    <g aria-hidden>
      {legs.map(([start, end], index) =>
        handle(`m${index}`, [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2], 4, index, true),
      )}
      {corners.map((corner, index) => handle(`c${index}`, corner, 7, index, false))}
    </g>
  );
}

const legsOf = (way: readonly Spot[]) => way.slice(1).map((end, index) => [way[index] ?? end, end] as const);
