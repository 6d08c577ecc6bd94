import { memo, useMemo, type KeyboardEvent, type PointerEvent } from "react";

import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { clockText, valueAt, type Strip } from "./model";

export const STRIP = 40;
const BAR = 27;
export const HEAD = 20;
const FINE_S = 300;
const COARSE_S = 3600;
const TAG = 64;

/** What all pictures of a run share: its length, and where a time stands across. */
export interface Axis {
  lengthS: number;
  left: number;
  wide: number;
}

export const across = ({ lengthS, left, wide }: Axis, timeS: number): number =>
  left + (wide * timeS) / lengthS;

interface Props {
  strips: Strip[];
  timesS: number[];
  axis: Axis;
  width: number;
  /** spells in which something has failed, drawn behind all strips */
  shaded: { id: string; fromS: number; toS: number }[];
  atS: number;
  onAt: (timeS: number) => void;
}

/** Levels, flows, drinking and sources on one time axis, with a play head that is dragged or moved by arrows. */
export function Strips({ strips, timesS, axis, width, shaded, atS, onAt }: Props) {
  const system = usePreferences((state) => state.system);
  const height = HEAD + strips.length * STRIP;
  const timeOf = (event: PointerEvent<SVGSVGElement>) => {
    const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
    return Math.min(Math.max(((x - axis.left) / axis.wide) * axis.lengthS, 0), axis.lengthS);
  };
  const key = (event: KeyboardEvent) => {
    const step = event.shiftKey ? COARSE_S : FINE_S;
    const to = {
      ArrowLeft: atS - step,
      ArrowRight: atS + step,
      PageDown: atS - COARSE_S,
      PageUp: atS + COARSE_S,
      Home: 0,
      End: axis.lengthS,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    onAt(Math.min(Math.max(to, 0), axis.lengthS));
  };
  const x = across(axis, atS);
  const text = (strip: Strip) =>
    quantityText({ value: valueAt(timesS, strip.values, atS), unit: strip.unit }, system);
  const leftOf = x > axis.left + axis.wide - TAG;
  return (
    <svg
      width={width}
      height={height}
      style={{ display: "block", cursor: "ew-resize", touchAction: "pan-y" }}
      role="slider"
      tabIndex={0}
      aria-label="Time of the run"
      aria-valuemin={0}
      aria-valuemax={axis.lengthS}
      aria-valuenow={Math.round(atS)}
      aria-valuetext={clockText(atS)}
      data-testid="day-strips"
      onKeyDown={key}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        onAt(timeOf(event));
      }}
      onPointerMove={(event) => event.buttons === 1 && onAt(timeOf(event))}
    >
      {shaded.map(({ id, fromS, toS }) => (
        <rect
          key={id}
          x={across(axis, fromS)}
          width={Math.max(1, across(axis, toS) - across(axis, fromS))}
          y={HEAD - 6}
          height={height - HEAD + 6}
          fill={ink("short")}
          fillOpacity={0.08}
        />
      ))}
      <Drawn strips={strips} timesS={timesS} axis={axis} height={height} />
      <line
        x1={x}
        x2={x}
        y1={HEAD - 4}
        y2={height}
        stroke={ink("ink")}
        strokeWidth={2}
        data-testid="play-head"
      />
      <rect x={x - 26} y={0} width={52} height={16} rx={3} fill={ink("bar")} />
      <text x={x} y={12} fontSize={12} fontWeight={700} textAnchor="middle" fill={ink("onBar")}>
        {clockText(atS % 86_400)}
      </text>
      {strips.map((strip, index) => {
        const y = heightOf(strip, index)(valueAt(timesS, strip.values, atS));
        return (
          <g key={strip.key}>
            <circle cx={x} cy={y} r={4} fill="none" stroke={ink("ink")} strokeWidth={2} />
            <text
              x={leftOf ? x - 7 : x + 7}
              y={Math.max(y - 4, HEAD + index * STRIP + 11)}
              textAnchor={leftOf ? "end" : "start"}
              fontSize={12}
              fill={ink("ink")}
              stroke={ink("paper")}
              strokeWidth={3}
              paintOrder="stroke"
              data-value={strip.key}
            >
              {text(strip)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

const heightOf =
  (strip: Strip, index: number) =>
  (value: number): number =>
    HEAD + index * STRIP + STRIP - 6 - BAR * Math.min(Math.max(value / strip.most, 0), 1);

const COLOURS = { level: "water", flow: "deep", source: "deep", drinking: "some" } as const;

interface DrawnProps {
  strips: Strip[];
  timesS: number[];
  axis: Axis;
  height: number;
}

/** All that stands still while the play head moves. */
const Drawn = memo(function Drawn({ strips, timesS, axis, height }: DrawnProps) {
  const system = usePreferences((state) => state.system);
  const paths = useMemo(
    () =>
      strips.map((strip, index) => {
        const y = heightOf(strip, index);
        const line = (values: number[]) =>
          values
            .map((value, at) => `${at ? "L" : "M"}${f(across(axis, timesS[at] ?? 0))} ${f(y(value))}`)
            .join("");
        const [first, last] = [across(axis, timesS[0] ?? 0), across(axis, timesS.at(-1) ?? 0)];
        return {
          line: line(strip.values),
          area: `${line(strip.values)}L${f(last)} ${y(0)}L${f(first)} ${y(0)}Z`,
          other: strip.other && line(strip.other),
        };
      }),
    [strips, timesS, axis],
  );
  return (
    <g>
      {ticksOf(axis.lengthS).map((time) => (
        <line
          key={time}
          x1={across(axis, time)}
          x2={across(axis, time)}
          y1={HEAD - 6}
          y2={height}
          stroke={ink("rule")}
          strokeWidth={0.8}
        />
      ))}
      {strips.map((strip, index) => {
        const top = HEAD + index * STRIP;
        const most = quantityText({ value: strip.most, unit: strip.unit }, system);
        return (
          <g key={strip.key} data-strip={strip.key}>
            <text x={4} y={top + 16} fontSize={13} fill={ink("ink")}>
              {strip.title.length > 19 ? `${strip.title.slice(0, 18)}…` : strip.title}
              <title>{strip.title}</title>
            </text>
            <text x={4} y={top + 30} fontSize={11.5} fill={ink("faint")}>
              0 to {most}
            </text>
            <path d={paths[index]?.area} fill={ink(COLOURS[strip.kind])} fillOpacity={0.35} />
            <path d={paths[index]?.line} fill="none" stroke={ink(COLOURS[strip.kind])} strokeWidth={2} />
            {paths[index]?.other && (
              <path
                d={paths[index].other}
                fill="none"
                stroke={ink("ink")}
                strokeWidth={1.4}
                strokeDasharray="5 4"
                data-other={strip.key}
              />
            )}
          </g>
        );
      })}
    </g>
  );
});

const f = (value: number): string => value.toFixed(1);

/** Times at which the axis is marked: about eight, at whole hours or days. */
export function ticksOf(lengthS: number): number[] {
  const steps = [900, 1800, 3600, 3 * 3600, 6 * 3600, 12 * 3600, 86_400, 2 * 86_400, 5 * 86_400, 10 * 86_400];
  const step = steps.find((one) => lengthS / one <= 9) ?? 10 * 86_400;
  return Array.from({ length: Math.floor(lengthS / step) + 1 }, (_, at) => at * step);
}
