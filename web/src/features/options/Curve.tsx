import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";
import { useState } from "react";

import type { Job, SizedPlan } from "../../api/types";
import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { saidText } from "../../shared/saidText";
import { figure } from "../../shared/units";
import { useSize } from "../../shared/useSize";

const HEIGHT = 230;
const MARGIN = { left: 64, right: 24, top: 18, bottom: 38 };

interface Props {
  curve: NonNullable<Job["curve"]>;
  onTake: (plan: SizedPlan, called: string) => void;
}

const percent = (share: number) => `${figure(100 * share, 0)} %`;

/** The cheapest plans from little flow to the most there can be; each can be looked at and kept as an option. */
export function Curve({ curve, onTake }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const { points } = curve;
  const [chosen, setChosen] = useState<number | null>(null);
  const one = points[chosen ?? points.findIndex((point) => point.share >= 1)] ?? points.at(-1);
  if (!one) return <Typography>Nothing fits even for half of the flow.</Typography>;
  const costs = points.map((point) => point.plan.cost);
  const shares = points.map((point) => point.share);
  const x = scaleLinear(
    [Math.min(...shares), Math.max(...shares, 1)],
    [MARGIN.left, size.width - MARGIN.right],
  );
  const y = scaleLinear([0, Math.max(...costs, 1) * 1.08], [HEIGHT - MARGIN.bottom, MARGIN.top]);
  const currency = one.plan.currency;
  return (
    <Box data-testid="curve">
      <Box ref={box} sx={{ height: HEIGHT, maxWidth: 760 }}>
        {size.width > 0 && (
          <svg
            width={size.width}
            height={HEIGHT}
            role="group"
            aria-label="Cost of the cheapest plan over the flow that is required"
            style={{ display: "block" }}
          >
            <g fontSize={11} fill={ink("faint")}>
              {y.ticks(4).map((cost) => (
                <g key={cost}>
                  <line
                    x1={MARGIN.left}
                    x2={size.width - MARGIN.right}
                    y1={y(cost)}
                    y2={y(cost)}
                    stroke={ink("rule")}
                  />
                  <text x={MARGIN.left - 6} y={y(cost) + 4} textAnchor="end">
                    {priceText(cost, currency).replace("nothing to buy", "0")}
                  </text>
                </g>
              ))}
              <text x={(MARGIN.left + size.width) / 2} y={HEIGHT - 1} textAnchor="middle">
                of every flow that is required
              </text>
            </g>
            <polyline
              points={points.map((point) => `${x(point.share)},${y(point.plan.cost)}`).join(" ")}
              fill="none"
              stroke={ink("deep")}
              strokeWidth={1.5}
              strokeDasharray="2 4"
            />
            {points.map((point, index) => (
              <g
                key={point.share}
                role="button"
                tabIndex={0}
                aria-pressed={point === one}
                aria-label={`${percent(point.share)} of the flow for ${priceText(point.plan.cost, currency)}`}
                onClick={() => setChosen(index)}
                onKeyDown={(event) => {
                  if (event.key === "Enter" || event.key === " ") {
                    event.preventDefault();
                    setChosen(index);
                  }
                }}
                style={{ cursor: "pointer" }}
              >
                <circle cx={x(point.share)} cy={y(point.plan.cost)} r={16} fill="transparent" />
                <circle
                  cx={x(point.share)}
                  cy={y(point.plan.cost)}
                  r={point === one ? 8 : 5}
                  fill={point.plan.proven_gap === 0 ? ink("deep") : ink("paper")}
                  stroke={ink("deep")}
                  strokeWidth={2}
                />
                <text
                  x={x(point.share)}
                  y={HEIGHT - MARGIN.bottom + 17}
                  textAnchor="middle"
                  fontSize={11}
                  fill={ink("ink")}
                >
                  {percent(point.share)}
                </text>
              </g>
            ))}
          </svg>
        )}
      </Box>
      <Typography sx={{ fontSize: 13, color: ink("faint") }}>
        Full dots are proven to be the cheapest; hollow ones are the best that was found.
      </Typography>
      <Typography component="p" data-testid="curve-told" sx={{ my: 1 }}>
        {percent(one.share)} of every flow for <strong>{priceText(one.plan.cost, currency)}</strong>:{" "}
        {one.plan.rows
          .filter((row) => row.changed)
          .map((row) => `${row.name} ${saidText(row.then, system)}`)
          .join(", ") || "as the plan is"}
        .
      </Typography>
      <Button variant="outlined" onClick={() => onTake(one.plan, `${percent(one.share)} of the flow`)}>
        Keep this one as an option
      </Button>
      {curve.ends && (
        <Typography sx={{ my: 1, fontSize: 13 }}>For more, nothing fits: {curve.ends}.</Typography>
      )}
      <Surely curve={curve} onTake={onTake} />
      <PictureTable
        title="Cost over flow"
        head={["Of every flow", "Cost", "Cheaper by at most"]}
        rows={points.map((point) => [
          percent(point.share),
          priceText(point.plan.cost, currency),
          point.plan.proven_gap === 0 ? "proven" : percent(point.plan.proven_gap),
        ])}
      />
    </Box>
  );
}

/** What it costs to be sure of every flow, and so what measuring better may save. */
function Surely({ curve, onTake }: Props) {
  const { surely, surely_not: not } = curve;
  const likely = curve.points.find((point) => point.share >= 1)?.plan;
  if (not)
    return (
      <Typography sx={{ my: 2 }} data-testid="surely-told">
        <strong>To be sure of every flow:</strong> {not}. Measuring heights better makes the range smaller.
      </Typography>
    );
  if (!surely) return null;
  const more = likely ? surely.cost - likely.cost : 0;
  return (
    <Box sx={{ my: 2 }}>
      <Typography data-testid="surely-told">
        <strong>To be sure of every flow</strong>, also at the worse end of what heights and bores leave:{" "}
        {priceText(surely.cost, surely.currency)}
        {more > 0
          ? `, ${priceText(more, surely.currency)} more. That much a better survey may save: Ground says what to measure next.`
          : ", no more than without."}
      </Typography>
      <Button variant="outlined" onClick={() => onTake(surely, "surely")} sx={{ my: 1 }}>
        Keep the sure one as an option
      </Button>
    </Box>
  );
}
