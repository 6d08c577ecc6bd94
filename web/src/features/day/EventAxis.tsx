import { useRef, type KeyboardEvent, type PointerEvent } from "react";

import type { DayEvent, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { eventName, clockText } from "./model";
import { across, ticksOf, type Axis } from "./Strips";

const ROWS = 2;
const ROW = 18;
const LOOKS = 20;
const HEIGHT = 20 + LOOKS + ROWS * ROW;
const NUDGE_S = 600;
const DRAG_PX = 3;

interface Props {
  document: Design;
  axis: Axis;
  width: number;
  looksS: number[];
  onMove: (event: DayEvent, atS: number) => void;
  onDone: () => void;
  onOpen: (event: DayEvent) => void;
}

/** The time axis with its events, which are dragged along it, and the looks at the troughs. */
export function EventAxis({ document, axis, width, looksS, onMove, onDone, onOpen }: Props) {
  const events = document.events ?? [];
  const days = axis.lengthS > 2 * 86_400;
  const moved = useRef(false);
  const timeAt = (event: PointerEvent<SVGGElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    const at = ((event.clientX - (box?.left ?? 0) - axis.left) / axis.wide) * axis.lengthS;
    return Math.round(Math.min(Math.max(at, 0), axis.lengthS) / 60) * 60;
  };
  const key = (own: DayEvent) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -NUDGE_S, ArrowRight: NUDGE_S }[event.key];
    if (by !== undefined) onMove(own, Math.min(Math.max(own.at_s + by, 0), axis.lengthS));
    else if (event.key === "Enter" || event.key === " ") onOpen(own);
    else return;
    event.preventDefault();
    if (by !== undefined) onDone();
  };
  return (
    <svg
      width={width}
      height={HEIGHT}
      style={{ display: "block", touchAction: "none" }}
      data-testid="event-axis"
    >
      {ticksOf(axis.lengthS).map((time, index, all) => (
        <text
          key={time}
          x={across(axis, time)}
          y={13}
          fontSize={12}
          textAnchor={
            index === all.length - 1 && across(axis, time) > axis.left + axis.wide - 20 ? "end" : "middle"
          }
          fill={ink("faint")}
        >
          {days
            ? time < axis.lengthS
              ? `day ${Math.floor(time / 86_400) + 1}`
              : ""
            : time === 86_400
              ? "24:00"
              : clockText(time)}
        </text>
      ))}
      {(days ? [] : looksS).map((time) => (
        <g key={time} fill={ink("faint")}>
          <path d={`M${across(axis, time)} 19l-4 7h8z`} fill={ink("little")} />
          <text x={across(axis, time) + 7} y={27} fontSize={11}>
            look
          </text>
        </g>
      ))}
      {events.length === 0 && (
        <text x={axis.left} y={20 + LOOKS + 12} fontSize={12} fill={ink("faint")}>
          No events yet: add one, or drag it here from the list, and see who goes without.
        </text>
      )}
      {events.map((event, index) => {
        if (event.at_s > axis.lengthS) return null;
        const x = across(axis, event.at_s);
        const y = 20 + LOOKS + (index % ROWS) * ROW;
        const name = eventName(document, event);
        const toLeft = x > axis.left + axis.wide * 0.7;
        return (
          <g
            key={event.id}
            role="button"
            tabIndex={0}
            aria-label={`${name}, ${clockText(event.at_s)}: open; arrows move it`}
            data-event={event.id}
            style={{ cursor: "ew-resize" }}
            onKeyDown={key(event)}
            onPointerDown={(pointer) => {
              pointer.currentTarget.setPointerCapture(pointer.pointerId);
              moved.current = false;
            }}
            onPointerMove={(pointer) => {
              if (pointer.buttons !== 1) return;
              const at = timeAt(pointer);
              if (!moved.current && Math.abs(across(axis, at) - x) < DRAG_PX) return;
              moved.current = true;
              onMove(event, at);
            }}
            onPointerUp={() => {
              if (moved.current) onDone();
              else onOpen(event);
            }}
          >
            <path d={`M${x} ${y}l-7 12h14z`} fill={ink("short")} />
            <text
              x={toLeft ? x - 11 : x + 11}
              y={y + 11}
              fontSize={12}
              textAnchor={toLeft ? "end" : "start"}
              fill={ink("ink")}
              stroke={ink("paper")}
              strokeWidth={3}
              paintOrder="stroke"
            >
              {name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
