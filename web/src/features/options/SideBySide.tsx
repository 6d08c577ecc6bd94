import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useMemo, useState } from "react";

import type { Analysis, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { shownRoutes, type ShownRoute } from "../../shared/route";
import { figure, shownUnit, toShown } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { Soundings } from "../sounding";

const between = (heights: number[]): [number, number] =>
  heights.length ? [Math.min(...heights), Math.max(...heights)] : [0, 1];

const HEIGHT = 190;
const MARGIN = { left: 44, right: 8, top: 12, bottom: 20 };

interface Props {
  names: string[];
  analyses: Analysis[];
  document: Design;
}

/** For one outlet the profile of each plan, and for all where the pressure goes: on one scale. */
export function SideBySide({ names, analyses, document }: Props) {
  const routes = useMemo(() => analyses.map((analysis) => shownRoutes(analysis, "together")), [analyses]);
  const outlets = [
    ...new Set(routes.flatMap((own) => own.flatMap(({ outlet }) => (outlet ? [outlet] : [])))),
  ];
  const [wanted, setWanted] = useState("");
  const outlet = outlets.includes(wanted) ? wanted : (outlets[0] ?? "");
  const shown = routes.map((own) => own.find((route) => route.outlet === outlet) ?? null);
  const points = shown.flatMap((route) => route?.section ?? []);
  const heights = points.flatMap((point) => [
    point.ground_m,
    point.pipe_m,
    point.running_head_m ?? point.pipe_m,
  ]);
  const [low, high] = between(heights);
  const farthest = Math.max(1, ...shown.map((route) => route?.length_m ?? 0));
  const sounded = routes.flatMap((own) => own.flatMap(({ sounding }) => (sounding ? [sounding] : [])));
  const [least, most] = between(
    sounded.flatMap((one) => [
      one.surface_m,
      one.outlet_m,
      one.surface_m - one.pipe_loss_m - one.fitting_loss_m,
      one.outlet_m + one.valve_needs_m,
    ]),
  );
  if (!outlet) return null;
  const columns = `repeat(${names.length}, minmax(220px, 1fr))`;
  return (
    <Box sx={{ mt: 4 }}>
      <Box sx={{ width: 280, mb: 2 }}>
        <Choice
          label="Profile to"
          value={outlet}
          options={outlets.map((id) => ({ value: id, text: nameOfPart(document, id) }))}
          onChange={setWanted}
        />
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: columns, gap: 3, overflowX: "auto" }}>
        {shown.map((route, index) => (
          <Box key={index} component="figure" sx={{ m: 0, minWidth: 0 }}>
            <Typography component="figcaption" sx={{ fontSize: 13, fontWeight: 700 }}>
              {names[index]}
            </Typography>
            {route ? (
              <Profile route={route} low={low} high={high} farthest={farthest} name={names[index] ?? ""} />
            ) : (
              <Typography sx={{ fontSize: 13 }}>No water gets to it in this plan.</Typography>
            )}
          </Box>
        ))}
        {routes.map((own, index) => (
          <Box key={`sounding ${index}`} sx={{ height: 250, minWidth: 0, position: "relative" }}>
            <Soundings
              routes={own}
              nameOf={(id) => nameOfPart(document, id)}
              onSelect={setWanted}
              range={[least, most]}
            />
          </Box>
        ))}
      </Box>
    </Box>
  );
}

interface ProfileProps {
  route: ShownRoute;
  name: string;
  low: number;
  high: number;
  farthest: number;
}

/** Ground, pipe and pressure line to an outlet. */
function Profile({ route, name, low, high, farthest }: ProfileProps) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const x = scaleLinear([0, farthest], [MARGIN.left, size.width - MARGIN.right]);
  const y = scaleLinear([low - (high - low) * 0.06, high], [HEIGHT - MARGIN.bottom, MARGIN.top]);
  const metres = (value: number) => figure(toShown(value, "m", system), 0);
  type Point = ShownRoute["section"][number];
  const along = (height: (point: Point) => number | null) =>
    line<Point>()
      .defined((point) => height(point) !== null)
      .x((point) => x(point.at_m))
      .y((point) => y(height(point) ?? 0))(route.section) ?? "";
  const ground =
    area<Point>()
      .x((point) => x(point.at_m))
      .y0(HEIGHT - MARGIN.bottom)
      .y1((point) => y(point.ground_m))(route.section) ?? "";
  return (
    <Box ref={box} sx={{ height: HEIGHT }}>
      {size.width > 0 && (
        <svg
          width={size.width}
          height={HEIGHT}
          role="img"
          aria-label={`Profile of ${name}`}
          style={{ display: "block" }}
        >
          <path d={ground} fill={ink("ground")} />
          <g fontSize={11} fill={ink("faint")}>
            {y.ticks(4).map((height) => (
              <g key={height}>
                <line
                  x1={MARGIN.left}
                  x2={size.width - MARGIN.right}
                  y1={y(height)}
                  y2={y(height)}
                  stroke={ink("rule")}
                />
                <text x={MARGIN.left - 5} y={y(height) + 4} textAnchor="end">
                  {metres(height)}
                </text>
              </g>
            ))}
            {x.ticks(3).map((at) => (
              <text key={at} x={x(at)} y={HEIGHT - 4} textAnchor="middle">
                {metres(at)} {at === 0 ? shownUnit("m", system) : ""}
              </text>
            ))}
          </g>
          <path d={along((point) => point.pipe_m)} fill="none" stroke={ink("pipe")} strokeWidth={1.5} />
          <path
            d={along((point) => point.running_head_m)}
            fill="none"
            stroke={ink("deep")}
            strokeWidth={2}
            strokeDasharray="6 3"
          />
        </svg>
      )}
    </Box>
  );
}
