import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import Box from "@mui/material/Box";

import type { Profile } from "../../api/types";
import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { roundMetres, tickDigits } from "../../shared/ticks";
import { figure, shownUnit, toShown } from "../../shared/units";
import { useSize } from "../../shared/useSize";

interface Props {
  profile: Profile;
  name: string;
}

const HEIGHT = 180;
const EDGE = { left: 56, right: 14, top: 12, bottom: 24 };

/** A line's ground as it would be: the heights with their error as a band, the points kept, and those it had. */
export function ProfilePicture({ profile, name }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const { shown, points, before, error_m: error } = profile;
  const heights = [...shown, ...points, ...before].map((pair) => pair[1]);
  const [low = 0, high = 1] = extent([
    ...heights.map((one) => one - error),
    ...heights.map((one) => one + error),
  ]);
  const x = scaleLinear([0, profile.pipe_m], [EDGE.left, Math.max(EDGE.left + 40, size.width - EDGE.right)]);
  const y = scaleLinear([low, high], [HEIGHT - EDGE.bottom, EDGE.top]);
  const path = (pairs: [number, number][], raise = 0) =>
    pairs.map(([at, ground], index) => `${index ? "L" : "M"}${x(at)},${y(ground + raise)}`).join("");
  const band = `${path(shown, error)}${[...shown]
    .reverse()
    .map(([at, ground]) => `L${x(at)},${y(ground - error)}`)
    .join("")}Z`;
  const text = (metres: number, digits = 0) => figure(toShown(metres, "m", system), digits);
  const unit = shownUnit("m", system);
  const marks = roundMetres(low, high, 4, system);
  const distances = roundMetres(0, profile.pipe_m, 5, system);
  return (
    <Box sx={{ my: 2 }}>
      <Box ref={box} sx={{ minWidth: 0, bgcolor: ink("sheet"), border: `1px solid ${ink("rule")}` }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT}
            role="img"
            aria-label={`${name}: ${points.length} points from ${text(points[0]?.[1] ?? 0, 1)} to ${text(points.at(-1)?.[1] ?? 0, 1)} ${unit}, with ${profile.extremes} high and low points`}
            style={{ display: "block" }}
            data-testid="profile-picture"
          >
            {marks.map((tick) => (
              <g key={tick} fontSize={11} fill={ink("faint")}>
                <line
                  x1={EDGE.left}
                  x2={size.width - EDGE.right}
                  y1={y(tick)}
                  y2={y(tick)}
                  stroke={ink("rule")}
                  strokeOpacity={0.6}
                />
                <text x={EDGE.left - 6} y={y(tick) + 4} textAnchor="end">
                  {text(tick, tickDigits(marks, system))}
                </text>
              </g>
            ))}
            {distances.map((tick) => (
              <text
                key={tick}
                x={x(tick)}
                y={HEIGHT - 8}
                fontSize={11}
                fill={ink("faint")}
                textAnchor="middle"
              >
                {text(tick, tickDigits(distances, system))}
              </text>
            ))}
            <text x={4} y={HEIGHT - 8} fontSize={11} fill={ink("faint")}>
              {unit}
            </text>
            <path d={band} fill={ink("ground")} fillOpacity={0.55} />
            {before.length > 0 && (
              <path
                d={path(before)}
                fill="none"
                stroke={ink("ink")}
                strokeDasharray="4 3"
                data-testid="profile-before"
              />
            )}
            <path d={path(points)} fill="none" stroke={ink("groundEdge")} strokeWidth={2} />
            {points.map(([at, ground]) => (
              <circle
                key={at}
                cx={x(at)}
                cy={y(ground)}
                r={3}
                fill={ink("paper")}
                stroke={ink("groundEdge")}
                strokeWidth={1.5}
              />
            ))}
          </svg>
        )}
      </Box>
      <Box sx={{ fontSize: 12, color: ink("faint") }}>
        ○ points kept · shaded: known to ± {text(error, 1)} {unit}
        {before.length > 0 && " · dashed: as it was"}
      </Box>
      <PictureTable
        title="Points kept"
        head={["Along the pipe", "Ground"]}
        rows={points.map(([at, ground]) => [`${text(at, 1)} ${unit}`, `${text(ground, 2)} ${unit}`])}
      />
    </Box>
  );
}
