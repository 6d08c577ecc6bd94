/** What stands on the plan: vessels with their level, outlets, small soundings, the cursor. */
import { memo } from "react";

import type { Design, Place, Sounding, Vessel } from "../../api/types";
import { ink } from "../../app/theme";
import type { Area } from "../../shared/area";
import type { Scale } from "../../shared/fit";
import { usePreferences } from "../../shared/preferences";
import { legsOf, type ShownRoute } from "../../shared/route";
import { quantityText } from "../../shared/units";
import { alongWay, wayOf } from "../../shared/way";
import { LABEL } from "./labels";
import type { Mark } from "./model";

/** A vessel with its water. */
function VesselMark({ vessel, area, selected }: { vessel: Vessel; area: Area; selected: boolean }) {
  const { shape } = vessel;
  const top =
    vessel.overflow_m ??
    ("height_m" in shape ? shape.height_m : "diameter_m" in shape ? shape.diameter_m : 1);
  const share = Math.min(1, Math.max(0, vessel.level_m / top));
  return (
    <>
      <rect
        {...area}
        rx={vessel.role === "trough" ? 1 : vessel.role === "pond" ? 9 : 4}
        fill={ink("paper")}
        stroke={ink("ink")}
        strokeWidth={selected ? 3.2 : 2}
      />
      <rect
        x={area.x + 3}
        width={area.width - 6}
        y={area.y + area.height - 3 - (area.height - 6) * share}
        height={(area.height - 6) * share}
        rx={vessel.role === "pond" ? 5 : 0}
        fill={ink("water")}
      />
    </>
  );
}

/** An outlet that fills no vessel: a drop in a ring. */
function OutletMark({ area, selected }: { area: Area; selected: boolean }) {
  const [x, y] = [area.x + area.width / 2, area.y + area.height / 2];
  return (
    <>
      <circle
        cx={x}
        cy={y}
        r={area.width / 2}
        fill={ink("paper")}
        stroke={ink("ink")}
        strokeWidth={selected ? 3.2 : 2}
      />
      <path
        d={`M${x} ${y - 6}C${x + 6} ${y + 1} ${x + 3} ${y + 5} ${x} ${y + 5}S${x - 6} ${y + 1} ${x} ${y - 6}Z`}
        fill={ink("water")}
      />
    </>
  );
}

/** A source under pressure: an arrow out of the ground, in a square on its corner. */
function SourceMark({ area, selected }: { area: Area; selected: boolean }) {
  const [x, y, r] = [area.x + area.width / 2, area.y + area.height / 2, area.width / 2];
  return (
    <>
      <path
        d={`M${x} ${y - r}L${x + r} ${y}L${x} ${y + r}L${x - r} ${y}Z`}
        fill={ink("paper")}
        stroke={ink("ink")}
        strokeWidth={selected ? 3.2 : 2}
        strokeLinejoin="round"
      />
      <path
        d={`M${x} ${y + r * 0.5}V${y - r * 0.4}M${x - r * 0.3} ${y - r * 0.08}L${x} ${y - r * 0.42}L${x + r * 0.3} ${y - r * 0.08}`}
        fill="none"
        stroke={ink("water")}
        strokeWidth={2.4}
      />
    </>
  );
}

interface MarkLabelProps {
  area: Area;
  /** it lies left of its mark, and so ends there */
  before: boolean;
  name: string;
  route: ShownRoute | undefined;
  small: boolean;
}

interface PartMarkProps {
  mark: Mark;
  /** where its label lies, from the mark's own corner; none where there is no room */
  label: Area | undefined;
  small: boolean;
  selected: boolean;
}

/** A vessel or an outlet with its label; drawn anew only where something of it changed. */
export const PartMark = memo(
  function PartMark({ mark, label, small, selected }: PartMarkProps) {
    const { area, vessel } = mark;
    return (
      <g data-testid={`plan-${mark.id}`} data-part={mark.id}>
        {vessel ? (
          <VesselMark vessel={vessel} area={area} selected={selected} />
        ) : mark.source ? (
          <SourceMark area={area} selected={selected} />
        ) : (
          <OutletMark area={area} selected={selected} />
        )}
        {label && (
          <MarkLabel
            area={moved(label, area)}
            before={label.x + label.width <= 0}
            name={mark.name}
            route={mark.route}
            small={small}
          />
        )}
      </g>
    );
  },
  (a, b) =>
    a.mark.vessel === b.mark.vessel &&
    a.mark.name === b.mark.name &&
    (a.mark.route === b.mark.route || (!a.label && !b.label)) && // only its label says what flows
    sameArea(a.mark.area, b.mark.area) &&
    a.label === b.label &&
    a.small === b.small &&
    a.selected === b.selected,
);

const moved = (label: Area, { x, y }: Area): Area => ({ ...label, x: label.x + x, y: label.y + y });

const sameArea = (a: Area, b: Area) =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

interface JunctionProps {
  place: Place;
  area: Area;
  label: Area | undefined;
  selected: boolean;
}

/** A place where nothing stands but lines that meet. */
export function Junction({ place, area, label, selected }: JunctionProps) {
  return (
    <g data-testid={`plan-${place.id}`} data-part={place.id}>
      <circle
        cx={area.x + area.width / 2}
        cy={area.y + area.height / 2}
        r={area.width / 2}
        fill={ink("paper")}
        stroke={ink("ink")}
        strokeWidth={selected ? 3.6 : 2}
      />
      {label && (
        <text x={area.x + label.x} y={area.y + label.y + 12} fontSize={12} fill={ink("ink")}>
          {place.name ?? place.id}
        </text>
      )}
    </g>
  );
}

/** Name of a mark, what flows there, and its sounding in small. */
function MarkLabel({ area, before, name, route, small }: MarkLabelProps) {
  const system = usePreferences((state) => state.system);
  const sounding = route?.sounding;
  const short = sounding ? sounding.spare === "short" : false;
  const at = before ? { x: area.width, textAnchor: "end" as const } : {};
  return (
    <g transform={`translate(${area.x},${area.y})`}>
      <text
        {...at}
        y={12}
        fontSize={13}
        fontWeight={700}
        fill={ink("ink")}
        stroke={ink("land")}
        strokeWidth={3}
        paintOrder="stroke"
      >
        {name}
      </text>
      {route && (
        <text
          {...at}
          y={12 + LABEL.line}
          fontSize={12}
          fill={ink(short ? "short" : "ink")}
          stroke={ink("land")}
          strokeWidth={3}
          paintOrder="stroke"
        >
          {short ? "■ " : ""}
          {route.run?.state === "dry"
            ? "dry"
            : route.run?.state === "shut"
              ? "shut"
              : quantityText({ value: route.flow_lpm, unit: "L/min" }, system)}
        </text>
      )}
      {sounding && !small && (
        <SmallSounding x={before ? area.width - LABEL.bar : 0} y={18 + LABEL.line} sounding={sounding} />
      )}
    </g>
  );
}

/** The sounding in small: what pipe and fittings take, what is left, and the mark of what the valve needs. */
function SmallSounding({ x, y, sounding }: { x: number; y: number; sounding: Sounding }) {
  const fall = Math.max(0.01, sounding.surface_m - sounding.outlet_m);
  const wide = (metres: number) => Math.min(Math.max(metres / fall, 0), 1) * LABEL.bar;
  const pipe = wide(sounding.pipe_loss_m);
  const fittings = Math.min(wide(sounding.fitting_loss_m), LABEL.bar - pipe);
  const need = LABEL.bar - wide(sounding.valve_needs_m);
  return (
    <g transform={`translate(${x},${y})`} aria-hidden>
      <rect width={pipe} height={7} fill={ink("pipe")} />
      <rect x={pipe} width={fittings} height={7} fill={ink("fitting")} />
      <rect
        x={pipe + fittings}
        width={LABEL.bar - pipe - fittings}
        height={7}
        fill={ink(sounding.spare === "short" ? "short" : "enough")}
      />
      <line x1={need} x2={need} y1={-3} y2={10} stroke={ink("ink")} strokeWidth={2} />
    </g>
  );
}

interface CursorProps {
  route: ShownRoute;
  document: Design;
  scale: Scale;
  atM: number;
}

export function CursorDot({ route, document, scale, atM }: CursorProps) {
  const leg = legsOf(route, document).find((one) => atM <= one.endM);
  if (!leg || leg.endM <= leg.startM) return null;
  const share = (atM - leg.startM) / (leg.endM - leg.startM);
  const line = document.lines?.find((one) => one.id === leg.line);
  if (!line) return null;
  const forward = line.from === leg.from;
  const [east, north] = alongWay(wayOf(document, line), forward ? share : 1 - share);
  return (
    <circle
      cx={scale.x(east)}
      cy={scale.y(north)}
      r={6}
      fill={ink("paper")}
      stroke={ink("ink")}
      strokeWidth={2.4}
    />
  );
}
