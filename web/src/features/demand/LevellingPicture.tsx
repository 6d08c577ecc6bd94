import Box from "@mui/material/Box";
import { ticks } from "d3-array";

import type { RowSeason } from "../../api/types";
import { ink } from "../../app/theme";

import { figure } from "../../shared/units";
import { useSize } from "../../shared/useSize";

const HEIGHT = 170;
const MARGIN = { top: 12, right: 84, bottom: 22, left: 52 };
const HOUR_S = 3600;
const LINES = [
  { name: "first", colour: "some" },
  { name: "middle", colour: "water" },
  { name: "last", colour: "short" },
] as const;

/** How full the first, the middle and the last container are while they fill from empty, over hours. */
export function LevellingPicture({ told }: { told: NonNullable<RowSeason["levelling"]> }) {
  const [box, size] = useSize<HTMLDivElement>();
  const hours = told.times_s.map((time) => time / HOUR_S);
  const longest = hours.at(-1) ?? 1;
  const foot = HEIGHT - MARGIN.bottom;
  const x = (hour: number) => MARGIN.left + (hour / longest) * (size.width - MARGIN.left - MARGIN.right);
  const y = (share: number) => foot - Math.min(1, Math.max(0, share)) * (foot - MARGIN.top);
  return (
    <Box ref={box} sx={{ height: HEIGHT, minWidth: 0, maxWidth: 560 }}>
      {size.width > 0 && (
        <svg
          width={size.width}
          height={HEIGHT}
          role="img"
          aria-label={`Levels from empty: the last container is level after ${figure((told.level_s ?? 0) / HOUR_S, 1)} hours`}
          style={{ display: "block" }}
        >
          <g fontSize={11} fill={ink("faint")}>
            {ticks(0, longest, 5).map((tick) => (
              <g key={tick}>
                <line x1={x(tick)} x2={x(tick)} y1={MARGIN.top} y2={foot} stroke={ink("rule")} />
                <text x={x(tick)} y={foot + 14} textAnchor="middle">
                  {figure(tick, longest < 5 ? 1 : 0)}
                </text>
              </g>
            ))}
            <text x={size.width - MARGIN.right + 8} y={foot + 14}>
              hours
            </text>
            <text x={MARGIN.left - 6} y={y(1) + 4} textAnchor="end">
              full
            </text>
            <text x={MARGIN.left - 6} y={foot} textAnchor="end">
              empty
            </text>
          </g>
          {LINES.map(({ name, colour }, at) => (
            <g key={name}>
              <polyline
                points={told.full.map((shares, i) => `${x(hours[i] ?? 0)},${y(shares[at] ?? 0)}`).join(" ")}
                fill="none"
                stroke={ink(colour)}
                strokeWidth={2}
              />
              <rect
                x={size.width - MARGIN.right + 8}
                y={MARGIN.top + 18 * at}
                width={9}
                height={9}
                fill={ink(colour)}
              />
              <text
                x={size.width - MARGIN.right + 22}
                y={MARGIN.top + 18 * at + 9}
                fontSize={11}
                fill={ink("ink")}
              >
                {name}
              </text>
            </g>
          ))}
        </svg>
      )}
    </Box>
  );
}
