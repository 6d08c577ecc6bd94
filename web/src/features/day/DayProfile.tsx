import Box from "@mui/material/Box";

import type { DayRun, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { BareChoice } from "../../shared/BareChoice";
import { troughName } from "../../shared/names";
import type { ShownRoute } from "../../shared/route";
import { useSize } from "../../shared/useSize";
import { gradeAt } from "./grade";
import { clockText } from "./model";

interface Props {
  document: Design;
  routes: ShownRoute[];
  run: DayRun;
  route: string | null;
  onRoute: (key: string) => void;
  atS: number;
}

const EDGE = { left: 12, right: 12, top: 34, bottom: 12 };
const UNDER_M = 0.05;

/** Ground, pipe and pressure line on the way to one outlet, at a time of a run. */
export function DayProfile({ document, routes, run, route, onRoute, atS }: Props) {
  const [box, size] = useSize<HTMLDivElement>();
  const shown = routes.find((one) => one.key === route) ?? routes[0];
  const grade = shown ? gradeAt(document, shown, run, atS) : [];
  const section = shown?.section ?? [];
  const heights = [
    ...section.flatMap((point) => [point.ground_m, point.pipe_m]),
    ...grade.map(([, head]) => head),
  ];
  const [low, high] = [Math.min(...heights), Math.max(...heights, Math.min(...heights) + 1)];
  const x = (at: number) =>
    EDGE.left + ((size.width - EDGE.left - EDGE.right) * at) / Math.max(shown?.length_m ?? 1, 1e-6);
  const y = (height: number) =>
    EDGE.top + ((size.height - EDGE.top - EDGE.bottom) * (high - height)) / (high - low || 1);
  const path = (points: readonly (readonly [number, number])[]) =>
    points
      .map(([at, height], index) => `${index ? "L" : "M"}${x(at).toFixed(1)} ${y(height).toFixed(1)}`)
      .join("");
  const ground = section.map((point) => [point.at_m, point.ground_m] as const);
  const under = section.some((point) => {
    const head = headAlong(grade, point.at_m);
    return head !== null && head < point.pipe_m - UNDER_M && point.at_m > 0;
  });
  return (
    <Box
      ref={box}
      sx={{ height: "100%", border: `1px solid ${ink("rule")}`, position: "relative", minWidth: 0 }}
    >
      <Box sx={{ position: "absolute", left: 10, top: 4, fontSize: 12, display: "flex", gap: 2, zIndex: 1 }}>
        Profile to
        <BareChoice
          name="Profile to"
          value={shown?.key ?? ""}
          options={routes
            .filter((one) => one.outlet)
            .map((one) => ({ value: one.key, text: troughName(document, one.key) }))}
          onChange={onRoute}
        />
        at {clockText(atS)}
      </Box>
      {size.width > 0 && shown && (
        <svg
          width={size.width}
          height={size.height}
          style={{ display: "block" }}
          role="img"
          aria-label={`Profile to ${troughName(document, shown.key)} at ${clockText(atS)}${under ? ": the pressure line falls below the pipe" : ""}`}
          data-testid="day-profile"
        >
          {section.length > 1 && (
            <path
              d={`${path(ground)}L${x(shown.length_m)} ${size.height - 2}L${x(0)} ${size.height - 2}Z`}
              fill={ink("ground")}
              stroke={ink("groundEdge")}
            />
          )}
          <path
            d={path(section.map((point) => [point.at_m, point.pipe_m] as const))}
            fill="none"
            stroke={ink("pipe")}
            strokeWidth={2}
            strokeDasharray="2 3"
          />
          <path
            d={path(grade)}
            fill="none"
            stroke={ink(under ? "short" : "deep")}
            strokeWidth={2.4}
            data-grade
          />
          {under && (
            <text x={size.width - 14} y={EDGE.top - 4} fontSize={12} textAnchor="end" fill={ink("short")}>
              suction: draws air in
            </text>
          )}
        </svg>
      )}
    </Box>
  );
}

function headAlong(grade: readonly (readonly [number, number])[], at: number): number | null {
  for (let index = 1; index < grade.length; index++) {
    const [[a, before], [b, after]] = [grade[index - 1] ?? [0, 0], grade[index] ?? [0, 0]];
    if (at >= a && at <= b) return b > a ? before + ((after - before) * (at - a)) / (b - a) : before;
  }
  return null;
}
