import Box from "@mui/material/Box";

import type { Analysis, Catalogue, Design, Outlet, Route, Vessel } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText, shownUnit, toShown, type System } from "../../shared/units";
import { placeIdOf } from "../../shared/ground";
import { boreOf, sizeLabel } from "../../shared/pipe";
import { legsOf } from "../../shared/route";
import { fallsShort } from "../../shared/sounding";
import { useSize } from "../../shared/useSize";
import { LITTLE_M, planScale, scaleBar, SOME_M, spareOf, type Spare } from "./model";

interface Props {
  document: Design;
  analysis: Analysis | null;
  catalogue: Catalogue | undefined;
  selected: string | null;
  route: Route | null;
  cursorM: number | null;
  onSelect: (id: string) => void;
}

const SPARE_INK = {
  short: "short",
  little: "little",
  some: "some",
  enough: "enough",
  still: "faint",
} as const;

/** Where everything lies: lines as wide as their bore, vessels with their level, outlets with what they get. */
export function Plan({ document, analysis, catalogue, selected, route, cursorM, onSelect }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const scale = planScale(document, size);
  const spot = (end: string): [number, number] => {
    const place = document.places.find((one) => one.id === placeIdOf(document, end));
    return place ? [scale.x(place.east_m), scale.y(place.north_m)] : [0, 0];
  };
  const bar = scaleBar(scale.perMetre, (m) => toShown(m, "m", system));
  const legendX = (index: number) => 176 + index * 92;

  return (
    <Box
      ref={box}
      component="section"
      aria-label="Plan"
      sx={{ height: "100%", minHeight: 160, bgcolor: ink("land"), position: "relative" }}
    >
      {size.width > 0 && (
        <svg width={size.width} height={size.height} style={{ display: "block", position: "absolute" }}>
          <defs>
            <pattern
              id="chart-paper"
              width={10 * Math.max(1, scale.perMetre)}
              height={10 * Math.max(1, scale.perMetre)}
              patternUnits="userSpaceOnUse"
            >
              <path
                d={`M0 0H${10 * Math.max(1, scale.perMetre)}M0 0V${10 * Math.max(1, scale.perMetre)}`}
                stroke={ink("rule")}
                strokeOpacity={0.28}
                fill="none"
              />
            </pattern>
          </defs>
          <rect width={size.width} height={size.height} fill="url(#chart-paper)" />
          {(document.lines ?? []).map((line) => {
            const [x1, y1] = spot(line.from);
            const [x2, y2] = spot(line.to);
            const spare = spareOf(line.id, analysis);
            const width = Math.max(3, boreOf(line, catalogue) / 6);
            const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
            const label = sizeLabel(line, catalogue, system);
            return (
              <g key={line.id} onClick={() => onSelect(line.id)} style={{ cursor: "pointer" }}>
                <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="transparent" strokeWidth={18} />
                {selected === line.id && (
                  <line
                    x1={x1}
                    y1={y1}
                    x2={x2}
                    y2={y2}
                    stroke={ink("ink")}
                    strokeOpacity={0.25}
                    strokeWidth={width + 8}
                    strokeLinecap="round"
                  />
                )}
                <line
                  x1={x1}
                  y1={y1}
                  x2={x2}
                  y2={y2}
                  stroke={ink(SPARE_INK[spare])}
                  strokeWidth={width}
                  strokeLinecap="butt"
                  strokeDasharray={spare === "short" ? "9 5" : undefined}
                />
                <g transform={`translate(${mx},${my})`}>
                  <rect
                    x={-label.length * 3.4 - 6}
                    y={-10}
                    width={label.length * 6.8 + 12}
                    height={19}
                    rx={2}
                    fill={ink("paper")}
                    stroke={ink("rule")}
                  />
                  <text textAnchor="middle" y={4} fontSize={12} fill={ink("ink")}>
                    {label}
                  </text>
                </g>
              </g>
            );
          })}
          {route && cursorM !== null && (
            <CursorDot route={route} document={document} spot={spot} atM={cursorM} />
          )}
          {document.places
            .filter(
              (place) =>
                ![...(document.vessels ?? []), ...(document.outlets ?? [])].some(
                  (part) => part.place === place.id,
                ),
            )
            .map((place) => (
              <g key={place.id} onClick={() => onSelect(place.id)} style={{ cursor: "pointer" }}>
                <circle
                  cx={scale.x(place.east_m)}
                  cy={scale.y(place.north_m)}
                  r={6}
                  fill={ink("paper")}
                  stroke={ink("ink")}
                  strokeWidth={2}
                />
                <text
                  x={scale.x(place.east_m) - 12}
                  y={scale.y(place.north_m) + 4}
                  textAnchor="end"
                  fontSize={12}
                  fill={ink("ink")}
                >
                  {place.name ?? place.id}
                </text>
              </g>
            ))}
          {(document.vessels ?? []).map((vessel) => (
            <VesselMark
              key={vessel.id}
              vessel={vessel}
              at={spot(vessel.id)}
              outlet={(document.outlets ?? []).find((outlet) => outlet.fills === vessel.id)}
              analysis={analysis}
              selected={selected === vessel.id}
              onSelect={onSelect}
            />
          ))}
          <g transform={`translate(14,${size.height - 16})`} fontSize={11} fill={ink("ink")}>
            <path d={`M0 -4V4M0 0H${bar.pixels}M${bar.pixels} -4V4`} stroke={ink("ink")} />
            <text x={bar.pixels + 6} y={4}>
              {figure(bar.length, 0)} {shownUnit("m", system)}
            </text>
          </g>
          <g transform={`translate(${size.width - 22},26)`} aria-label="north is up" role="img">
            <path d="M0 12V-10M-4 -4 0 -12 4 -4" stroke={ink("ink")} fill="none" strokeWidth={1.4} />
            <text y={24} textAnchor="middle" fontSize={10} fill={ink("ink")}>
              N
            </text>
          </g>
          {size.width > 520 &&
            (["short", "little", "some", "enough"] as const).map((spare, index) => (
              <g key={spare} transform={`translate(${legendX(index)},${size.height - 16})`}>
                <line
                  x2={22}
                  stroke={ink(SPARE_INK[spare])}
                  strokeWidth={5}
                  strokeDasharray={spare === "short" ? "9 5" : undefined}
                />
                <text x={28} y={4} fontSize={11} fill={ink("ink")}>
                  {spareText(spare, system)}
                </text>
              </g>
            ))}
          {size.width > 520 && (
            <text x={legendX(0)} y={size.height - 30} fontSize={11} fill={ink("faint")}>
              line: head to spare at the wanted flow
            </text>
          )}
        </svg>
      )}
    </Box>
  );
}

function spareText(spare: Spare, system: System): string {
  const metres = (value: number) => `${figure(toShown(value, "m", system), 0)} ${shownUnit("m", system)}`;
  switch (spare) {
    case "short":
      return "short";
    case "little":
      return `under ${metres(LITTLE_M)}`;
    case "some":
      return `to ${metres(SOME_M)}`;
    case "enough":
      return `over ${metres(SOME_M)}`;
    case "still":
      return "still";
  }
}

interface VesselProps {
  vessel: Vessel;
  at: [number, number];
  outlet: Outlet | undefined;
  analysis: Analysis | null;
  selected: boolean;
  onSelect: (id: string) => void;
}

function VesselMark({ vessel, at, outlet, analysis, selected, onSelect }: VesselProps) {
  const system = usePreferences((state) => state.system);
  const [x, y] = at;
  const trough = vessel.role === "trough";
  const [width, height] = trough ? [40, 16] : [38, 26];
  const shape = vessel.shape;
  const top =
    vessel.overflow_m ??
    ("height_m" in shape ? shape.height_m : "diameter_m" in shape ? shape.diameter_m : 1);
  const share = Math.min(1, Math.max(0, vessel.level_m / top));
  const route = analysis?.routes.find((one) => one.outlet === outlet?.id);
  const sounding = route?.sounding;
  return (
    <g onClick={() => onSelect(vessel.id)} style={{ cursor: "pointer" }}>
      <rect
        x={x - width / 2}
        y={y - height / 2}
        width={width}
        height={height}
        rx={trough ? 1 : 4}
        fill={ink("paper")}
        stroke={ink("ink")}
        strokeWidth={selected ? 3.2 : 2}
      />
      <rect
        x={x - width / 2 + 3}
        width={width - 6}
        y={y + height / 2 - 3 - (height - 6) * share}
        height={(height - 6) * share}
        fill={ink("water")}
      />
      <text x={x + width / 2 + 8} y={y - 1} fontSize={13} fontWeight={700} fill={ink("ink")}>
        {vessel.name ?? vessel.id}
      </text>
      {route && (
        <text
          x={x + width / 2 + 8}
          y={y + 14}
          fontSize={12}
          fill={ink(sounding && fallsShort(sounding) ? "short" : "ink")}
        >
          {quantityText({ value: route.flow_lpm, unit: "L/min" }, system)}
        </text>
      )}
      {sounding && <SmallSounding x={x + width / 2 + 8} y={y + 20} sounding={sounding} />}
    </g>
  );
}

/** The sounding in small: what pipe and fittings take, what is left, and the mark of what the valve needs. */
function SmallSounding({
  x,
  y,
  sounding,
}: {
  x: number;
  y: number;
  sounding: NonNullable<Route["sounding"]>;
}) {
  const fall = Math.max(0.01, sounding.surface_m - sounding.outlet_m);
  const wide = (metres: number) => Math.min(Math.max(metres / fall, 0), 1) * 84;
  const pipe = wide(sounding.pipe_loss_m);
  const fittings = Math.min(wide(sounding.fitting_loss_m), 84 - pipe);
  const need = 84 - wide(sounding.valve_needs_m);
  return (
    <g transform={`translate(${x},${y})`} aria-hidden>
      <rect width={pipe} height={7} fill={ink("pipe")} />
      <rect x={pipe} width={fittings} height={7} fill={ink("fitting")} />
      <rect
        x={pipe + fittings}
        width={84 - pipe - fittings}
        height={7}
        fill={ink(fallsShort(sounding) ? "short" : "enough")}
      />
      <line x1={need} x2={need} y1={-3} y2={10} stroke={ink("ink")} strokeWidth={2} />
    </g>
  );
}

interface CursorProps {
  route: Route;
  document: Design;
  spot: (end: string) => [number, number];
  atM: number;
}

function CursorDot({ route, document, spot, atM }: CursorProps) {
  const leg = legsOf(route, document).find((one) => atM <= one.endM);
  if (!leg || leg.endM <= leg.startM) return null;
  const share = (atM - leg.startM) / (leg.endM - leg.startM);
  const [x1, y1] = spot(leg.from);
  const [x2, y2] = spot(leg.to);
  return (
    <circle
      cx={x1 + (x2 - x1) * share}
      cy={y1 + (y2 - y1) * share}
      r={6}
      fill={ink("paper")}
      stroke={ink("ink")}
      strokeWidth={2.4}
    />
  );
}
