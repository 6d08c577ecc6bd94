import Box from "@mui/material/Box";

import type { Analysis, Design, Rest } from "../../api/types";
import { ink } from "../../app/theme";
import { troughName } from "../../shared/names";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { clock, overMidnight } from "./model";

interface Props {
  document: Design;
  demand: Analysis["demand"];
  clashes: Rest["clashes"];
}

const ROW = 20;
const FOOT = 18;
const NAMES = 104;

/** The day as a strip: a row for each timer with its zones, a row for each trough while animals drink there. */
export function TimerStrip({ document, demand, clashes }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const cropName = (id: string) => document.crops?.find((one) => one.id === id)?.name ?? id;
  const timerName = (id: string) => document.timers?.find((one) => one.id === id)?.name ?? id;
  const called = [...new Set(demand.calls.map((one) => one.outlet))];
  const rows = [
    ...demand.timers.map((timer) => ({
      name: timerName(timer.timer),
      spells: timer.spells,
      drinks: false,
      outlet: "",
    })),
    ...called.map((outlet) => ({
      name: troughName(document, outlet),
      spells: demand.calls.filter((one) => one.outlet === outlet),
      drinks: true,
      outlet,
    })),
  ];
  const wide = Math.max(1, size.width - NAMES - 4);
  const x = (minutes: number) => NAMES + (wide * minutes) / 1440;
  const height = rows.length * ROW + FOOT;
  const flow = (value: number) => quantityText({ value, unit: "L/min" }, system);
  const told = clashes.map(
    (one) =>
      `${clock(one.since_min)} to ${clock(one.until_min)}: ${troughName(document, one.outlet)} gets ${flow(one.gets_lpm)} of ${flow(one.wanted_lpm)}`,
  );
  const words = told.length ? `Too little: ${told.join("; ")}.` : "All get enough while the timers run.";
  return (
    <Box sx={{ my: 1 }}>
      <Box ref={box} sx={{ height }}>
        {size.width > 0 && (
          <svg width={size.width} height={height} role="img" aria-label={words} style={{ display: "block" }}>
            {[0, 6, 12, 18, 24].map((hour) => (
              <g key={hour} fontSize={11} fill={ink("faint")}>
                <line x1={x(hour * 60)} x2={x(hour * 60)} y1={0} y2={height - FOOT} stroke={ink("rule")} />
                <text
                  x={x(hour * 60)}
                  y={height - 4}
                  textAnchor={hour === 24 ? "end" : hour ? "middle" : "start"}
                >
                  {hour} h
                </text>
              </g>
            ))}
            {rows.map((row, index) => (
              <g key={index}>
                <text x={0} y={index * ROW + 14} fontSize={12} fill={ink("ink")}>
                  {row.name}
                </text>
                {row.spells
                  .flatMap((one) => overMidnight(one.since_min, one.until_min))
                  .map(([since, until]) => (
                    <rect
                      key={since}
                      x={x(since)}
                      width={Math.max(2, x(until) - x(since))}
                      y={index * ROW + (row.drinks ? 7 : 3)}
                      height={row.drinks ? 6 : 13}
                      fill={ink(row.drinks ? "water" : "deep")}
                    />
                  ))}
                {clashes
                  .filter(
                    (one) =>
                      one.outlet === row.outlet || row.spells.some((spell) => spell.outlet === one.outlet),
                  )
                  .map((one) => (
                    <rect
                      key={one.since_min}
                      data-testid="clash"
                      x={x(one.since_min)}
                      width={Math.max(3, x(one.until_min) - x(one.since_min))}
                      y={index * ROW + 1}
                      height={ROW - 3}
                      fill="none"
                      stroke={ink("short")}
                      strokeWidth={2}
                    />
                  ))}
              </g>
            ))}
          </svg>
        )}
      </Box>
      <Box
        component="p"
        data-testid="timers-told"
        sx={{ m: 0, fontSize: 13, color: ink(told.length ? "short" : "ink") }}
      >
        {told.length ? `■ ${words}` : words}
      </Box>
      <PictureTable
        title="Timers"
        head={["Timer", "Zone", "From", "To"]}
        rows={demand.timers.flatMap((timer) =>
          timer.spells.map((one) => [
            timerName(timer.timer),
            cropName(one.part),
            clock(one.since_min),
            clock(one.until_min),
          ]),
        )}
      />
    </Box>
  );
}
