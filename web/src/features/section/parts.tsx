/** Pieces of the profile's drawing. */
import type { Design, Vessel } from "../../api/types";
import { ink } from "../../app/theme";
import { sizeLabel, type LinePipes } from "../../shared/pipe";
import type { ShownPoint, ShownRoute } from "../../shared/route";
import { usePreferences } from "../../shared/preferences";
import { drained } from "./model";

/** How wide a letter of a note is, about [px]. */
const LETTER_PX = 5.9;

/** On which side of its point a note stands so that it is not cut off. */
function anchorOf(x: number, wide: number, width: number): "start" | "middle" | "end" {
  if (x + wide / 2 > width - 4) return "end";
  return x - wide / 2 < 4 ? "start" : "middle";
}

function PointNote({
  x,
  y,
  text,
  tone,
  above,
  width,
}: {
  x: number;
  y: number;
  text: string;
  tone: "ink" | "short";
  above: boolean;
  width: number;
}) {
  return (
    <g pointerEvents="none">
      <line x1={x} x2={x} y1={y} y2={above ? y - 16 : y + 20} stroke={ink(tone)} />
      <text
        x={x}
        y={above ? y - 20 : y + 32}
        textAnchor={anchorOf(x, text.length * LETTER_PX, width)}
        fontSize={11}
        fill={ink(tone)}
        stroke={ink(above ? "paper" : "ground")}
        strokeWidth={3}
        paintOrder="stroke"
      >
        {text}
      </text>
    </g>
  );
}

interface NotesProps {
  route: ShownRoute;
  document: Design;
  /** what each line's pipe is good for [kPa] */
  classes: Map<string, number>;
  inView: (m: number) => boolean;
  pressure: (kpa: number | null) => string;
  narrow: boolean;
  x: (m: number) => number;
  y: (m: number) => number;
  width: number;
}

/** What is known of each high and low point, beside it. */
export function PointNotes({ route, document, classes, inView, pressure, narrow, x, y, width }: NotesProps) {
  const noteOf = (point: ShownPoint) => {
    if (point.mark === "high")
      return drawsAir(point)
        ? `high point: suction, ${pressure(point.running_kpa)}`
        : `high point: ${pressure(point.running_kpa)}${narrow ? "" : " running"}`;
    const rated =
      !narrow && classes.has(point.line)
        ? `, pipe rated for ${pressure(classes.get(point.line) ?? null)}`
        : "";
    const drain = drained(point, route, document) ? ", drained" : ", drain here";
    return `low point: ${pressure(point.shut_kpa)}${narrow ? "" : " shut"}${rated}${drain}`;
  };
  return route.section.map((point, index) => {
    if (!point.mark || !inView(point.at_m)) return null;
    const high = point.mark === "high";
    return (
      <PointNote
        key={`note-${index}`}
        x={x(point.at_m)}
        y={y(high ? Math.max(point.pipe_m, point.ground_m) : point.pipe_m)}
        above={high} // on either side of it the pipe falls away
        text={noteOf(point)}
        tone={high && drawsAir(point) ? "short" : "ink"}
        width={width}
      />
    );
  });
}

const drawsAir = (point: ShownPoint): boolean => point.running_kpa !== null && point.running_kpa < 0;

const LETTER = 6;

/** Which size of pipe lies where, under the section. */
export function SizeBar({
  route,
  document,
  pipes,
  x,
  y,
}: {
  route: ShownRoute;
  document: Design;
  pipes: LinePipes;
  x: (m: number) => number;
  y: number;
}) {
  const system = usePreferences((state) => state.system);
  const bars = route.lines.map((id) => {
    const own = route.section.filter((point) => point.line === id);
    const line = document.lines?.find((one) => one.id === id);
    const text = sizeLabel(pipes[id], system);
    return { id, from: own[0]?.at_m ?? 0, to: own.at(-1)?.at_m ?? 0, text, name: line?.name ?? id };
  });
  return (
    <g>
      {bars.map((bar, index) => (
        <g key={bar.id} data-line={bar.name}>
          <rect
            x={x(bar.from)}
            width={Math.max(0, x(bar.to) - x(bar.from) - 1)}
            y={y}
            height={14}
            fill={ink(index % 2 ? "fitting" : "deep")}
          />
          <text
            x={(x(bar.from) + x(bar.to)) / 2}
            y={y + 11}
            textAnchor="middle"
            fontSize={11}
            fill={ink("paper")}
          >
            {[`${bar.name} · ${bar.text}`, bar.name, bar.text, ""].find(
              (text) => text.length * LETTER < x(bar.to) - x(bar.from),
            )}
          </text>
        </g>
      ))}
    </g>
  );
}

interface BodyProps {
  vessel: Vessel | undefined;
  document: Design;
  x: number;
  /** 1 draws to the right of x, -1 to the left */
  side: 1 | -1;
  y: (heightM: number) => number;
}

const BODY_WIDTH = 14;

/** A vessel at the section's end, with its water. */
export function Body({ vessel, document, x, side, y }: BodyProps) {
  const place = document.places.find((one) => one.id === vessel?.place);
  if (!vessel || !place) return null;
  const floor = place.ground_m + (vessel.stand_m ?? 0);
  const rim = floor + (vessel.overflow_m ?? vessel.level_m);
  const left = side === 1 ? x : x - BODY_WIDTH;
  return (
    <g>
      <rect
        x={left}
        width={BODY_WIDTH}
        y={y(rim)}
        height={y(floor) - y(rim)}
        fill={ink("paper")}
        stroke={ink("ink")}
        strokeWidth={1.4}
      />
      <rect
        x={left + 1}
        width={BODY_WIDTH - 2}
        y={y(floor + vessel.level_m)}
        height={y(floor) - y(floor + vessel.level_m)}
        fill={ink("water")}
      />
    </g>
  );
}
