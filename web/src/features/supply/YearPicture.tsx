import Box from "@mui/material/Box";
import { useState } from "react";

import type { Design, SeasonRun } from "../../api/types";
import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { handGeometry, MARGIN, yearGeometry } from "./season";

interface Props {
  document: Design;
  season: SeasonRun;
  wantedDays: number;
}

const HEIGHT = 160;
const HAND = 44;

/** The year: the store as water, what comes in and what is needed a day, bad days marked; days in hand beneath. */
export function YearPicture({ document, season, wantedDays }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const [pointed, setPointed] = useState<number | null>(null);
  const frame = { width: size.width, height: HEIGHT };
  const geometry = yearGeometry(season, frame);
  const hand = handGeometry(season, wantedDays, { width: size.width, height: HAND });
  const { series } = season;
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const daily = (value: number) => quantityText({ value, unit: "L/d" }, system);
  const at = pointed ?? geometry.bad[0] ?? 0;
  const sources = Object.entries(series.in_l).map(
    ([id, values]) =>
      `${document.inflows?.find((one) => one.id === id)?.name ?? id} ${daily((values[at] ?? 0) / series.days_each)}`,
  );
  const told = `${series.days[at] ?? ""}: ${sources.join(", ") || "nothing"} in; ${daily(geometry.demand[at] ?? 0)} needed${
    (series.unmet_l[at] ?? 0) > 0 ? `, ${litres(series.unmet_l[at] ?? 0)} of it lacking` : ""
  }; ${litres(series.store_l[at] ?? 0)} in store, ${quantityText({ value: series.days_in_hand[at] ?? 0, unit: "d" }, system)} with no refill.`;
  const words = `${season.bad.length} spells without enough in ${season.days} days; the store holds ${litres(season.capacity_l)}; fewest days with no refill ${quantityText({ value: season.least_days_in_hand, unit: "d" }, system)}.`;
  return (
    <Box>
      <Box ref={box} sx={{ height: HEIGHT + HAND }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT + HAND}
            role="img"
            aria-label={words}
            style={{ display: "block" }}
            onMouseMove={(event) =>
              setPointed(geometry.indexAt(event.clientX - event.currentTarget.getBoundingClientRect().left))
            }
            onMouseLeave={() => setPointed(null)}
          >
            <g fontSize={11} fill={ink("faint")}>
              {geometry.months.map(({ day, index }) => (
                <g key={day}>
                  <line
                    x1={geometry.x(index)}
                    x2={geometry.x(index)}
                    y1={MARGIN.top}
                    y2={HEIGHT + HAND - 4}
                    stroke={ink("rule")}
                    strokeOpacity={0.5}
                  />
                  {geometry.months.length <= 14 && (
                    <text x={geometry.x(index) + 2} y={HEIGHT - 6}>
                      {day.slice(5, 7)}
                    </text>
                  )}
                </g>
              ))}
              <text x={MARGIN.left - 6} y={MARGIN.top + 10} textAnchor="end">
                {litres(season.capacity_l)}
              </text>
              <text x={MARGIN.left - 6} y={geometry.foot} textAnchor="end">
                0
              </text>
              <text x={MARGIN.left - 6} y={HEIGHT + hand.y(wantedDays) + 4} textAnchor="end">
                {quantityText({ value: wantedDays, unit: "d" }, system)}
              </text>
            </g>
            <path d={geometry.storeArea} fill={ink("water")} fillOpacity={0.45} />
            <path
              d={geometry.storeLine}
              fill="none"
              stroke={ink("deep")}
              strokeWidth={1.5}
              data-testid="season-store"
            />
            {geometry.bad.map((index) => (
              <rect
                key={index}
                data-testid="bad-day"
                x={geometry.x(index)}
                width={Math.max(1.5, geometry.x(index + 1) - geometry.x(index))}
                y={MARGIN.top - 8}
                height={8}
                fill={ink("short")}
              />
            ))}
            <path d={geometry.inLine} fill="none" stroke={ink("some")} strokeWidth={1} />
            <path d={geometry.demandLine} fill="none" stroke={ink("ink")} strokeWidth={1.6} />
            <g transform={`translate(0,${HEIGHT})`}>
              <path d={hand.band} fill={ink("pipe")} fillOpacity={0.7} />
              <line
                x1={MARGIN.left}
                x2={size.width - MARGIN.right}
                y1={hand.y(wantedDays)}
                y2={hand.y(wantedDays)}
                stroke={ink("ink")}
                strokeWidth={1}
              />
            </g>
            {pointed !== null && (
              <line
                x1={geometry.x(pointed + 0.5)}
                x2={geometry.x(pointed + 0.5)}
                y1={MARGIN.top}
                y2={HEIGHT + HAND - 4}
                stroke={ink("ink")}
              />
            )}
          </svg>
        )}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, fontSize: 12, color: ink("ink"), mt: 1 }}>
        <Key colour="water" text="in store" />
        <Key colour="some" text={`in, a day; the top is ${daily(geometry.most)}`} line />
        <Key colour="ink" text="needed, a day, on the same scale" line />
        <Key colour="short" text="not enough" />
        <Key colour="pipe" text="days with no refill, with the target" />
      </Box>
      <Box component="p" data-testid="day-told" sx={{ fontSize: 13, m: 0, mt: 1, minHeight: 36 }}>
        {told}
      </Box>
      <PictureTable
        title={series.days_each === 1 ? "The season" : `The season, ${series.days_each} days a row,`}
        head={["From", "In", "Needed", "Lacking", "Spilled", "In store", "In hand"]}
        rows={series.days.map((day, index) => [
          day,
          litres((geometry.inflow[index] ?? 0) * series.days_each),
          litres((geometry.demand[index] ?? 0) * series.days_each),
          litres(series.unmet_l[index] ?? 0),
          litres(series.spilled_l[index] ?? 0),
          litres(series.store_l[index] ?? 0),
          quantityText({ value: series.days_in_hand[index] ?? 0, unit: "d" }, system),
        ])}
      />
    </Box>
  );
}

function Key({
  colour,
  text,
  line = false,
}: {
  colour: "water" | "some" | "ink" | "short" | "pipe";
  text: string;
  line?: boolean;
}) {
  return (
    <span>
      <span
        style={{
          display: "inline-block",
          width: 14,
          height: line ? 2 : 9,
          background: ink(colour),
          marginRight: 5,
          verticalAlign: line ? "middle" : "baseline",
        }}
      />
      {text}
    </span>
  );
}
