import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useMemo, useRef, useState, type ReactNode, type KeyboardEvent, type PointerEvent } from "react";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText, shownUnit, toShown } from "../../shared/units";
import { legsOf, type ShownRoute } from "../../shared/route";
import type { Option } from "../../shared/options";
import { useSize } from "../../shared/useSize";
import { ZoomButtons } from "../../shared/ZoomButtons";
import { classLine } from "./classes";
import { tickDigits } from "../../shared/ticks";
import { InlineParts } from "./InlineParts";
import { Body, PointNotes, SizeBar } from "./parts";
import {
  MARGIN,
  pointOfLine,
  roomUnderGrade,
  sectionAt,
  sectionGeometry,
  zoomed,
  type Stretch,
} from "./model";
import { WayChoice } from "./WayChoice";
import type { LinePipes } from "../../shared/pipe";

interface Props {
  route: ShownRoute;
  /** every way that can be shown, by key */
  ways: Option[];
  document: Design;
  pipes: LinePipes;
  cursorM: number | null;
  /** further choices beside the way */
  more?: ReactNode;
  /** what each line's pipe is good for, at its own temperature [kPa] */
  limits: Readonly<Record<string, number>>;
  /** what is drawn over the pipe */
  over?: (x: (atM: number) => number, y: (heightM: number) => number) => ReactNode;
  onWay: (key: string) => void;
  onCursor: (atM: number | null) => void;
  onGround: (line: string, index: number, groundM: number) => void;
  /** a part in a line is moved along it */
  onInline: (line: string, index: number, atM: number) => void;
  onDone: () => void;
}

/** Where all outlets are shut and water still runs, there is no level to tell. */
const STILL_WITHIN_M = 0.05;
const ZOOM = 1.5;
/** Narrower than this [px] the pressure line goes without its name. */
const NARROW = 480;
const ZOOMS = { in: "Zoom in the profile", out: "Zoom out the profile", fit: "Fit the profile" };

/** Ground, pipe, level with all shut and pressure line when running, along the pipe; heights can be dragged. */
export function Section(props: Props) {
  const { route, ways, document, pipes, cursorM, onWay, onCursor, onGround, onDone } = props;
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const [zoom, setZoom] = useState<{ key: string; stretch: Stretch } | null>(null);
  const stretch: Stretch = zoom?.key === route.key ? zoom.stretch : [0, route.length_m];
  const [from, to] = stretch;
  const geometry = useMemo(
    () => sectionGeometry(route, size, system, [from, to]),
    [route, size, system, from, to],
  );
  const heightDigits = tickDigits(geometry.heightTicks, system);
  const look = (factor: number) => {
    const about = cursorM ?? (from + to) / 2;
    setZoom({ key: route.key, stretch: zoomed(stretch, about, factor, route.length_m) });
  };
  const inView = (atM: number) => atM >= from - 1e-6 && atM <= to + 1e-6;
  const classes = useMemo(() => new Map(Object.entries(props.limits)), [props.limits]);
  const dragged = useRef<number | null>(null);
  const at = cursorM === null ? null : sectionAt(route.section, Math.min(cursorM, route.length_m));
  const shown = (metres: number, digits = 0) => figure(toShown(metres, "m", system), digits);
  const pressure = (kpa: number | null) =>
    kpa === null ? "no water" : quantityText({ value: kpa, unit: "kPa" }, system);
  const backwards = new Set(
    legsOf(route, document)
      .filter((leg) => !leg.forward)
      .map((leg) => leg.line),
  );
  const metresAt = (event: PointerEvent<SVGElement>) => {
    const area = event.currentTarget.ownerSVGElement ?? (event.currentTarget as SVGSVGElement);
    const rect = area.getBoundingClientRect();
    return {
      x: geometry.x.invert(event.clientX - rect.left),
      y: geometry.y.invert(event.clientY - rect.top),
    };
  };
  const drag = (event: PointerEvent<SVGCircleElement>, index: number) => {
    if (dragged.current !== index) return;
    const point = pointOfLine(route.section, index, backwards);
    if (point) onGround(point.line, point.index, Number(metresAt(event).y.toFixed(2)));
  };
  const keys = (event: KeyboardEvent) => {
    const step = (route.length_m / 100) * (event.shiftKey ? 10 : 1);
    const now = cursorM ?? 0;
    if (event.key === "ArrowRight") onCursor(Math.min(route.length_m, now + step));
    else if (event.key === "ArrowLeft") onCursor(Math.max(0, now - step));
    else if (event.key === "+") look(ZOOM);
    else if (event.key === "-") look(1 / ZOOM);
    else if (event.key === "0") setZoom(null);
    else if (event.key === "Escape") onCursor(null);
    else return;
    event.preventDefault();
  };
  const reading = at
    ? `${shown(at.at_m)} ${shownUnit("m", system)} along · running ${pressure(at.running_kpa)} · shut ${pressure(at.shut_kpa)} · ${figure(toShown(Math.abs(at.velocity_ms), "m", system), 2)} ${shownUnit("m", system)}/s${classes.has(at.line) ? ` · rated ${pressure(classes.get(at.line) ?? null)}` : ""}`
    : "move along the line for values";

  const narrow = size.width <= NARROW;
  const vesselOf = (id: string | null | undefined) => document.vessels?.find((one) => one.id === id);
  const filled = route.outlet ? document.outlets?.find((one) => one.id === route.outlet)?.fills : route.end;
  const stands = route.section.map((point) => point.shut_head_m).filter((head) => head !== null);
  const still = Math.max(...stands) - Math.min(...stands) < STILL_WITHIN_M;
  const level = still ? (stands.at(-1) ?? null) : null;
  const last = route.section.at(-1);
  const gradeText = geometry.band
    ? "pressure line when running, with its range"
    : "pressure line when running";
  const gradeSpot = roomUnderGrade(route, geometry, gradeText.length * 6);

  return (
    <Box
      component="section"
      aria-label="Profile"
      sx={{ display: "flex", flexDirection: "column", height: "100%" }}
    >
      <Box
        sx={{
          display: "flex",
          flexWrap: { xs: "wrap", md: "nowrap" },
          justifyContent: "space-between",
          px: 3,
          pt: 2,
          columnGap: 4,
        }}
      >
        <Box
          sx={{ display: "flex", alignItems: "baseline", gap: 2, minWidth: 0, flex: { xs: 1, md: "none" } }}
        >
          <Typography variant="h2" sx={{ whiteSpace: "nowrap", display: { xs: "none", md: "block" } }}>
            Profile:
          </Typography>
          <WayChoice chosen={route.key} ways={ways} onWay={onWay} />
          {props.more}
        </Box>
        <Box className="not-printed" sx={{ display: "flex", gap: 1, pr: { xs: 14, md: 0 } }}>
          <ZoomButtons
            names={ZOOMS}
            side={24}
            onZoom={(zoom) => (zoom === "fit" ? setZoom(null) : look(zoom === "in" ? ZOOM : 1 / ZOOM))}
          />
        </Box>
        <Typography
          variant="caption"
          color="text.secondary"
          data-testid="section-reading"
          noWrap
          sx={{
            pr: { xs: 0, md: 14 },
            flex: { xs: "0 0 100%", md: 1 }, // a line of its own on a phone
            minWidth: 0,
            textAlign: { xs: "left", md: "right" },
          }} // on one line: the section must not shift under the hand
        >
          {reading}
        </Typography>
      </Box>
      <Box ref={box} sx={{ flex: 1, minHeight: 150 }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={size.height}
            data-testid="section-drawing"
            style={{ display: "block", touchAction: "none" }}
            role="slider"
            tabIndex={0}
            aria-label="Place along the line"
            aria-valuemin={0}
            aria-valuemax={Math.round(route.length_m)}
            aria-valuenow={Math.round(cursorM ?? 0)}
            aria-valuetext={reading}
            onKeyDown={keys}
            onPointerMove={(event) => {
              const x = metresAt(event).x;
              onCursor(Math.min(route.length_m, Math.max(0, x)));
            }}
            onPointerLeave={() => onCursor(null)}
            onWheel={(event) => look(event.deltaY < 0 ? ZOOM : 1 / ZOOM)}
          >
            <clipPath id="section-frame">
              <rect
                x={MARGIN.left - 1}
                y={0}
                width={Math.max(0, size.width - MARGIN.left - MARGIN.right + 2)}
                height={size.height}
              />
            </clipPath>
            {geometry.heightTicks.map((tick) => (
              <g key={tick}>
                <line
                  x1={MARGIN.left}
                  x2={size.width - MARGIN.right}
                  y1={geometry.y(tick)}
                  y2={geometry.y(tick)}
                  stroke={ink("rule")}
                  strokeOpacity={0.5}
                />
                <text
                  x={MARGIN.left - 7}
                  y={geometry.y(tick) + 4}
                  textAnchor="end"
                  fontSize={11}
                  fill={ink("faint")}
                >
                  {shown(tick, heightDigits)}
                </text>
              </g>
            ))}
            <g clipPath="url(#section-frame)">
              <path d={geometry.groundArea} fill={ink("ground")} />
              <Body
                vessel={inView(0) ? vesselOf(route.vessel) : undefined}
                document={document}
                x={geometry.x(0)}
                side={1}
                y={geometry.y}
              />
              <Body
                vessel={inView(route.length_m) ? vesselOf(filled) : undefined}
                document={document}
                x={geometry.x(route.length_m)}
                side={-1}
                y={geometry.y}
              />
              <path d={geometry.ground} fill="none" stroke={ink("groundEdge")} strokeWidth={1.5} />
              <path
                d={geometry.pipe}
                fill="none"
                stroke={ink("ink")}
                strokeWidth={1.6}
                data-testid="section-pipe"
              />
              <path d={geometry.band} fill={ink("water")} fillOpacity={0.28} data-testid="section-band" />
              <path d={geometry.shut} fill="none" stroke={ink("water")} strokeWidth={1.2} />
              <path
                d={geometry.running}
                fill="none"
                stroke={ink("deep")}
                strokeWidth={2.6}
                data-testid="section-grade"
              />
              <path
                d={classLine(route.section, classes, geometry)}
                fill="none"
                stroke={ink("short")}
                strokeWidth={1.4}
                strokeDasharray="2 5"
                data-testid="section-class"
              />
            </g>
            <g clipPath="url(#section-frame)">{props.over?.(geometry.x, geometry.y)}</g>
            {level !== null && (
              <text
                x={size.width - MARGIN.right}
                y={geometry.y(level) - 5}
                textAnchor="end"
                fontSize={11}
                fill={ink("deep")}
              >
                level with all shut {shown(level, 1)}
              </text>
            )}
            {gradeSpot && !narrow && (
              <text
                x={Math.min(gradeSpot.x, size.width - MARGIN.right - gradeText.length * 6)}
                y={gradeSpot.y}
                fontSize={11}
                fontWeight={600}
                fill={ink("deep")}
              >
                {gradeText}
              </text>
            )}
            <g clipPath="url(#section-frame)">
              <SizeBar
                route={route}
                document={document}
                pipes={pipes}
                x={geometry.x}
                y={size.height - MARGIN.bottom + 3}
              />
            </g>
            {geometry.distanceTicks.map((tick) => (
              <text
                key={tick}
                x={geometry.x(tick)}
                y={size.height - 7}
                textAnchor="middle"
                fontSize={11}
                fill={ink("faint")}
              >
                {shown(tick, tickDigits(geometry.distanceTicks, system))}
              </text>
            ))}
            <text
              x={size.width - MARGIN.right}
              y={size.height - 7}
              textAnchor="end"
              fontSize={11}
              fill={ink("faint")}
            >
              {shown(to)} {shownUnit("m", system)}
            </text>
            <PointNotes
              {...{ route, document, classes, inView, pressure, narrow }}
              x={geometry.x}
              y={geometry.y}
              width={size.width}
            />
            <InlineParts
              {...{ route, document, inView, onDone }}
              x={geometry.x}
              y={geometry.y}
              metresAt={(event) => metresAt(event).x}
              onInline={props.onInline}
            />
            {at && (
              <g pointerEvents="none">
                <line
                  x1={geometry.x(at.at_m)}
                  x2={geometry.x(at.at_m)}
                  y1={MARGIN.top}
                  y2={geometry.bottom}
                  stroke={ink("ink")}
                  strokeOpacity={0.55}
                />
                {at.running_head_m !== null && (
                  <circle
                    cx={geometry.x(at.at_m)}
                    cy={geometry.y(at.running_head_m)}
                    r={3.5}
                    fill={ink("deep")}
                  />
                )}
              </g>
            )}
            {route.section.map((point, index) =>
              !inView(point.at_m) ? null : (
                <circle
                  key={`${point.line}-${index}`}
                  data-testid={`ground-${index}`}
                  cx={geometry.x(point.at_m)}
                  cy={geometry.y(point.ground_m)}
                  r={5}
                  fill={ink("paper")}
                  stroke={ink("groundEdge")}
                  strokeWidth={1.6}
                  style={{ cursor: "ns-resize" }}
                  onPointerDown={(event) => {
                    dragged.current = index;
                    event.currentTarget.setPointerCapture(event.pointerId);
                  }}
                  onPointerMove={(event) => drag(event, index)}
                  onPointerUp={() => {
                    dragged.current = null;
                    onDone();
                  }}
                >
                  <title>Ground {shown(point.ground_m, 2)}: drag to change, or type it in the sheet</title>
                </circle>
              ),
            )}
            {last && inView(last.at_m) && (
              <circle cx={geometry.x(last.at_m)} cy={geometry.y(last.pipe_m)} r={3} fill={ink("ink")} />
            )}
          </svg>
        )}
      </Box>
    </Box>
  );
}
