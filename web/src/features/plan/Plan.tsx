import Box from "@mui/material/Box";
import { useMemo, useState, type MouseEvent, type ReactNode } from "react";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import type { Area } from "../../shared/area";
import type { Frame, Scale } from "../../shared/fit";
import { placeOfPart } from "../../shared/ground";
import { Lost } from "../../shared/Lost";
import { sizeLabel, type LinePipes } from "../../shared/pipe";
import { usePreferences } from "../../shared/preferences";
import type { ShownRoute } from "../../shared/route";
import { useSize } from "../../shared/useSize";
import { ZoomButtons } from "../../shared/ZoomButtons";
import { alongWay, wayOf, type Spot } from "../../shared/way";
import { Corners } from "./Corners";
import { CrosshairMark } from "./CrosshairMark";
import { InlineMarks } from "./InlineMarks";
import { Legend } from "./Legend";
import { CursorDot, Junction, PartMark } from "./marks";
import {
  planLabels,
  planMarks,
  planScale,
  SIZE_HEIGHT,
  sparesOf,
  type PlanLabels,
  type PlanMarks,
} from "./model";
import { Strokes } from "./Strokes";
import type { Tool } from "./tools";
import { useCrosshair } from "./useCrosshair";
import { partUnder, useDrag } from "./useDrag";
import { useMap } from "./useMap";

interface Props {
  document: Design;
  routes: ShownRoute[];
  /** lines through which water runs */
  running: ReadonlySet<string>;
  pipes: LinePipes;
  /** head under which little is left, and some [m] */
  spareLimits: readonly [number, number];
  /** all that is chosen; the first is the one that the sheet shows */
  chosen: readonly string[];
  route: ShownRoute | null;
  cursorM: number | null;
  tool: Tool | null;
  /** `add` where it joins what is chosen already */
  onSelect: (id: string | null, add?: boolean) => void;
  onSelectAll: (ids: string[]) => void;
  /** what lies under the drawing, and what under its lines can be chosen too */
  under: (scale: Scale, frame: Frame, covered: Area[]) => ReactNode;
  within: (scale: Scale, chosen: ReadonlySet<string>) => ReactNode;
  /** what is drawn over the lines */
  over: (scale: Scale) => ReactNode;
  /** what is drawn under or over them that labels should not cover */
  keepOff: (scale: Scale) => Area[];
  /** where the crosshair begins, and what it snaps to */
  start: () => Spot;
  snap: (at: Spot) => Spot;
  onDrawn: (way: Spot[]) => void;
  /** what is drawn so far; null where nothing is */
  onSketch: (way: Spot[] | null) => void;
  onMove: (moves: Map<string, Spot>) => void;
  onCorners: (lineId: string, corners: Spot[]) => void;
  onFence: (paddockId: string, corners: Spot[]) => void;
  /** a part in a line is moved along it */
  onInline: (line: string, index: number, atM: number) => void;
  onDone: () => void;
}

/** Where everything lies: lines as wide as their bore, vessels with their level, outlets with what they get. */
export function Plan(props: Props) {
  const { document, routes, running, pipes, route, cursorM, tool } = props;
  const [box, size] = useSize<HTMLDivElement>();
  const { onSelectAll, onDrawn, onSketch } = props;
  const handlers = useMemo(
    () => ({
      onDrawn,
      onSketch,
      onBox: ([west, south]: Spot, [east, north]: Spot) =>
        onSelectAll(
          partsOf(document).filter((id) => {
            const place = placeOfPart(document, id);
            return (
              place &&
              place.east_m >= west &&
              place.east_m <= east &&
              place.north_m >= south &&
              place.north_m <= north
            );
          }),
        ),
    }),
    [document, onDrawn, onSketch, onSelectAll],
  );
  const { target, scale: seen, fit, zoom, fetchTools } = useMap(document, size, tool, handlers);
  const scale = useMemo(() => seen ?? planScale(document, size), [seen, document, size]); // before the map is there
  const chosen = useMemo(() => new Set(props.chosen), [props.chosen]);
  const chosenLine = chosen.size === 1 ? document.lines?.find((line) => chosen.has(line.id)) : undefined;
  const fence = chosen.size === 1 ? document.paddocks?.find((one) => chosen.has(one.id)) : undefined;
  const {
    handlers: drag,
    dragging,
    wasDragged,
  } = useDrag(document, scale, { ...props, idle: tool === null, chosen });
  const cross = useCrosshair(tool, props);
  const drawn = useMemo(() => planMarks(document, routes, scale, size), [document, routes, scale, size]);
  const labels = useLabels(props, drawn, scale, size, dragging);
  const spares = useMemo(() => sparesOf(routes), [routes]);
  const onRoute = useMemo(() => new Set(route?.lines), [route?.lines]);
  const click = (event: MouseEvent<SVGGElement>) => {
    if (!wasDragged()) props.onSelect(partUnder(event), event.shiftKey);
  };

  return (
    <Box
      ref={box}
      component="section"
      aria-label="Plan"
      sx={{ height: "100%", minHeight: 160, bgcolor: ink("land"), position: "relative" }}
    >
      <Box ref={target} sx={{ position: "absolute", inset: 0 }} data-testid="plan-map" />
      {size.width > 0 && (
        <svg
          width={size.width}
          height={size.height}
          data-testid="plan-drawing"
          style={{ display: "block", position: "absolute", pointerEvents: "none", userSelect: "none" }}
        >
          {props.under(scale, size, labels.covered)}
          <Paper scale={scale} size={size} />
          <g style={{ cursor: "pointer" }} pointerEvents={tool ? "none" : "auto"} onClick={click} {...drag}>
            {props.within(scale, chosen)}
            <Strokes {...{ document, pipes, spares, running, chosen, onRoute }} ways={drawn.ways} />
            {drawn.junctions.map(({ place, area }) => (
              <Junction
                key={place.id}
                place={place}
                area={area}
                label={labels.names.get(place.id)}
                selected={chosen.has(place.id)}
              />
            ))}
            {!dragging && (
              <SizeTags sizes={labels.sizes} ways={drawn.ways} hidden={chosenLine?.id} /> // handles stand there
            )}
            {route && cursorM !== null && (
              <CursorDot route={route} document={document} scale={scale} atM={cursorM} />
            )}
            {drawn.marks.map((mark) => (
              <PartMark
                key={mark.id}
                mark={mark}
                label={labels.names.get(mark.id)}
                small={drawn.small}
                selected={chosen.has(mark.id)}
              />
            ))}
          </g>
          {!tool && <InlineMarks {...{ document, scale }} onInline={props.onInline} onDone={props.onDone} />}
          {props.over(scale)}
          {chosenLine && !tool && (
            <Corners
              way={wayOf(document, chosenLine)}
              scale={scale}
              onCorners={(corners) => props.onCorners(chosenLine.id, corners)}
              onDone={props.onDone}
            />
          )}
          {fence?.corners?.length && !tool ? (
            <Corners
              closed
              way={fence.corners.map(([x = 0, y = 0]) => [x, y])}
              scale={scale}
              onCorners={(corners) => props.onFence(fence.id, corners)}
              onDone={props.onDone}
            />
          ) : null}
          {cross && <CrosshairMark cross={cross} scale={scale} closed={tool === "paddock"} />}
          <Legend size={size} perMetre={scale.perMetre} limits={props.spareLimits} />
        </svg>
      )}
      {tool && fetchTools && (
        <Box sx={{ position: "absolute", inset: "52px 52px auto 8px" }}>
          <Lost onAgain={fetchTools} />
        </Box>
      )}
      <Box sx={{ position: "absolute", right: 8, top: 52, display: "grid", gap: 1 }} className="not-printed">
        <ZoomButtons
          names={ZOOMS}
          side={28}
          onZoom={(way) => (way === "fit" ? fit() : zoom(way === "in" ? 1 : -1))}
        />
      </Box>
    </Box>
  );
}

const ZOOMS = { in: "Zoom in", out: "Zoom out", fit: "Fit" };

/** All that has a mark of its own on the plan, by id. */
const partsOf = (document: Design): string[] => {
  const outlets = (document.outlets ?? []).filter((outlet) => !outlet.fills);
  const stood = [...(document.vessels ?? []), ...outlets, ...(document.pressure_sources ?? [])];
  const bare = document.places.filter((place) => !stood.some((part) => part.place === place.id));
  return [...stood, ...bare].map((part) => part.id);
};

/** Where the labels lie; while something is dragged they stay where they were beside their marks. */
function useLabels(
  { document, pipes, keepOff }: Pick<Props, "document" | "pipes" | "keepOff">,
  drawn: PlanMarks,
  scale: Scale,
  size: Frame,
  dragging: boolean,
): PlanLabels {
  const system = usePreferences((state) => state.system);
  const { lines } = document;
  const fresh = useMemo(() => {
    if (dragging) return null;
    const texts = new Map((lines ?? []).map((line) => [line.id, sizeLabel(pipes[line.id], system)]));
    return planLabels(drawn, (id) => texts.get(id) ?? "", size, keepOff(scale));
  }, [dragging, lines, pipes, system, drawn, scale, size, keepOff]);
  const [kept, keep] = useState(fresh ?? { names: new Map(), sizes: new Map(), covered: [] });
  if (fresh && fresh !== kept) keep(fresh);
  return fresh ?? kept;
}

function SizeTags({
  sizes,
  ways,
  hidden,
}: Pick<PlanLabels, "sizes"> & Pick<PlanMarks, "ways"> & { hidden: string | undefined }) {
  return [...sizes].map(([id, { text, share, width }]) => {
    if (id === hidden) return null;
    const [x, y] = alongWay(ways.get(id) ?? [], share);
    return (
      <g key={id} data-part={id}>
        <rect
          x={x - width / 2}
          y={y - SIZE_HEIGHT / 2}
          width={width}
          height={SIZE_HEIGHT}
          rx={2}
          fill={ink("paper")}
          stroke={ink("rule")}
        />
        <text x={x} y={y - SIZE_HEIGHT / 2 + 13} textAnchor="middle" fontSize={12} fill={ink("ink")}>
          {text}
        </text>
      </g>
    );
  });
}

/** Chart paper: a grid that lies still under what is drawn. */
function Paper({ scale, size }: { scale: Scale; size: Frame }) {
  const grid = 10 * Math.max(1, scale.perMetre);
  return (
    <>
      <defs>
        <pattern
          id="chart-paper"
          x={scale.x(0)}
          y={scale.y(0)}
          width={grid}
          height={grid}
          patternUnits="userSpaceOnUse"
        >
          <path d={`M0 0H${grid}M0 0V${grid}`} stroke={ink("rule")} strokeOpacity={0.28} fill="none" />
        </pattern>
      </defs>
      <rect width={size.width} height={size.height} fill="url(#chart-paper)" />
    </>
  );
}
