import Box from "@mui/material/Box";

import type { Trace } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText, shownUnit, toShown } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { MARGIN, mobGeometry } from "./model";

interface Props {
  trace: Trace;
  fullLevelM: number;
  name: string;
}

const HEIGHT = 210;

/** The mob arriving: the trough's level above, who drinks and who waits below, on one axis of minutes. */
export function MobPicture({ trace, fullLevelM, name }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const geometry = mobGeometry(trace, fullLevelM, { width: size.width, height: HEIGHT });
  const level = (metres: number) => figure(toShown(metres, "m", system), 2);
  const lowest = Math.min(...trace.levels_m);
  const words = `${name}: the level falls from ${level(fullLevelM)} to ${level(lowest)} ${shownUnit("m", system)}; at most ${figure(Math.max(...trace.waiting), 0)} wait and ${figure(Math.max(...trace.drinking), 0)} drink at a time; ${quantityText({ value: Math.max(...trace.inflow_lpm), unit: "L/min" }, system)} comes in.`;
  return (
    <Box ref={box} sx={{ height: HEIGHT, minWidth: 0 }}>
      {size.width > 0 && (
        <svg width={size.width} height={HEIGHT} role="img" aria-label={words} style={{ display: "block" }}>
          <g fontSize={11} fill={ink("faint")}>
            {geometry.timeTicks.map((tick) => (
              <g key={tick}>
                <line
                  x1={geometry.x(tick)}
                  x2={geometry.x(tick)}
                  y1={MARGIN.top}
                  y2={geometry.foot}
                  stroke={ink("rule")}
                  strokeOpacity={0.5}
                />
                <text x={geometry.x(tick)} y={geometry.foot + 14} textAnchor="middle">
                  {figure(tick, 0)}
                </text>
              </g>
            ))}
            <text x={size.width - 2} y={geometry.foot + 14} textAnchor="end">
              min
            </text>
            <text x={MARGIN.left - 6} y={geometry.level(fullLevelM) + 4} textAnchor="end">
              {level(fullLevelM)}
            </text>
            <text x={MARGIN.left - 6} y={geometry.level(0)} textAnchor="end">
              0 {shownUnit("m", system)}
            </text>
            <text x={MARGIN.left - 6} y={geometry.heads(geometry.mostHeads) + 8} textAnchor="end">
              {figure(geometry.mostHeads, 0)}
            </text>
            <text x={MARGIN.left - 6} y={geometry.foot} textAnchor="end">
              animals
            </text>
          </g>
          <path d={geometry.water} fill={ink("water")} fillOpacity={0.55} />
          <path
            d={geometry.levelLine}
            fill="none"
            stroke={ink("deep")}
            strokeWidth={2}
            data-testid="mob-level"
          />
          <line
            x1={MARGIN.left}
            x2={size.width - MARGIN.right}
            y1={geometry.level(fullLevelM)}
            y2={geometry.level(fullLevelM)}
            stroke={ink("deep")}
            strokeDasharray="1 3"
          />
          <path d={geometry.drinking} fill={ink("some")} fillOpacity={0.75} />
          <path d={geometry.waiting} fill={ink("short")} fillOpacity={0.75} data-testid="mob-waiting" />
          <g
            fontSize={11}
            transform={`translate(${size.width - 170},${geometry.heads(geometry.mostHeads) + 8})`}
          >
            <rect width={9} height={9} y={-8} fill={ink("some")} />
            <text x={13} fill={ink("ink")}>
              drinking
            </text>
            <rect x={72} width={9} height={9} y={-8} fill={ink("short")} />
            <text x={85} fill={ink("ink")}>
              waiting for room
            </text>
          </g>
        </svg>
      )}
    </Box>
  );
}
