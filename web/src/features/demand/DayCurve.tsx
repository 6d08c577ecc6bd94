import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { useSize } from "../../shared/useSize";

interface Props {
  document: Design;
  hours: Record<string, number[]>;
  /** the case that is shown */
  shown: string;
}

const HEIGHT = 128;
const FOOT = 18;
const TOP = 16;
const LEFT = 70;

/** The day's demand by the hour: bars for the case that is shown, a stepped line for the other cases. */
export function DayCurve({ document, hours, shown }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const bars = hours[shown] ?? Object.values(hours)[0] ?? [];
  const others = Object.entries(hours).filter(([id, litres]) => id !== shown && !sameDay(litres, bars));
  const most = Math.max(1, ...Object.values(hours).flat());
  const wide = Math.max(1, size.width - LEFT - 8) / 24;
  const y = (litres: number) => TOP + (HEIGHT - FOOT - TOP) * (1 - litres / most);
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const nameOf = (id: string) => document.scenarios?.find((one) => one.id === id)?.name ?? id;
  const busiest = bars.indexOf(Math.max(...bars));
  return (
    <Box component="section" aria-label="The day by the hour" sx={{ mb: 4 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        The day by the hour
      </Typography>
      <Box ref={box} sx={{ height: HEIGHT }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT}
            style={{ display: "block" }}
            role="img"
            aria-label={`Peak use from ${busiest} to ${busiest + 1} o'clock: ${litres(bars[busiest] ?? 0)}.`}
          >
            <text x={LEFT - 6} y={TOP + 4} fontSize={11} textAnchor="end" fill={ink("faint")}>
              {litres(most)}
            </text>
            <line x1={LEFT} x2={size.width - 8} y1={y(0)} y2={y(0)} stroke={ink("rule")} />
            {bars.map((value, hour) => (
              <rect
                key={hour}
                x={LEFT + hour * wide + 1}
                width={Math.max(1, wide - 2)}
                y={y(value)}
                height={y(0) - y(value)}
                fill={ink("deep")}
                data-testid="hour"
              />
            ))}
            {others.map(([id, values]) => (
              <g key={id}>
                <path d={steps(values, wide, y)} fill="none" stroke={ink("ink")} strokeWidth={1.6} />
                <text
                  x={LEFT + wide * (values.indexOf(Math.max(...values)) + 1) + 4}
                  y={y(Math.max(...values)) + 4}
                  fontSize={11}
                  fill={ink("ink")}
                  stroke={ink("paper")}
                  strokeWidth={3}
                  paintOrder="stroke"
                >
                  {nameOf(id).toLowerCase()}
                </text>
              </g>
            ))}
            {[0, 6, 12, 18, 24].map((hour) => (
              <text
                key={hour}
                x={LEFT + hour * wide}
                y={HEIGHT - 4}
                fontSize={11}
                textAnchor={hour === 24 ? "end" : "middle"}
                fill={ink("faint")}
              >
                {hour} h
              </text>
            ))}
          </svg>
        )}
      </Box>
      <PictureTable
        title="The day"
        head={["Hour", ...Object.keys(hours).map(nameOf)]}
        rows={bars.map((_, hour) => [
          `${hour} to ${hour + 1} h`,
          ...Object.values(hours).map((values) => litres(values[hour] ?? 0)),
        ])}
      />
    </Box>
  );
}

const sameDay = (a: number[], b: number[]): boolean =>
  a.every((litres, hour) => Math.abs(litres - (b[hour] ?? 0)) < 0.5);

function steps(values: number[], wide: number, y: (litres: number) => number): string {
  return values
    .map(
      (litres, hour) => `${hour ? "L" : "M"}${LEFT + hour * wide} ${y(litres)}H${LEFT + (hour + 1) * wide}`,
    )
    .join("");
}
