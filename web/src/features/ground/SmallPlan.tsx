import Box from "@mui/material/Box";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { fitScale } from "../../shared/fit";
import { useSize } from "../../shared/useSize";
import { pathOf, wayOf, type Spot } from "../../shared/way";

interface Props {
  before: Design;
  after: Design;
  /** the tracks of the file, east and north */
  tracks: readonly (readonly (readonly number[])[])[];
  /** the line whose profile is looked at */
  line?: string | undefined;
}

const HEIGHT = 220;

/** The plan as it would be: what is there already faint, what is new or moved named. */
export function SmallPlan({ before, after, tracks, line }: Props) {
  const [box, size] = useSize<HTMLDivElement>();
  const known = new Set(before.places.map((place) => place.id));
  const corners = (after.paddocks ?? []).flatMap((paddock) => paddock.corners ?? []);
  const spots = [
    ...after.places.map((place) => [place.east_m, place.north_m] as const),
    ...[...corners, ...tracks.flat()].map(([x = 0, y = 0]) => [x, y] as const),
  ];
  const scale = fitScale(
    spots,
    { width: size.width, height: HEIGHT },
    { left: 24, right: 90, top: 20, bottom: 20 },
  );
  const fresh = after.places.filter((place) => !known.has(place.id));
  const shown = ([x = 0, y = 0]: readonly number[]): Spot => [scale.x(x), scale.y(y)];
  return (
    <Box ref={box} sx={{ minWidth: 0, bgcolor: ink("land"), border: `1px solid ${ink("rule")}` }}>
      {size.width > 0 && (
        <svg
          width={size.width}
          height={HEIGHT}
          role="img"
          aria-label={`The plan with ${fresh.length} new places: ${fresh.map((place) => place.name ?? place.id).join(", ")}`}
          style={{ display: "block" }}
        >
          {(after.paddocks ?? []).map((paddock) => (
            <polygon
              key={paddock.id}
              points={(paddock.corners ?? [])
                .map(([x = 0, y = 0]) => `${scale.x(x)},${scale.y(y)}`)
                .join(" ")}
              fill={ink("ground")}
              fillOpacity={0.4}
              stroke={ink("groundEdge")}
            />
          ))}
          {tracks.map((track, index) => (
            <path
              key={index}
              d={pathOf(track.map(shown))}
              fill="none"
              stroke={ink("short")}
              strokeWidth={1.5}
              strokeDasharray="2 4"
              data-testid="import-track"
            />
          ))}
          {(after.lines ?? []).map((one) => (
            <path
              key={one.id}
              d={pathOf(wayOf(after, one).map(shown))}
              fill="none"
              stroke={ink(one.id === line ? "deep" : "faint")}
              strokeWidth={one.id === line ? 3 : 1}
            />
          ))}
          {after.places.map((place) => (
            <g key={place.id}>
              <circle
                cx={scale.x(place.east_m)}
                cy={scale.y(place.north_m)}
                r={known.has(place.id) ? 3 : 5}
                fill={ink(known.has(place.id) ? "faint" : "deep")}
              />
              {!known.has(place.id) && fresh.length <= 12 && (
                <text
                  x={scale.x(place.east_m) + 8}
                  y={scale.y(place.north_m) + 4}
                  fontSize={12}
                  fontWeight={700}
                  fill={ink("ink")}
                >
                  {place.name ?? place.id}
                </text>
              )}
            </g>
          ))}
        </svg>
      )}
    </Box>
  );
}
