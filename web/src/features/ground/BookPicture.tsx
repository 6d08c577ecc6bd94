import { scaleLinear } from "d3-scale";
import Box from "@mui/material/Box";

import type { BookReport, Design, LevelBook } from "../../api/types";
import { ink } from "../../app/theme";
import { fitScale } from "../../shared/fit";
import { usePreferences } from "../../shared/preferences";
import { figure, shownUnit, toShown } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { bookPoints } from "./model";

interface Props {
  document: Design;
  book: LevelBook;
  report: BookReport;
}

const HEIGHT = 170;
const EDGE = { left: 58, right: 16, top: 22, bottom: 30 };
const PLAN_WIDTH = 210;

/** A level book as a live profile, what misclosure drawn at its end, and the way it takes on the plan. */
export function BookPicture({ document, book, report }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const points = bookPoints(document, book, report);
  const metres = (value: number) => figure(toShown(value, "m", system), 2);
  const unit = shownUnit("m", system);
  const missed = report.misclosure_m;
  const onPlan = points.flatMap((point) => (point.spot ? [point.spot] : []));
  const planWidth = onPlan.length > 1 && size.width > 520 ? PLAN_WIDTH : 0;
  const width = size.width - planWidth;
  const levels = points.map((point) => point.levelM);
  const low = Math.min(...levels);
  const high = Math.max(...levels, low + 0.1);
  const x = scaleLinear(
    [0, Math.max(1, points.length - 1)],
    [EDGE.left, Math.max(EDGE.left + 20, width - EDGE.right - 70)],
  );
  const y = scaleLinear([low, high], [HEIGHT - EDGE.bottom, EDGE.top]);
  const ground = points.map((point, index) => `${index ? "L" : "M"}${x(index)},${y(point.levelM)}`).join("");
  const last = points.length - 1;
  const within = report.allowed_m != null && missed !== null && Math.abs(missed) <= report.allowed_m;
  const told =
    missed === null ? "it does not return" : `misclosure ${figure(toShown(missed, "m", system), 3)} ${unit}`;
  const plan = fitScale(
    onPlan,
    { width: planWidth, height: HEIGHT },
    { left: 20, right: 76, top: 28, bottom: 16 },
  );
  return (
    <Box ref={box} sx={{ minWidth: 0, my: 2, bgcolor: ink("sheet"), border: `1px solid ${ink("rule")}` }}>
      {size.width > 0 && points.length > 1 && (
        <svg
          width={size.width}
          height={HEIGHT}
          role="img"
          aria-label={`Profile of the book: ${points.map((point) => `${point.name} ${metres(point.levelM)}`).join(", ")} ${unit}; ${told}`}
          style={{ display: "block" }}
        >
          <path
            d={`${ground}L${x(last)},${HEIGHT - EDGE.bottom}L${x(0)},${HEIGHT - EDGE.bottom}Z`}
            fill={ink("ground")}
            fillOpacity={0.6}
          />
          <path
            d={ground}
            fill="none"
            stroke={ink("groundEdge")}
            strokeWidth={2}
            data-testid="book-profile"
          />
          <g fontSize={11} fill={ink("faint")}>
            <text x={EDGE.left - 6} y={y(high) + 4} textAnchor="end">
              {metres(high)}
            </text>
            <text x={EDGE.left - 6} y={y(low) + 4} textAnchor="end">
              {metres(low)} {unit}
            </text>
          </g>
          {points.map((point, index) => (
            <g key={index}>
              <circle
                cx={x(index)}
                cy={y(point.levelM)}
                r={point.spot ? 4 : 2.5}
                fill={ink(point.moves ? "paper" : "groundEdge")}
                stroke={ink("groundEdge")}
              />
              {(points.length < 12 || point.spot) && (
                <text
                  x={x(index)}
                  y={HEIGHT - EDGE.bottom + 14}
                  fontSize={11}
                  fill={ink("ink")}
                  textAnchor={index ? "middle" : "start"}
                >
                  {point.name.length > 12 ? `${point.name.slice(0, 11)}…` : point.name}
                </text>
              )}
            </g>
          ))}
          {missed !== null && (
            <g data-testid="book-misclosure">
              <line
                x1={x(0)}
                x2={x(last) + 26}
                y1={y(points[0]?.levelM ?? 0)}
                y2={y(points[0]?.levelM ?? 0)}
                stroke={ink("deep")}
                strokeDasharray="1 3"
              />
              <path
                d={`M${x(last) + 14},${y(points[0]?.levelM ?? 0)}v${missed < 0 ? 18 : -18}m-5,0h10`}
                stroke={ink(within ? "enough" : "short")}
                strokeWidth={2.5}
                fill="none"
              />
              <text
                x={x(last) + 24}
                y={y(points[0]?.levelM ?? 0) + (missed < 0 ? 16 : -8)}
                fontSize={12}
                fontWeight={700}
                fill={ink(within ? "enough" : "short")}
              >
                {missed < 0 ? "▼" : "▲"} {figure(toShown(Math.abs(missed), "m", system), 3)}
              </text>
            </g>
          )}
          {planWidth > 0 && (
            <g transform={`translate(${width},0)`} data-testid="book-plan">
              <line x1={0} x2={0} y1={0} y2={HEIGHT} stroke={ink("rule")} />
              <path
                d={onPlan
                  .map((spot, index) => `${index ? "L" : "M"}${plan.x(spot[0])},${plan.y(spot[1])}`)
                  .join("")}
                fill="none"
                stroke={ink("deep")}
                strokeWidth={1.5}
              />
              {document.places.map((place) => {
                const [px, py] = [plan.x(place.east_m), plan.y(place.north_m)];
                const inside = px > 4 && px < PLAN_WIDTH - 4 && py > 4 && py < HEIGHT - 4;
                return inside ? (
                  <circle key={place.id} cx={px} cy={py} r={2.5} fill={ink("groundEdge")} />
                ) : null;
              })}
              {points.map((point, index) =>
                point.spot && index < last ? (
                  <text
                    key={index}
                    x={plan.x(point.spot[0]) + 7}
                    y={plan.y(point.spot[1]) + 4}
                    fontSize={11}
                    fill={ink("ink")}
                  >
                    {point.name}
                  </text>
                ) : null,
              )}
              <text x={8} y={14} fontSize={11} fill={ink("faint")}>
                its way on the plan
              </text>
            </g>
          )}
        </svg>
      )}
    </Box>
  );
}
