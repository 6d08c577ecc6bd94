import { scaleLinear } from "d3-scale";
import Box from "@mui/material/Box";

import type { PlaceHeight } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { figure, shownUnit, toShown } from "../../shared/units";
import { useSize } from "../../shared/useSize";

interface Props {
  found: PlaceHeight;
  planM: number;
  name: string;
}

const ROW = 20;
const LEFT = 128;
const RIGHT = 138;

/** Each way to one height with its error as a bar, all together as a band, and the plan's own height as a mark. */
export function WaysPicture({ found, planM, name }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const metres = (value: number) => figure(toShown(value, "m", system), 2);
  const unit = shownUnit("m", system);
  const ends = [
    ...found.ways.flatMap((way) => [way.height_m - way.error_m, way.height_m + way.error_m]),
    found.height_m - found.error_m,
    found.height_m + found.error_m,
    planM,
  ];
  const x = scaleLinear(
    [Math.min(...ends), Math.max(...ends)],
    [LEFT, Math.max(LEFT + 40, size.width - RIGHT)],
  );
  const height = ROW * (found.ways.length + 1) + 6;
  const words = `${name}: ${metres(found.height_m)} ± ${metres(found.error_m)} ${unit} by all readings; ${found.ways
    .map((way) => `${way.way} ${metres(way.height_m)} ± ${metres(way.error_m)}`)
    .join("; ")}; the plan has ${metres(planM)}`;
  return (
    <Box ref={box} sx={{ minWidth: 0, gridColumn: "1 / -1" }}>
      {size.width > 0 && (
        <svg width={size.width} height={height} role="img" aria-label={words} style={{ display: "block" }}>
          <rect
            x={x(found.height_m - found.error_m)}
            width={Math.max(2, x(found.height_m + found.error_m) - x(found.height_m - found.error_m))}
            y={2}
            height={height - 4}
            fill={ink("water")}
            fillOpacity={0.35}
          />
          <line
            x1={x(found.height_m)}
            x2={x(found.height_m)}
            y1={2}
            y2={height - 2}
            stroke={ink("deep")}
            strokeWidth={2}
          />
          <line
            x1={x(planM)}
            x2={x(planM)}
            y1={2}
            y2={height - 2}
            stroke={ink("ink")}
            strokeDasharray="3 3"
          />
          {found.ways.map((way, index) => {
            const y = ROW * index + ROW / 2 + 2;
            return (
              <g key={`${way.part}-${index}`} fontSize={12}>
                <text x={0} y={y + 4} fill={ink("ink")}>
                  {way.way}
                </text>
                <line
                  x1={x(way.height_m - way.error_m)}
                  x2={x(way.height_m + way.error_m)}
                  y1={y}
                  y2={y}
                  stroke={ink("fitting")}
                  strokeWidth={2}
                />
                <circle
                  cx={x(way.height_m)}
                  cy={y}
                  r={4}
                  fill={ink("paper")}
                  stroke={ink("fitting")}
                  strokeWidth={2}
                />
                <text x={size.width} y={y + 4} textAnchor="end" fill={ink("ink")}>
                  {metres(way.height_m)} ± {metres(way.error_m)} · {Math.round(way.weight * 100)} %
                </text>
              </g>
            );
          })}
          <g fontSize={12} fill={ink("faint")}>
            <text x={0} y={height - 8}>
              all together
            </text>
            <text x={size.width} y={height - 8} textAnchor="end">
              {metres(found.height_m)} ± {metres(found.error_m)} {unit}
            </text>
          </g>
        </svg>
      )}
    </Box>
  );
}
