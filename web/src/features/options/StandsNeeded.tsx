import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";

import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import type { Siting } from "./siting";

const HEIGHT = 200;
const MARGIN = { left: 56, right: 24, top: 16, bottom: 38 };

/** The least stand of a tank where it stands, over how much of every wanted flow it is to give. */
export function StandsNeeded({ siting }: { siting: Siting }) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const known = siting.stands.flatMap(({ share, stand_m: stand }) =>
    stand === null ? [] : [{ share, stand }],
  );
  const metres = (value: number) => quantityText({ value, unit: "m", digits: 2 }, system);
  const last = siting.stands.at(-1);
  const first = siting.stands[0];
  if (!first || !last) return null;
  const x = scaleLinear([first.share, last.share], [MARGIN.left, size.width - MARGIN.right]);
  const y = scaleLinear(
    [Math.min(0, ...known.map(({ stand }) => stand)), Math.max(1, ...known.map(({ stand }) => stand))],
    [HEIGHT - MARGIN.bottom, MARGIN.top],
  );
  const beyond = siting.stands.find(({ stand_m: stand }) => stand === null);
  return (
    <Box sx={{ mt: 4, maxWidth: 760 }} data-testid="stands-needed">
      <Typography variant="h2">The stand that {siting.name} needs where it is</Typography>
      <Box ref={box} sx={{ height: HEIGHT }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT}
            role="img"
            aria-label={`Stand over the share of wanted flows`}
            style={{ display: "block" }}
          >
            <g fontSize={11} fill={ink("faint")}>
              {y.ticks(4).map((tick) => (
                <g key={tick}>
                  <line
                    x1={MARGIN.left}
                    x2={size.width - MARGIN.right}
                    y1={y(tick)}
                    y2={y(tick)}
                    stroke={ink("rule")}
                  />
                  <text x={MARGIN.left - 6} y={y(tick) + 4} textAnchor="end">
                    {metres(tick)}
                  </text>
                </g>
              ))}
              {siting.stands.map(({ share }) => (
                <text key={share} x={x(share)} y={HEIGHT - MARGIN.bottom + 15} textAnchor="middle">
                  {Math.round(100 * share)} %
                </text>
              ))}
              <text x={(MARGIN.left + size.width) / 2} y={HEIGHT - 2} textAnchor="middle">
                of every flow that is wanted of it
              </text>
            </g>
            <polyline
              points={known.map(({ share, stand }) => `${x(share)},${y(stand)}`).join(" ")}
              fill="none"
              stroke={ink("deep")}
              strokeWidth={2}
            />
            {known.map(({ share, stand }) => (
              <circle key={share} cx={x(share)} cy={y(stand)} r={4} fill={ink("deep")} />
            ))}
          </svg>
        )}
      </Box>
      {beyond && (
        <Typography sx={{ fontSize: 13 }}>
          For {Math.round(100 * beyond.share)} % and more no stand up to {metres(10)} is high enough with
          these pipes.
        </Typography>
      )}
      <PictureTable
        title="Stand needed"
        head={["of every flow that is wanted", "Least stand"]}
        rows={siting.stands.map(({ share, stand_m: stand }) => [
          `${Math.round(100 * share)} %`,
          stand === null ? `over ${metres(10)}` : metres(stand),
        ])}
      />
    </Box>
  );
}
