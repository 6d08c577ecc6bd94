import Box from "@mui/material/Box";
import { useMemo } from "react";

import type { Catalogue, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { boreOf } from "../../shared/pipe";
import type { ShownRoute } from "../../shared/route";
import { useSize } from "../../shared/useSize";
import { Legend } from "./Legend";
import { CursorDot, MarkLabel, OutletMark, VesselMark } from "./marks";
import { placeSpot, planLayout, planScale, SMALL_PLAN, SPARE_INK, spareOf } from "./model";

interface Props {
  document: Design;
  routes: ShownRoute[];
  /** lines through which water runs */
  running: ReadonlySet<string>;
  catalogue: Catalogue | undefined;
  selected: string | null;
  route: ShownRoute | null;
  cursorM: number | null;
  onSelect: (id: string) => void;
}

/** Where everything lies: lines as wide as their bore, vessels with their level, outlets with what they get. */
export function Plan({ document, routes, running, catalogue, selected, route, cursorM, onSelect }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const scale = useMemo(() => planScale(document, size), [document, size]);
  const { marks, sizes, junctions, placed } = useMemo(
    () => planLayout(document, catalogue, routes, scale, size, system),
    [document, catalogue, routes, scale, size, system],
  );
  const spot = (end: string) => placeSpot(document, scale, end);
  const click = (id: string) => ({ onClick: () => onSelect(id), style: { cursor: "pointer" } });
  const grid = 10 * Math.max(1, scale.perMetre);

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
            <pattern id="chart-paper" width={grid} height={grid} patternUnits="userSpaceOnUse">
              <path d={`M0 0H${grid}M0 0V${grid}`} stroke={ink("rule")} strokeOpacity={0.28} fill="none" />
            </pattern>
          </defs>
          <rect width={size.width} height={size.height} fill="url(#chart-paper)" />
          {(document.lines ?? []).map((line) => {
            const [x1, y1] = spot(line.from);
            const [x2, y2] = spot(line.to);
            const ends = { x1, y1, x2, y2 };
            const spare = spareOf(line.id, routes, running);
            const width = Math.max(3, boreOf(line, catalogue) / 6);
            return (
              <g key={line.id} {...click(line.id)}>
                <line {...ends} stroke="transparent" strokeWidth={18} />
                {(selected === line.id || route?.lines.includes(line.id)) && (
                  <line
                    {...ends}
                    stroke={ink("ink")}
                    strokeOpacity={selected === line.id ? 0.3 : 0.13}
                    strokeWidth={width + 8}
                    strokeLinecap="round"
                  />
                )}
                <line
                  {...ends}
                  stroke={ink(SPARE_INK[spare])}
                  strokeWidth={width}
                  strokeDasharray={spare === "short" ? "9 5" : undefined}
                />
              </g>
            );
          })}
          {junctions.map(({ place, area }) => (
            <g key={place.id} {...click(place.id)}>
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
            const area = placed.get(`size:${id}`);
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
            <CursorDot route={route} document={document} spot={spot} atM={cursorM} />
          )}
          {marks.map((mark) => {
            const area = placed.get(mark.id);
            return (
              <g key={mark.id} {...click(mark.id)}>
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
          <Legend size={size} perMetre={scale.perMetre} />
        </svg>
      )}
    </Box>
  );
}
