import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design } from "../../api/types";
import { ink, type InkName } from "../../app/theme";
import { fitScale } from "../../shared/fit";
import { usePreferences } from "../../shared/preferences";
import { useSize } from "../../shared/useSize";
import { MEASURES, quarterOf, type Measure, type Position, type Siting } from "./siting";

const HEIGHT = 380;
const EDGE = { left: 24, right: 24, top: 20, bottom: 20 };
const QUARTERS: InkName[] = ["enough", "some", "little", "short"];

interface Props {
  siting: Siting;
  document: Design;
  by: Exclude<Measure, "best">;
  chosen: Position | undefined;
  onChoose: (one: Position) => void;
}

type Spot = [number, number];

/** Lines, paddocks and the positions that were tried, coloured by what they are compared by. */
export function SitingMap({ siting, document, by, chosen, onChoose }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const places = new Map(document.places.map((place) => [place.id, [place.east_m, place.north_m] as Spot]));
  const stands = [...(document.vessels ?? []), ...(document.outlets ?? [])];
  const at = (node: string): Spot | undefined =>
    places.get(stands.find((one) => one.id === node)?.place ?? node);
  const ways = (document.lines ?? []).flatMap((line) => {
    const [start, end] = [at(line.from), at(line.to)];
    return start && end ? [{ id: line.id, spots: [start, ...((line.way ?? []) as Spot[]), end] }] : [];
  });
  const fences = (document.paddocks ?? []).filter((one) => (one.corners ?? []).length > 2);
  const positions = siting.positions;
  const near = around(positions);
  const scale = fitScale(near, { width: size.width, height: HEIGHT }, EDGE);
  const point = ([east, north]: Spot) => `${scale.x(east)},${scale.y(north)}`;
  const { text } = MEASURES[by];
  return (
    <>
      <Box ref={box} sx={{ height: HEIGHT, border: `1px solid ${ink("rule")}`, bgcolor: ink("land") }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT}
            role="group"
            aria-label={`Where ${siting.name} could stand, by ${MEASURES[by].name.toLowerCase()}`}
            style={{ display: "block" }}
          >
            {fences.map((one) => (
              <g key={one.id}>
                <polygon
                  points={((one.corners ?? []) as Spot[]).map(point).join(" ")}
                  fill="none"
                  stroke={ink("groundEdge")}
                  strokeDasharray="6 4"
                />
                <text
                  x={scale.x(middle((one.corners ?? []) as Spot[])[0])}
                  y={scale.y(middle((one.corners ?? []) as Spot[])[1])}
                  textAnchor="middle"
                  fontSize={12}
                  fill={ink("groundEdge")}
                >
                  {one.name ?? one.id}
                </text>
              </g>
            ))}
            {ways.map((way) => (
              <polyline
                key={way.id}
                points={way.spots.map(point).join(" ")}
                fill="none"
                stroke={ink("pipe")}
                strokeWidth={2.5}
              />
            ))}
            <g stroke={ink("ink")} strokeWidth={2}>
              <path d={cross(scale.x(siting.at[0] ?? 0), scale.y(siting.at[1] ?? 0))} />
            </g>
            {positions.map((one) => {
              const quarter = quarterOf(one, positions, by);
              const color = quarter === null ? ink("faint") : ink(QUARTERS[quarter] ?? "faint");
              return (
                <circle
                  key={`${one.east_m} ${one.north_m}`}
                  cx={scale.x(one.east_m)}
                  cy={scale.y(one.north_m)}
                  r={one === chosen ? 9 : 6}
                  fill={one.works ? color : ink("paper")}
                  stroke={one === chosen ? ink("ink") : color}
                  strokeWidth={one === chosen ? 3 : 2}
                  onClick={() => onChoose(one)}
                  style={{ cursor: "pointer" }}
                >
                  <title>{text(one, siting.currency, system)}</title>
                </circle>
              );
            })}
          </svg>
        )}
      </Box>
      <Typography
        component="div"
        sx={{ fontSize: 12, color: ink("faint"), display: "flex", gap: 4, flexWrap: "wrap" }}
      >
        <span>{MEASURES[by].name}, from the best to the worst quarter:</span>
        {QUARTERS.map((color, number) => (
          <span key={color}>
            <svg width={12} height={12} aria-hidden style={{ verticalAlign: "-1px" }}>
              <circle cx={6} cy={6} r={5} fill={ink(color)} />
            </svg>{" "}
            {number + 1}
          </span>
        ))}
        <span>hollow: something is amiss there</span>
        <span>cross: where it stands</span>
      </Typography>
    </>
  );
}

/** The corners of what is looked at, with room around it. */
function around(positions: Position[]): Spot[] {
  const east = positions.map((one) => one.east_m);
  const north = positions.map((one) => one.north_m);
  const room =
    0.08 * Math.max(Math.max(...east) - Math.min(...east), Math.max(...north) - Math.min(...north), 20);
  return [
    [Math.min(...east) - room, Math.min(...north) - room],
    [Math.max(...east) + room, Math.max(...north) + room],
  ];
}

const middle = (spots: Spot[]): Spot => [
  spots.reduce((sum, [east]) => sum + east, 0) / spots.length,
  spots.reduce((sum, [, north]) => sum + north, 0) / spots.length,
];

const cross = (x: number, y: number): string => `M${x - 7},${y}h14M${x},${y - 7}v14`;
