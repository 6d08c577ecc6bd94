import Box from "@mui/material/Box";

import type { SeasonRun } from "../../api/types";
import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { curveGeometry, MARGIN } from "./season";

const HEIGHT = 170;

/** How many days stores of other sizes would meet, with the present store on the curve. */
export function CurvePicture({ season }: { season: SeasonRun }) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const geometry = curveGeometry(season, { width: size.width, height: HEIGHT });
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const percent = (share: number, digits = 1) => `${figure(100 * share, digits)} %`;
  return (
    <Box sx={{ minWidth: 0 }}>
      <Box ref={box} sx={{ height: HEIGHT }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT}
            role="img"
            aria-label={`The store of ${litres(season.capacity_l)} meets ${percent(season.cautious.days_share)} of days.`}
            style={{ display: "block" }}
          >
            <g fontSize={11} fill={ink("faint")}>
              {geometry.shareTicks.map((share) => (
                <g key={share}>
                  <line
                    x1={MARGIN.left}
                    x2={size.width - MARGIN.right}
                    y1={geometry.y(share)}
                    y2={geometry.y(share)}
                    stroke={ink("rule")}
                  />
                  <text x={MARGIN.left - 6} y={geometry.y(share) + 4} textAnchor="end">
                    {percent(share, 0)}
                  </text>
                </g>
              ))}
              {geometry.sizeTicks.map((litre) => (
                <text key={litre} x={geometry.x(litre)} y={HEIGHT - 4} textAnchor="middle">
                  {litres(litre)}
                </text>
              ))}
            </g>
            <path d={geometry.line} fill="none" stroke={ink("deep")} strokeWidth={2} />
            <circle
              cx={geometry.own.x}
              cy={geometry.own.y}
              r={5}
              fill={ink("little")}
              stroke={ink("paper")}
              strokeWidth={1.5}
            />
            <text
              x={geometry.own.x + 9}
              y={geometry.own.y + 16}
              fontSize={11}
              fill={ink("ink")}
              stroke={ink("paper")}
              strokeWidth={3}
              paintOrder="stroke"
            >
              your store
            </text>
          </svg>
        )}
      </Box>
      <PictureTable
        title="Sizes of store"
        head={["Store", "Days met"]}
        rows={season.curve.store_l.map((store, index) => [
          litres(store),
          percent(season.curve.days_share[index] ?? 0),
        ])}
      />
    </Box>
  );
}
