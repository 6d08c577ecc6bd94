import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useMemo } from "react";

import type { Catalogue, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { boreOf } from "../../shared/pipe";
import type { ShownRoute } from "../../shared/route";
import { placeIdOf } from "../../shared/ground";
import { useSize } from "../../shared/useSize";
import { wayOf, type Spot } from "../../shared/way";
import { Corners } from "./Corners";
import { Legend } from "./Legend";
import { CursorDot, MarkLabel, OutletMark, VesselMark } from "./marks";
import { planLayout, planScale, SMALL_PLAN, SPARE_INK, spareOf } from "./model";
import { useDrag } from "./useDrag";
import { useMap } from "./useMap";

interface Props {
  document: Design;
  routes: ShownRoute[];
  /** lines through which water runs */
  running: ReadonlySet<string>;
  catalogue: Catalogue | undefined;
  selected: string | null;
  route: ShownRoute | null;
  cursorM: number | null;
  drawing: boolean;
  onSelect: (id: string) => void;
  onDrawn: (way: Spot[]) => void;
  onMove: (placeId: string, spot: Spot) => void;
  onCorners: (lineId: string, corners: Spot[]) => void;
  onDone: () => void;
}

/** Where everything lies: lines as wide as their bore, vessels with their level, outlets with what they get. */
export function Plan(props: Props) {
  const { document, routes, running, catalogue, selected, route, cursorM, drawing, onSelect } = props;
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const { target, scale: seen, fit, zoom } = useMap(document, size, drawing, props.onDrawn);
  const scale = seen ?? planScale(document, size); // before the map is there
  const chosen = document.lines?.find((line) => line.id === selected);
  const drag = useDrag(document, scale, props);
  const { marks, sizes, junctions, placed } = useMemo(
    () => planLayout(document, catalogue, routes, scale, size, system),
    [document, catalogue, routes, scale, size, system],
  );
  const catches = drawing ? ("none" as const) : ("auto" as const);
  const click = (id: string) => ({
    onClick: () => onSelect(id),
    style: { cursor: "pointer" },
    pointerEvents: catches,
  });
  const grid = 10 * Math.max(1, scale.perMetre);

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
          style={{ display: "block", position: "absolute", pointerEvents: "none" }}
        >
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
          {(document.lines ?? []).map((line) => {
            const d = wayOf(document, line)
              .map(([east, north], corner) => `${corner ? "L" : "M"}${scale.x(east)},${scale.y(north)}`)
              .join("");
            const spare = spareOf(line.id, routes, running);
            const width = Math.max(3, boreOf(line, catalogue) / 6);
            return (
              <g key={line.id} {...click(line.id)}>
                <path d={d} stroke="transparent" strokeWidth={18} fill="none" />
                {(selected === line.id || route?.lines.includes(line.id)) && (
                  <path
                    d={d}
                    fill="none"
                    stroke={ink("ink")}
                    strokeOpacity={selected === line.id ? 0.3 : 0.13}
                    strokeWidth={width + 8}
                    strokeLinecap="round"
                  />
                )}
                <path
                  d={d}
                  fill="none"
                  stroke={ink(SPARE_INK[spare])}
                  strokeWidth={width}
                  strokeDasharray={spare === "short" ? "9 5" : undefined}
                />
              </g>
            );
          })}
          {junctions.map(({ place, area }) => (
            <g key={place.id} data-testid={`plan-${place.id}`} {...click(place.id)} {...drag(place.id)}>
              <circle
                cx={area.x + area.width / 2}
                cy={area.y + area.height / 2}
                r={area.width / 2}
                fill={ink("paper")}
                stroke={ink("ink")}
                strokeWidth={2}
              />
            </g>
          ))}
          {sizes.map(({ id, text }) => {
            const area = id === chosen?.id ? undefined : placed.get(`size:${id}`); // its handles stand there
            return area ? (
              <g key={id} {...click(id)}>
                <rect {...area} rx={2} fill={ink("paper")} stroke={ink("rule")} />
                <text
                  x={area.x + area.width / 2}
                  y={area.y + 13}
                  textAnchor="middle"
                  fontSize={12}
                  fill={ink("ink")}
                >
                  {text}
                </text>
              </g>
            ) : null;
          })}
          {junctions.map(({ place }) => {
            const area = placed.get(`place:${place.id}`);
            return area ? (
              <text
                key={place.id}
                x={area.x}
                y={area.y + 12}
                fontSize={12}
                fill={ink("ink")}
                {...click(place.id)}
              >
                {place.name ?? place.id}
              </text>
            ) : null;
          })}
          {route && cursorM !== null && (
            <CursorDot route={route} document={document} scale={scale} atM={cursorM} />
          )}
          {marks.map((mark) => {
            const area = placed.get(mark.id);
            return (
              <g
                key={mark.id}
                data-testid={`plan-${mark.id}`}
                {...click(mark.id)}
                {...drag(placeIdOf(document, mark.id))}
              >
                {mark.vessel ? (
                  <VesselMark vessel={mark.vessel} area={mark.area} selected={selected === mark.id} />
                ) : (
                  <OutletMark area={mark.area} selected={selected === mark.id} />
                )}
                {area && (
                  <MarkLabel
                    area={area}
                    name={mark.name}
                    route={mark.route}
                    small={size.width < SMALL_PLAN}
                  />
                )}
              </g>
            );
          })}
          {chosen && !drawing && (
            <Corners
              document={document}
              line={chosen}
              scale={scale}
              onCorners={(corners) => props.onCorners(chosen.id, corners)}
              onDone={props.onDone}
            />
          )}
          <Legend size={size} perMetre={scale.perMetre} />
        </svg>
      )}
      <Box sx={{ position: "absolute", right: 8, top: 52, display: "grid", gap: 1 }}>
        {(
          [
            ["+", "Nearer", () => zoom(1)],
            ["−", "Farther", () => zoom(-1)],
            ["⤢", "Show all", fit],
          ] as const
        ).map(([sign, name, act]) => (
          <Button
            key={name}
            variant="outlined"
            aria-label={name}
            onClick={act}
            sx={{ minWidth: 28, width: 28, height: 28, p: 0, bgcolor: ink("paper") }}
          >
            {sign}
          </Button>
        ))}
      </Box>
    </Box>
  );
}
