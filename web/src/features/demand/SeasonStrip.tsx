import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design, Season } from "../../api/types";
import { ink } from "../../app/theme";
import { troughName } from "../../shared/names";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { spellsOf } from "./model";

interface Props {
  document: Design;
  season: Season;
  day: string | null;
  onDay: (day: string) => void;
}

const ROW = 24;
const HEAD = 18;
const NARROW = 520;

/** The grazing calendar: a row for each trough, filled where animals drink there, as high as their demand. */
export function SeasonStrip({ document, season, day, onDay }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const count = season.days.length;
  const rows = Object.entries(season.asked_lpd);
  if (!count || !rows.length) return null;
  const most = Math.max(...rows.flatMap(([, litres]) => litres));
  const narrow = size.width < NARROW;
  const [names, right] = narrow ? [88, 4] : [104, 92];
  const wide = Math.max(1, size.width - names - right);
  const x = (index: number) => names + (wide * index) / count;
  const height = HEAD + rows.length * ROW + 4;
  const shown = day ? season.days.indexOf(day) : -1;
  return (
    <Box component="section" aria-label="Season" sx={{ mb: 4 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        The season: who drinks where
      </Typography>
      <Box ref={box} sx={{ height }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={height}
            style={{ display: "block", cursor: "pointer" }}
            role="img"
            aria-label={rows
              .map(
                ([outlet, litres]) =>
                  `${troughName(document, outlet)}: ${litres.filter((one) => one > 0).length} of ${count} days, at most ${quantityText({ value: Math.max(...litres), unit: "L/d" }, system)}.`,
              )
              .join(" ")}
            onClick={(event) => {
              const at = event.clientX - event.currentTarget.getBoundingClientRect().left;
              const picked = season.days[Math.floor(((at - names) / wide) * count)];
              if (picked) onDay(picked);
            }}
          >
            {season.days.map((one, index) =>
              one.endsWith("-01") || index === 0 ? (
                <g key={one} fontSize={11} fill={ink("faint")}>
                  <line x1={x(index)} x2={x(index)} y1={HEAD - 4} y2={height} stroke={ink("rule")} />
                  {(shown < 0 || Math.abs(x(index) - x(shown)) > 40) && (index > 0 || !narrow) && (
                    <text x={x(index) + 3} y={HEAD - 6}>
                      {narrow ? one.slice(5, 7) : one.slice(5)}
                    </text>
                  )}
                </g>
              ) : null,
            )}
            {rows.map(([outlet, litres], row) => {
              const top = HEAD + row * ROW;
              return (
                <g key={outlet}>
                  <text x={0} y={top + 16} fontSize={12} fill={ink("ink")}>
                    {troughName(document, outlet)}
                  </text>
                  {spellsOf(litres).map(({ from, to, value }) => {
                    const high = Math.max(3, (ROW - 6) * (value / most));
                    return (
                      <rect
                        key={from}
                        x={x(from)}
                        width={Math.max(1, x(to) - x(from) - 0.5)}
                        y={top + ROW - 3 - high}
                        height={high}
                        fill={ink("deep")}
                      />
                    );
                  })}
                  {!narrow && (
                    <text x={size.width} y={top + 16} fontSize={11} textAnchor="end" fill={ink("faint")}>
                      {quantityText({ value: Math.max(...litres), unit: "L/d" }, system)}
                    </text>
                  )}
                </g>
              );
            })}
            {shown >= 0 && (
              <g>
                <line
                  x1={x(shown + 0.5)}
                  x2={x(shown + 0.5)}
                  y1={HEAD - 2}
                  y2={height}
                  stroke={ink("ink")}
                  strokeWidth={2}
                  data-testid="season-day"
                />
                <text
                  x={x(shown + 0.5)}
                  y={10}
                  fontSize={11}
                  fontWeight={700}
                  textAnchor="middle"
                  fill={ink("ink")}
                >
                  {day?.slice(5)}
                </text>
              </g>
            )}
          </svg>
        )}
      </Box>
      <Typography variant="caption" color="text.secondary">
        Bars: demand at each trough, as if every day were as hot as this case. Click a day to show it.
      </Typography>
      <PictureTable
        title="The season"
        head={["Trough", "From", "Last day", "Demand"]}
        rows={rows.flatMap(([outlet, litres]) =>
          spellsOf(litres).map(({ from, to, value }) => [
            troughName(document, outlet),
            season.days[from] ?? "",
            season.days[to - 1] ?? "",
            quantityText({ value, unit: "L/d" }, system),
          ]),
        )}
      />
    </Box>
  );
}
