import type { KeyboardEvent, PointerEvent } from "react";

import type { Line } from "../api/types";
import { ink } from "../app/theme";

export type InlinePart = NonNullable<Line["inline"]>[number];

/** What parts in a line are called. */
export const INLINE_NAMES: Record<InlinePart["kind"], string> = {
  check_valve: "Check valve",
  isolating_valve: "Stopcock",
  filter: "Filter",
  reducer: "Pressure reducer",
  vent: "Air vent",
  drain: "Drain",
  tap_point: "Tap point",
};

/** A shape for each, about a point. */
const SHAPES: Record<InlinePart["kind"], string> = {
  vent: "M0 0V-5M-4 -5L0 -11L4 -5Z",
  drain: "M0 0V5M-4 5L0 11L4 5Z",
  isolating_valve: "M-6 -4L6 4V-4L-6 4Z",
  check_valve: "M-5 -4L5 0L-5 4ZM5 -4V4",
  filter: "M-5 -5H5L2 5H-2Z",
  reducer: "M-5 0A5 5 0 1 0 5 0A5 5 0 1 0 -5 0M-3 3L3 -3",
  tap_point: "M0 0V-7M-4 -7H4",
};

const STEP_M = 1;
const FAST_M = 10;

interface Props {
  part: InlinePart;
  /** where on the drawing [px] */
  x: number;
  y: number;
  /** what it says of its place: "at 52 m of Low leg" */
  place: string;
  lengthM: number;
  /** where along its line the pointer is [m] */
  along: (event: PointerEvent<SVGGElement>) => number;
  onMove: (atM: number) => void;
  onDone: () => void;
  /** whether the keyboard reaches it here */
  focusable: boolean;
}

/** A part in a line, to be dragged along it, or moved with the arrow keys. */
export function InlineGlyph({ part, x, y, place, lengthM, along, onMove, onDone, focusable }: Props) {
  const within = (atM: number) => Number(Math.min(Math.max(atM, 0), lengthM).toFixed(1));
  const name = INLINE_NAMES[part.kind];
  const keys = (event: KeyboardEvent) => {
    const step = event.shiftKey ? FAST_M : STEP_M;
    const by = event.key === "ArrowRight" || event.key === "ArrowUp" ? step : -step;
    if (!event.key.startsWith("Arrow")) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(within(part.at_m + by));
  };
  return (
    <g
      {...(focusable
        ? {
            role: "slider",
            tabIndex: 0,
            "aria-label": `${name} ${place}`,
            "aria-valuemin": 0,
            "aria-valuemax": Math.round(lengthM),
            "aria-valuenow": Math.round(part.at_m),
          }
        : {})}
      data-testid={`inline-${part.kind}`}
      transform={`translate(${x} ${y})`}
      style={{ cursor: "grab", pointerEvents: "auto" }}
      onKeyDown={keys}
      onBlur={onDone}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) onMove(within(along(event)));
      }}
      onPointerUp={onDone}
    >
      <title>{`${name} ${place}`}</title>
      <circle r={11} fill="transparent" />
      <path
        d={SHAPES[part.kind]}
        fill={ink("paper")}
        stroke={ink("ink")}
        strokeWidth={1.6}
        strokeLinejoin="round"
      />
    </g>
  );
}
